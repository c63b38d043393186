"""The settings of a map as controls: which word of the map language is set where, and how.

What a word is, its values and its default come from the schema; here stands only in which group one looks for it.
"""

from __future__ import annotations

import copy
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass, replace
from typing import Any, NamedTuple

from basilica.core.edits.commands.set_settings import Setting
from basilica.core.edits.map_data import page_in, value_in
from basilica.core.language.sections import MAP
from basilica.core.language.sections.breadcrumbs_words import BREADCRUMBS
from basilica.core.language.sections.checks_words import CHECKS
from basilica.core.language.sections.head_words import COUNTER, HEAD, SOCIAL
from basilica.core.language.sections.inlay_words import INLAY, MARKUP
from basilica.core.language.sections.menu_words import MENU
from basilica.core.language.sections.page_end_words import PAGE_END
from basilica.core.language.sections.page_words import PAGE, TABLE
from basilica.core.language.sections.part_words import IDENTITY, KINDS, PART
from basilica.core.language.sections.phrases_words import PHRASE_WORDS
from basilica.core.language.sections.site_words import SITE
from basilica.core.language.sections.theme_words import THEME
from basilica.core.language.word import Word
from basilica.core.plan import Plan


@dataclass(frozen=True, slots=True)
class Control:
    """A word that can be set: under which ``path`` of keys, by which ``kind`` of control (``text``, ``long``,
    ``number``, ``colour``, ``choice``, ``several``, ``lines``, ``pairs``), and what the map says there now."""

    path: tuple[str, ...]
    word: Word
    kind: str
    now: Any = None
    holds: str = ""
    """What is so where nothing is set."""

    @property
    def name(self) -> str:
        """What the control is called in a form."""
        return ".".join(self.path)

    @property
    def title(self) -> str:
        """What the control is called on the screen."""
        return self.word.control_title

    @property
    def hint(self) -> str:
        """What the word is for."""
        return self.word.hint(IDENTITY if self.path[0] == "parts" else "")

    @property
    def lines(self) -> list[str]:
        """The values that it has now, each by itself."""
        several = self.now if isinstance(self.now, list) else [self.now]
        return [_line(each) for each in several if each is not None]

    @property
    def text(self) -> str:
        """The value that it has now, as one text."""
        return "\n".join(self.lines)

    @property
    def rows(self) -> list[tuple[str, str]]:
        """Names and values, for pairs."""
        return [(name, value or "") for name, value in self.now.items()] if isinstance(self.now, dict) else []

    @property
    def can_be_set(self) -> bool:
        """Whether what is written in the map is of the shape that the control has."""
        if self.kind == "pairs":
            return self.now is None or (
                isinstance(self.now, dict) and not any(isinstance(value, dict | list) for value in self.now.values())
            )
        held = self.now if isinstance(self.now, list) else ()
        return not isinstance(self.now, dict) and all(_is_level(one) for one in held if isinstance(one, dict | list))

    def opened(self, seen: Mapping[str, Any]) -> Control:
        """The control as it was when a form was opened that had ``seen`` values by name; as it is now for a form that
        does not say."""
        return replace(self, now=seen.get(self.name, self.now))

    def text_at(self, path: tuple[str, ...]) -> str:
        """The value at a path of a setting, as one text: that of a pair, or of the whole."""
        return dict(self.rows).get(path[-1], "") if self.kind == "pairs" else self.text

    def changes(self, sent: Mapping[str, list[str]], seen: Mapping[str, Any]) -> Iterator[Setting]:
        """The settings that a form asks for, where they are others than it had ``seen`` when it was opened."""
        if not self.can_be_set:
            return
        before = self.opened(seen)
        if before.can_be_set:
            yield from before._changes(sent)

    def _changes(self, sent: Mapping[str, list[str]]) -> Iterator[Setting]:
        if self.kind == "pairs":
            yield from self._changed_pairs(sent)
        elif self.name in sent or self.kind == "several":
            values = sent.get(self.name, [])
            if self.kind == "lines":
                values = [line.strip() for line in "\n".join(values).splitlines() if line.strip()]
            elif self.kind == "long":
                values = [value.replace("\r\n", "\n").rstrip() for value in values[:1] if value.strip()]
            else:
                values = [" ".join(value.split()) for value in values if value.strip()]
            if values != [line.rstrip() for line in self.lines if line]:
                is_one = self.kind not in ("lines", "several")
                yield Setting(self.path, (values[0] if values else "") if is_one else tuple(values))

    def _changed_pairs(self, sent: Mapping[str, list[str]]) -> Iterator[Setting]:
        names, values = sent.get(f"{self.name}:name"), sent.get(f"{self.name}:value", [])
        if names is None:
            return
        wanted = {
            " ".join(name.split()): " ".join(value.split())
            for name, value in zip(names, values, strict=False)
            if name.strip()
        }
        now = dict(self.rows)
        yield from (Setting((*self.path, name), "") for name in now if not wanted.get(name))
        yield from (
            Setting((*self.path, name), value) for name, value in wanted.items() if value and value != now.get(name)
        )


