"""Parts by name, from the map and from files, and which of them fill the slots of layouts."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator
from collections.abc import Mapping as Map
from dataclasses import replace

from basilica.core.language.sections.part_words import BUILT_IN_PARTS, HEIGHTS, KINDS, MENU_PART, PART, PLAIN_LAYOUT
from basilica.core.map.document import Mapping, Node, Scalar
from basilica.core.map.map_files import Files
from basilica.core.map.site import site_rules
from basilica.core.map.site.field_reader import (
    Context,
    Keys,
    keys_of,
    kind_of,
    label_of,
    prose_of,
    text_of,
    texts_of,
    web_address,
)
from basilica.core.map.site.shared_values import Part, Slots
from basilica.core.map.site.word_reader import read_word
from basilica.core.rules.finding import Fix
from basilica.core.rules.place import START
from basilica.core.shared.facts import telephone

_NAME = re.compile(r"[a-z0-9-]{1,60}")
_TEXT = 100_000
"""Characters of a part that is written in the map."""
NEEDS = {"links": ("menu",), "embed": ("url",), "form": ("to",)}
"""The words without which a part of a kind says nothing."""
NONE = "none"
_LEAST_DIGITS = 2
"""Some numbers for help have three, and some none but two (ITU-T E.164, from memory)."""
_MAIL = re.compile(r"[^@\s<>\"]+@[^@\s<>\"]+")


def read_parts(
    node: Node, files: Files, context: Context, language: str = "", tags: tuple[str, ...] = ()
) -> dict[str, Part]:
    """Every part by name: those of the map first, then those that are files in the folder `parts`. Of a site in several
    languages (``tags``) `parts/opening.cy.md` is that of `parts/opening.md` in ``cy``."""
    parts: dict[str, Part] = {}
    if isinstance(node, Mapping):
        for name, value in node.pairs:
            if not is_part_name(name.value):
                context.say(
                    site_rules.BAD_ID,
                    name.start,
                    f"`{name.value[:60]}` cannot be the name of a part.",
                    "Use lower-case letters, digits and hyphens, and none of "
                    + ", ".join(f"`{g}`" for g in BUILT_IN_PARTS),
                )
                continue
            part = _part(name, value, context)
            if part is not None:
                parts[name.value] = part
    elif not (isinstance(node, Scalar) and node.is_nothing):
        message = f"`parts` is {kind_of(node)} where parts by name are expected."
        context.say(site_rules.WRONG_SHAPE, node.start, message, "Write a name below it, and the part below that.")
    for part in _from_files(_names_in(files.under("parts"), language, tags), files, context):
        if part.name in parts:
            message = f"The part `{part.name}` is written in the map, so {part.file} is not read."
            context.say(site_rules.DUPLICATE_PART, parts[part.name].at, message)
        else:
            parts[part.name] = part
    return parts


def part_names(parts: Iterable[str], menus: Iterable[str]) -> tuple[str, ...]:
    """The names that can stand in a layout or a slot: the site's own parts, then what the map gives."""
    return (*parts, *BUILT_IN_PARTS, *(MENU_PART + name for name in menus))


def is_part_name(name: str) -> bool:
    """Whether a text can be the name of a part."""
    return bool(_NAME.fullmatch(name)) and name not in (*BUILT_IN_PARTS, NONE) and not name.startswith(MENU_PART)


def _names_in(names: Iterable[str], language: str, tags: tuple[str, ...]) -> dict[str, str]:
    """The files of a language, each with the stem of its name without the tag: its own, and those that say none and
    have no other for it."""
    own: dict[str, str] = {}
    others: dict[str, str] = {}
    for name in names:
        stem = name.rpartition(".")[0]
        bare, _, tag = stem.rpartition(".")
        if bare and tag in tags:
            own |= {name: bare} if tag == language else {}
        else:
            others[name] = stem
    return own | {name: stem for name, stem in others.items() if stem not in own.values()}


