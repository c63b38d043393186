"""Every word of the map language, with the screen that writes it."""

from __future__ import annotations

from collections.abc import Mapping
from typing import NamedTuple

from basilica.core.edits.site_changes import WORDS
from basilica.core.language.sections import SECTIONS as SCHEMA
from basilica.web.settings.controls import SECTIONS, TITLES


class WordScreen(NamedTuple):
    """A word in its section of the schema, and the screen and the control by which it is set."""

    section: str
    word: str
    screen: str
    control: str


_WHOLE: Mapping[str, tuple[str, str]] = {
    "header": ("Header", "the field of that name"),
    "header on a page": ("Header", "written for this page"),
    "mobile": ("Header", "in mobile windows"),
    "parts": ("Parts", "the part, chosen"),
    "entries": ("Map", "New entry and Edit, beside the menus"),
    "auto": ("Map", "Follow the pages, beside a menu"),
    "menus": ("Settings", "Menus"),
    "breadcrumbs": ("Settings", "Breadcrumbs"),
    "page-end": ("Settings", "Every page"),
    "theme": ("Settings", "Theme"),
    "phrases": ("Settings", "Phrases"),
    "head": ("Settings", "Head"),
    "social": ("Settings", "Head; This page alone"),
    "counter": ("Settings", "Head"),
    "table": ("Settings", "This page alone"),
    "inlay": ("Settings", "Existing pages"),
    "own markup": ("Settings", "Existing pages"),
    "site": ("Settings", "Site"),
    "level": ("Checks", "Ignore, beside a finding"),
    "levels of breadcrumbs": ("Settings", "This page alone, as a line `group: Name`"),
}
"""Sections of which every word is set on one screen."""

_SINGLE: Mapping[tuple[str, str], tuple[str, str]] = {
    ("", "pages"): ("Map", "After and Under, above the plan"),
    ("", "menus"): ("Map", "New menu, beside the menus"),
    ("", "header"): ("Header", "every field"),
    ("", "parts"): ("Parts", "New part"),
    ("", "slots"): ("Parts", "the slot, chosen"),
    ("", "layout"): ("Settings", "Every page"),
    ("", "facts"): ("Settings", "Facts"),
    ("", "redirects"): ("Settings", "Redirects"),
    ("pages", "pages"): ("Map", "Under, above the plan"),
    ("pages", "header"): ("Header", "written for this page"),
    ("pages", "slots"): ("Parts", "the slot, chosen; from this page on"),
    ("pages", "social"): ("Settings", "This page alone"),
    ("pages", "table"): ("Settings", "This page alone"),
    ("pages", "ignore"): ("Checks", "Ignore, beside a finding"),
    ("checks", "levels"): ("Checks", "Ignore, beside a finding"),
    ("menus", "entries"): ("Map", "New entry, beside the menu"),
    ("inlay", "menus"): ("Settings", "Existing pages"),
    ("inlay", "breadcrumbs"): ("Settings", "Existing pages"),
}


def word_screens() -> list[WordScreen]:
    """Every word of the schema, in its order. Raises ``LookupError`` for one that no screen sets."""
    return [
        WordScreen(section, word.name, *_screen_of(section, word.name))
        for section, words in SCHEMA.items()
        for word in words
    ]


def _screen_of(section: str, word: str) -> tuple[str, str]:
    if (section, word) in _SINGLE:
        return _SINGLE[section, word]
    if section == "pages":
        if word in WORDS:
            return "Pages", "Settings"
        title, groups = SECTIONS["page"]
        if any(known.name == word for group in groups for known in group.words if not group.path):
            return "Settings", title
    elif section == "":
        of = {"site": "site", "head": "head", "page-end": "pages", "inlay": "existing"}.get(word, word)
        if of in SECTIONS:
            return "Settings", SECTIONS[of][0]
    elif section == "checks":
        return "Settings", TITLES.get(("checks", word), SECTIONS["checks"][0])
    elif section in _WHOLE:
        return _WHOLE[section]
    raise LookupError(f"No screen sets `{word}` of `{section}`.")