def _is_level(value: Any) -> bool:
    """Whether it is a level of breadcrumbs that is a name alone."""
    return isinstance(value, dict) and list(value) == ["group"]


def _line(value: Any) -> str:
    return f"group: {value['group']}" if _is_level(value) else str(value)


class Group(NamedTuple):
    """Words that are looked for together, below one path of keys."""

    title: str
    path: tuple[str, ...]
    words: tuple[Word, ...]


def _grouped(path: tuple[str, ...], words: Iterable[Word], title: str = "") -> tuple[Group, ...]:
    """The words that a control sets, below one path, in the groups that they name; those without one have a ``title``
    together."""
    groups: dict[str, list[Word]] = {}
    for word in words:
        if word.is_controlled:
            groups.setdefault(word.group or title, []).append(word)
    return tuple(Group(name, path, tuple(inside)) for name, inside in groups.items())


def _named(words: Iterable[Word], *names: str) -> tuple[Word, ...]:
    return tuple(word for word in words if word.name in names)


SECTIONS: Mapping[str, tuple[str, tuple[Group, ...]]] = {
    "site": ("Site", _grouped(("site",), SITE)),
    "theme": ("Theme", _grouped(("theme",), THEME)),
    "logo": ("Logo", _grouped(("parts", IDENTITY), _named(PART, *KINDS[IDENTITY]))),
    "breadcrumbs": ("Breadcrumbs", _grouped(("breadcrumbs",), BREADCRUMBS)),
    "menus": ("Menus", ()),
    "pages": (
        "Every page",
        (*_grouped(("page-end",), PAGE_END, "Below the content"), *_grouped((), _named(MAP, "layout"), "Layout")),
    ),
    "page": (
        "This page alone",
        (
            *_grouped((), (word for word in PAGE if word.group)),
            *_grouped(("social",), SOCIAL, "When it is shared"),
            *_grouped(("table",), TABLE, "Pages from a table"),
        ),
    ),
    "facts": ("Facts", _grouped((), _named(MAP, "facts"))),
    "head": (
        "Head",
        (
            *_grouped(("head",), HEAD),
            *_grouped(("head", "social"), SOCIAL, "Where a page is passed on"),
            *_grouped(("head", "counter"), COUNTER, "Counting visits"),
        ),
    ),
    "phrases": ("Phrases", _grouped(("phrases",), PHRASE_WORDS)),
    "redirects": ("Redirects", _grouped((), _named(MAP, "redirects"))),
    "checks": ("Checks", _grouped(("checks",), CHECKS)),
    "existing": (
        "Existing pages",
        (
            *_grouped(("inlay",), INLAY),
            *_grouped(("inlay", "breadcrumbs"), MARKUP, "Breadcrumbs in the pages' own markup"),
        ),
    ),
}
"""By the name in the address: what the section is called, and its groups."""


def groups_of(section: str, plan: Plan) -> tuple[Group, ...]:
    """The groups of a section; those of menus are as many as there are menus."""
    if section not in ("menus", "existing"):
        return SECTIONS[section][1]
    if section == "menus":
        return tuple(
            group
            for name, menu in plan.menus.items()
            for group in _grouped(
                ("menus", name), (word for word in MENU if word.name not in _NOT_OF_MAIN[name != "main"]), menu.label
            )
        )
    return (
        *SECTIONS[section][1],
        *(
            Group(f"The menu {menu.label} in the pages' own markup", ("inlay", "menus", name), MARKUP)
            for name, menu in plan.menus.items()
        ),
    )


_NOT_OF_MAIN = (("section", "place"), ("fold", "submenus"))
"""Settings that the main menu does not have, and those that only it has."""


def controls(section: str, plan: Plan, data: Any, key: str) -> list[tuple[str, list[Control]]]:
    """The controls of a section, in groups, with what ``data``, those of the map, say now; those of a
    page are of the one called ``key``. Raises ``NotHere`` for one that a table or another file makes."""
    colours = plan.site.theme.all_colours()
    if section == "page":
        data = page_in(copy.deepcopy(data), key)
    return [
        (group.title, [_control((*group.path, word.name), word, data, colours) for word in group.words])
        for group in groups_of(section, plan)
    ]


def _control(path: tuple[str, ...], word: Word, data: Any, colours: Mapping[str, str]) -> Control:
    kind = word.codec.control
    of_part = IDENTITY if path[0] == "parts" else ""
    holds = colours.get(word.name, "") if kind == "colour" else word.default_for(of_part)
    return Control(path, word, kind, value_in(data, path), holds)