def _from_files(names: Map[str, str], files: Files, context: Context) -> Iterator[Part]:
    seen = set()
    for name, stem in names.items():
        suffix = name.rpartition(".")[2]
        if suffix not in ("md", "html"):
            continue
        if not is_part_name(stem) or stem in seen:
            reason = "another file has that name already" if stem in seen else "a part cannot have that name"
            context.say(
                site_rules.PART_UNREAD,
                0,
                f"parts/{name} is not read: {reason}.",
            )
            continue
        seen.add(stem)
        if not files.is_text(f"parts/{name}"):
            message = "The part is not UTF-8, so some of its characters would be lost."
            context.findings.add(site_rules.CONTENT_NOT_UTF8, START, message, file=f"parts/{name}")
        markup = "html" if suffix == "html" else "markdown"
        yield Part(stem, "text", files.text(f"parts/{name}"), markup, file=f"parts/{name}")


def _part(name: Scalar, node: Node, context: Context) -> Part | None:
    where = f"The part `{name.value}`"
    if isinstance(node, Scalar) and not node.is_nothing:
        text = text_of(node, where, context)
        return Part(name.value, text=text or "", at=name.start, text_at=node.start)
    keys = keys_of(node, PART, where, context)
    of_part = where[0].lower() + where[1:]
    kind = read_word(keys["kind"][1], PART[0], context, of_part) if "kind" in keys else "text"
    if kind is None:
        return Part(name.value, at=name.start)  # what it needs cannot be known
    _say_useless(kind, keys, where, context)
    text_word = "html" if "html" in keys else "text"
    text = ""
    if text_word in keys:
        text = text_of(keys[text_word][1], f"The text of the part `{name.value}`", context) or ""
        if len(text) > _TEXT:
            at = keys[text_word][1].start
            context.say(
                site_rules.TOO_LONG, at, f"{where} has more than {_TEXT:,} characters.", "Make it a file in `parts`."
            )
            text = text[:_TEXT]
    if kind == "text" and not keys.get(text_word):
        context.say(site_rules.MISSING_KEY, name.start, f"{where} is empty.", "Add `text:` to it, or `kind:`.")
        return None
    nameless = "show-name" in keys and getattr(keys["show-name"][1], "value", "") == "no"
    if kind == "identity" and nameless and "picture" not in keys:
        message = f"{where} has neither name nor picture, so the header has no link home."
        context.say(
            site_rules.MISSING_KEY, keys["show-name"][0].start, message, "Add `picture:`, or write `show-name: yes`."
        )
        return None
    for word in NEEDS.get(kind, ()):
        if word not in keys:
            context.say(site_rules.MISSING_KEY, name.start, f"{where} needs `{word}`.", f"Add `{word}:` to it.")
            return None
    values = []
    for word in KINDS[kind]:
        value = _value(word, kind, keys, of_part, context) if word in keys else ""
        if value:
            values.append((word, value))
    return Part(
        name.value,
        kind,
        text,
        "html" if text_word == "html" else "markdown",
        tuple(values),
        at=name.start,
        text_at=keys[text_word][1].start if text_word in keys else name.start,
    )


def _value(word: str, kind: str, keys: Keys, where: str, context: Context) -> str:
    node, what = keys[word][1], f"`{word}` of {where}"
    known = next(each for each in PART if each.name == word)
    if word == "height":
        return str(read_word(node, replace(known, codec=HEIGHTS[kind]), context, where) or "")
    if known.values:
        return read_word(node, known, context, where) or known.default
    if word in ("place", "opening"):
        return (prose_of(node, what, context) or "").strip()
    text = label_of(node, what, context) or ""
    if word in ("url", "to") and text:
        return _address(text, word, node, context)
    if word == "telephone" and text and len(telephone(text)) < _LEAST_DIGITS:
        message = f"{what[0].upper()}{what[1:]} is `{text[:60]}`, which is not a number that can be dialled."
        context.say(site_rules.BAD_VALUE, node.start, message, "Write the number, such as `01632 960142`.")
        return ""
    if word == "mail" and text and not _MAIL.fullmatch(text):
        message = f"{what[0].upper()}{what[1:]} is `{text[:60]}`, which is not an e-mail address."
        context.say(site_rules.BAD_VALUE, node.start, message, "Write one such as `trust@mill.example`.")
        return ""
    return text


