"""An entry of a menu as a form: what its words are now, and what they can be."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

from basilica.core.edits.map_data import entries_in, long_entry, map_data
from basilica.core.edits.site_changes import at, paths
from basilica.core.language.sections.menu_words import ENTRY, NOT_OF_KIND, SEPARATOR
from basilica.core.language.word import Word
from basilica.core.map.map_files import linkable
from basilica.core.map.site import EntryKind
from basilica.core.plan import Plan

KINDS = {
    "page": "A page, or a place on it",
    "url": "An address outside the site",
    "file": "A file",
    "group": "A group: a heading that opens",
    "separator": "A line",
}
"""What an entry can be, by the word that says where it leads."""


@dataclass(frozen=True, slots=True)
class EntryForm:
    """An entry in ``menu``: its ``number``, or the one below which a new one comes (``parent``); its ``kind`` and its
    ``words`` as they are written. ``is_auto`` where it is made by `auto`."""

    menu: str
    number: int | None
    parent: int | None
    kind: str
    words: dict[str, str]
    is_auto: bool
    known: dict[str, Word]
    labels: dict[str, str] = field(default_factory=dict)
    """By the tag of each other language of the site, what it is called in it."""

    @property
    def plain(self) -> list[Word]:
        """The words that a line of text sets, beside what the entry is called and how it is shown."""
        others = ("label", "group", "show", *(NOT_OF_KIND.get(self.kind, ()) if self.number is not None else ()))
        return [word for word in self.known.values() if word.codec.is_plain and word.name not in others]

    def only_of(self, word: Word) -> str:
        """The kind of entries that alone has a word; empty where several have it."""
        kinds = [kind for kind, others in NOT_OF_KIND.items() if word.name not in others]
        return kinds[0] if len(kinds) == 1 else ""


def entry_form(plan: Plan, text: str, menu: str, number: int | None, parent: int | None) -> EntryForm | None:
    """The form for an entry of a menu; None where there is none of that number."""
    known, nothing = {word.name: word for word in ENTRY}, dict.fromkeys(plan.site.languages[1:], "")
    if number is None:
        return EntryForm(menu, None, parent, "page", {}, False, known, nothing)
    shown = plan.menus.get(menu)
    if shown is None or not 0 <= number < len(shown.entries):
        return None
    written, path = plan.site.menus[menu], paths(plan.site.menus[menu], plan.site)[number]
    if at(written.written, path).kind is EntryKind.AUTO:
        key = shown.entries[number].page or ""
        return EntryForm(menu, number, None, "page", {"page": key}, True, known, nothing)
    entry: Any = entries_in(map_data(text), menu, path[:-1])[path[-1]]
    if entry == SEPARATOR:
        return EntryForm(menu, number, None, "separator", {}, False, known)
    words = {word: value for word, value in long_entry(entry).items() if isinstance(value, str) and word in known}
    kind = next((word for word in KINDS if word in words), "page")
    labels = {tag: _label_in(long_entry(entry).get(tag), kind) for tag in nothing}
    return EntryForm(menu, number, None, kind, words, False, known, labels)


def _label_in(said: Any, kind: str) -> str:
    """What an entry is called in a language: a text alone, or one of several words."""
    label = said.get("group" if kind == "group" else "label") if isinstance(said, dict) else said
    return label if isinstance(label, str) else ""


def files_of(plan: Plan) -> list[str]:
    """The files that an entry can lead to."""
    return sorted(linkable(plan.site.files))
