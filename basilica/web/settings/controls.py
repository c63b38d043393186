"""The settings of a map as controls: which word of the map language is set where, and how.

What a word is, its values and its default come from the schema; here stands only in which group one looks for it.
"""

from __future__ import annotations

import copy
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from typing import Any, NamedTuple

from basilica.core.edits.commands.set_settings import Setting
from basilica.core.edits.map_data import page_in, value_in
from basilica.core.language.codecs import NAMED_TEXTS
from basilica.core.language.sections import MAP
from basilica.core.language.sections.breadcrumbs_words import BREADCRUMBS
from basilica.core.language.sections.checks_words import CHECKS
from basilica.core.language.sections.head_words import COUNTER, HEAD, SOCIAL
from basilica.core.language.sections.inlay_words import INLAY, MARKUP
from basilica.core.language.sections.menu_words import MENU
from basilica.core.language.sections.page_end_words import PAGE_END
from basilica.core.language.sections.page_words import PAGE, PAGE_EXTRA, TABLE
from basilica.core.language.sections.part_words import IDENTITY, KINDS, PART
from basilica.core.language.sections.phrases_words import PHRASE_WORDS
from basilica.core.language.sections.site_words import SITE
from basilica.core.language.sections.theme_words import THEME
from basilica.core.language.word import Word
from basilica.core.plan import Plan
from basilica.core.shared.theme import COLOUR_TITLES, COLOURS

TITLES = {
    ("site", "title"): "Page titles",
    ("site", "home-title"): "Title of home",
    ("site", "base"): "Site address",
    ("site", "urls"): "Address style",
    ("site", "links"): "Link style",
    **{("theme", name): title for name, title in COLOUR_TITLES.items()},
    ("theme", "dark"): "Dark version",
    ("theme", "size"): "Letter size",
    ("theme", "spacing"): "Letter spacing",
    ("theme", "align"): "Menu position",
    ("theme", "current-weight"): "Weight",
    ("theme", "current-line"): "Line",
    ("theme", "css"): "Style sheet",
    ("breadcrumbs", "itself"): "The page itself",
    ("breadcrumbs", "groups"): "Menu groups",
    ("breadcrumbs", "place"): "Place",
    ("breadcrumbs", "size"): "Letter size, %",
    ("breadcrumbs", "shorten"): "Shorten past",
    ("page-end", "list"): "List of pages",
    ("page-end", "sequence"): "Previous and next",
    ("menus", "opens"): "Submenus open",
    ("menus", "hover"): "Open on hover",
    ("menus", "fold"): "Folds below",
    ("parts", "show-name"): "Show the name",
    ("parts", "height"): "Height, px",
    ("parts", "small-picture"): "Picture when small",
    ("checks", "clicks"): "Clicks from home",
}
"""What controls are called whose word alone says too little, by section and word."""


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
        return TITLES.get((self.path[0], self.path[-1])) or self.word.name.replace("-", " ").capitalize()

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

    def changes(self, sent: Mapping[str, list[str]], seen: Mapping[str, Any]) -> Iterator[Setting]:
        """The settings that a form asks for, where they are others than it had ``seen`` when it was opened, by name, or
        for a form that does not say, than the map has now."""
        if not self.can_be_set:
            return
        before = replace(self, now=seen.get(self.name, self.now))
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


_KINDS = {
    "one of": "choice",
    "yes or no": "choice",
    "one or several of": "several",
    "number": "number",
    "width": "text",
    "colour": "colour",
    "file or list of files": "lines",
    "host or list of hosts": "lines",
    "text or list of texts": "lines",
    "reference or list of levels": "lines",
    "address or list of addresses": "lines",
    "name or list of names": "lines",
    "list of language tags": "lines",
    "texts": "pairs",
    "addresses": "pairs",
}


def _named(words: tuple[Word, ...], *names: str) -> tuple[Word, ...]:
    return tuple(word for word in words if word.name in names)


