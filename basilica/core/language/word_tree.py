"""The map language as one tree: which words belong below which, for editors that complete and explain."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

from basilica.core.language.sections import SECTIONS
from basilica.core.language.word import Word

_BELOW = {
    ("", "site"): "site",
    ("", "pages"): "pages",
    ("", "menus"): "menus",
    ("", "breadcrumbs"): "breadcrumbs",
    ("", "header"): "header",
    ("", "page-end"): "page-end",
    ("", "theme"): "theme",
    ("", "parts"): "parts",
    ("", "head"): "head",
    ("", "phrases"): "phrases",
    ("", "inlay"): "inlay",
    ("", "checks"): "checks",
    ("pages", "pages"): "pages",
    ("pages", "header"): "header on a page",
    ("pages", "breadcrumbs"): "levels of breadcrumbs",
    ("pages", "social"): "social",
    ("pages", "table"): "table",
    ("pages", "ignore"): "codes",
    ("menus", "entries"): "entries",
    ("menus", "auto"): "auto",
    ("entries", "items"): "entries",
    ("entries", "auto"): "auto",
    ("header", "mobile"): "mobile",
    ("header on a page", "mobile"): "mobile",
    ("head", "counter"): "counter",
    ("head", "social"): "social",
    ("inlay", "menus"): "own markup",
    ("inlay", "breadcrumbs"): "own markup",
    ("checks", "levels"): "levels of codes",
}
"""The section of the words below a word."""
_NAMED = {("", "pages"), ("", "menus"), ("", "parts"), ("pages", "pages"), ("inlay", "menus")}
"""Words with people's own names below them, each with the section below these."""
_NAMED_VALUES = {
    ("", "slots"): "part",
    ("pages", "slots"): "part",
    ("", "redirects"): "reference",
    ("head", "fonts"): "file",
}
"""Words with people's own names below them, each with the type of its value."""
_ITEMS = {"menus": "entries", "entries": "entries"}
"""The section of the items, for words that have a list in place of keys."""
_OWN_TYPES = {("pages", "without"): "part", ("header", "until"): "end"}
"""Words whose values are of a narrower type than the schema says."""


def word_tree(codes: Iterable[tuple[str, str]]) -> dict[str, Any]:
    """The sections of the map language by name, ready to be written as JSON: of each its ``words``, with ``name``,
    ``meaning``, ``type``, ``values`` and the section ``below``; ``named`` where names that people give come first
    there; ``of``, the type of the values of such names; and ``items``, the section of the items of its list.
    ``codes`` are those of checks, each with its title."""
    sections = {name: _section(name, words) for name, words in SECTIONS.items()}
    level = sections["level"]["words"][0]["values"]
    checks = [{"name": code, "meaning": title, "type": "one of", "values": level} for code, title in codes]
    sections["codes"] = {"words": checks}
    sections["levels of codes"] = {"words": [{**check, "below": "level"} for check in checks]}
    auto = next(word for word in SECTIONS["entries"] if word.name == "auto")
    sections["menus"]["words"].append(_word("menus", auto))
    return sections


def _section(name: str, words: tuple[Word, ...]) -> dict[str, Any]:
    found: dict[str, Any] = {"words": [_word(name, word) for word in words]}
    return {**found, "items": _ITEMS[name]} if name in _ITEMS else found


def _word(section: str, word: Word) -> dict[str, Any]:
    at = (section, word.name)
    values = word.values or (("yes", "no") if word.value_type == "yes or no" else ())
    found: dict[str, Any] = {
        "name": word.name,
        "meaning": word.meaning,
        "type": _OWN_TYPES.get(at, word.value_type),
        "values": list(values),
    }
    if at in _BELOW:
        found |= {"below": _BELOW[at], "named": at in _NAMED}
    if at in _NAMED_VALUES:
        found |= {"of": _NAMED_VALUES[at]}
    return found