def _address(text: str, word: str, node: Node, context: Context) -> str:
    """A full address, or for a form also a path of the site."""
    if word == "to" and text.startswith("/") and not text.startswith("//"):
        return text
    url = web_address(text)
    if url is None:
        remedy = "Begin it with https:" + (", or with `/` for a path of the site." if word == "to" else ".")
        context.say(site_rules.BAD_SCHEME, node.start, f"`{text[:80]}` is not an address that is allowed here.", remedy)
        return ""
    return url


def _say_useless(kind: str, keys: Keys, where: str, context: Context) -> None:
    for word, (name, _) in keys.items():
        if word not in ("kind", "text", "html", *KINDS[kind]):
            message = f"`{word}` has no effect for {where[0].lower()}{where[1:]}, which is of the kind `{kind}`."
            context.say(site_rules.KEY_WITHOUT_USE, name.start, message)
    if "text" in keys and "html" in keys:
        context.say(
            site_rules.KEY_WITHOUT_USE, keys["text"][0].start, f"{where} has `html` as well.", "Remove one of them."
        )


class Names:
    """The names that slots may be filled with, looked up with the place at which they are written."""

    def __init__(self, parts: Map[str, Part], menus: Map[str, object], files: Files, context: Context) -> None:
        self.parts = parts
        self.known = set(part_names(parts, menus))
        self.layouts = {PLAIN_LAYOUT, *(name.removesuffix(".html") for name in files.under("page-layouts"))}
        self.context = context

    def slots(self, node: Node, where: str) -> Slots:
        """The slots that a map or a page fills."""
        if isinstance(node, Scalar) and node.is_nothing:
            return ()
        if not isinstance(node, Mapping):
            message = f"`slots` of {where} is {kind_of(node)} where slots by name are expected."
            self.context.say(
                site_rules.WRONG_SHAPE, node.start, message, "Write the slot's name, and the part's behind it."
            )
            return ()
        found = {name.value: self.of(value, f"The slot `{name.value}` of {where}") for name, value in node.pairs}
        return tuple(sorted(found.items()))

    def of(self, node: Node, where: str) -> tuple[str, ...]:
        """The names of one or several parts; `none` is no part at all."""
        found = []
        for item in texts_of(node, where, self.context):
            if item.value == NONE:
                continue
            if item.value not in self.known:
                self._unknown("part", item, self.known)
            elif item.value not in found:
                found.append(item.value)
        return tuple(found)

    def layout(self, node: Node, where: str) -> str:
        """The name of a layout."""
        text = text_of(node, f"`layout` of {where}", self.context)
        if text is None or text in self.layouts:
            return text or ""
        if isinstance(node, Scalar):
            self._unknown("layout", node, self.layouts)
        return ""

    def _unknown(self, what: str, written: Scalar, known: set[str]) -> None:
        near = self.context.nearest(written.value, sorted(known))
        there = "in the folder `page-layouts`" if what == "layout" else "under `parts:`"
        fix: Fix | None = self.context.instead(written, near)
        self.context.say(
            site_rules.UNKNOWN_LAYOUT if what == "layout" else site_rules.UNKNOWN_PART,
            written.start,
            f"There is no {what} `{written.value[:60]}`.",
            f"Did you mean `{near}`?" if near else f"Write it {there}, or remove this.",
            fix,
        )


def read_slots(node: Node, names: Names) -> Slots:
    """The slots that the map fills on every page."""
    return names.slots(node, "the map")