def _but(words: tuple[Word, ...], *names: str) -> tuple[Word, ...]:
    return tuple(word for word in words if word.name not in names)


def _pairs(*words: Word) -> tuple[Word, ...]:
    """Words below which people give the names themselves."""
    return tuple(Word(word.name, NAMED_TEXTS, word.meaning) for word in words)


_CURRENT = ("current-weight", "current-background", "current-line")
_PAGES = ("font", "headings", "corners", "dark", "transitions")
SECTIONS: Mapping[str, tuple[str, tuple[Group, ...]]] = {
    "site": (
        "Site",
        (
            Group(
                "Name and titles",
                ("site",),
                _named(SITE, "name", "title", "home-title", "language", "languages", "language-prefix"),
            ),
            Group("Addresses", ("site",), _named(SITE, "base", "urls", "links")),
        ),
    ),
    "theme": (
        "Theme",
        (
            Group("Begin with", ("theme",), _named(THEME, "preset")),
            Group("Pages", ("theme",), _named(THEME, *_PAGES)),
            Group("Colours", ("theme",), _named(THEME, *COLOURS)),
            Group("Current entry", ("theme",), _named(THEME, *_CURRENT)),
            Group("Menus", ("theme",), _but(THEME, "preset", "css", *_PAGES, *COLOURS, *_CURRENT)),
            Group("Your own style", ("theme",), _named(THEME, "css")),
        ),
    ),
    "logo": ("Logo", (Group("", ("parts", IDENTITY), _named(PART, *KINDS[IDENTITY])),)),
    "breadcrumbs": ("Breadcrumbs", (Group("", ("breadcrumbs",), BREADCRUMBS),)),
    "menus": ("Menus", ()),
    "pages": (
        "Every page",
        (
            Group("Below the content", ("page-end",), PAGE_END),
            Group("Layout", (), _named(MAP, "layout")),
        ),
    ),
    "page": (
        "This page alone",
        (
            Group("Address and breadcrumbs", (), _named(PAGE, "breadcrumbs", "was", "noindex", "include")),
            Group("Head and files", (), _named(PAGE_EXTRA, "styles", "scripts", "css", "js", "without")),
            Group("When it is shared", ("social",), SOCIAL),
            Group("Pages from a table", ("table",), TABLE),
        ),
    ),
    "facts": ("Facts", (Group("", (), _pairs(*_named(MAP, "facts"))),)),
    "head": (
        "Head",
        (
            Group("Files", ("head",), _named(HEAD, "icon", "touch-icon", "styles", "scripts", "manifest")),
            Group("Feed, and data for search engines", ("head",), _named(HEAD, "feed", "data")),
            Group("Speed", ("head",), _named(HEAD, "prefetch", "minify")),
            Group("Names and values", ("head",), _pairs(*_named(HEAD, "fonts", "meta"))),
            Group("Where a page is passed on", ("head", "social"), SOCIAL),
            Group("Counting visits", ("head", "counter"), COUNTER),
        ),
    ),
    "phrases": ("Phrases", (Group("", ("phrases",), PHRASE_WORDS),)),
    "redirects": ("Redirects", (Group("", (), _pairs(*_named(MAP, "redirects"))),)),
    "checks": ("Checks", (Group("", ("checks",), _but(CHECKS, "levels")),)),
    "existing": (
        "Existing pages",
        (
            Group("", ("inlay",), _named(INLAY, "folder", "replace")),
            Group("Breadcrumbs in the pages' own markup", ("inlay", "breadcrumbs"), MARKUP),
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
            Group(menu.label, ("menus", name), _but(MENU, "entries", *_NOT_OF_MAIN[name != "main"]))
            for name, menu in plan.menus.items()
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
    kind = "long" if word.name in ("css", "js") else _KINDS.get(word.value_type, "text")
    of_part = IDENTITY if path[0] == "parts" else ""
    holds = colours.get(word.name, "") if kind == "colour" else word.default_for(of_part)
    return Control(path, word, kind, value_in(data, path), holds)
