"""An entry of any kind is added to a menu."""

from __future__ import annotations

import sys
from collections.abc import Collection
from typing import Literal

from msgspec import field

from basilica.core.edits.command import EditInProgress, EditRejected, MenuEdit
from basilica.core.edits.entry_words import LEADS, checked_words, entry_data, entry_snippet, in_languages
from basilica.core.edits.fields import EntryNumber, EntryWords, Index
from basilica.core.edits.map_data import MapData, dict_of, entries_in, written
from basilica.core.edits.site_changes import changed_without, path_of_page, without_item, without_path
from basilica.core.edits.source_patcher import Snippet
from basilica.core.language.sections.menu_words import NOT_OF_KIND, SEPARATOR
from basilica.core.map.site import Site
from basilica.core.map.site.auto_entries import Path
from basilica.core.map.site.references import References

_WANTED = {
    "page": "Choose the page that it leads to.",
    "url": "Write the address that it leads to.",
    "file": "Choose the file that it leads to.",
    "group": "Give the group a name.",
}


class AddEntry(MenuEdit, frozen=True, tag="add-entry"):
    """A new entry in ``menu``, below the entry ``parent`` (by number, None: at the top), in place ``index`` (None: the
    last). It is of a ``kind``: `page`, `url`, `file`, `group`, or `separator`, a line between entries; of ``words``,
    those of `SetEntry`, it has the ones of its kind; ``labels`` are those of other
    languages, by tag. A group begins with a page in it (``first``), since an empty one
    is none, or has the child pages of one (``under``) and follows them."""

    menu: str
    parent: EntryNumber | None
    kind: Literal["page", "url", "file", "group", "separator"]
    words: EntryWords
    index: Index | None = None
    labels: dict[str, str] = field(default_factory=dict)
    first: str = ""
    under: str = ""

    def change(self, work: EditInProgress) -> None:
        """Do it, to the site and to the text."""
        words = checked_words(self.words)
        entry = self._entry(words, work.site.languages[1:])
        stray = [word for word, value in words.items() if value and (entry == SEPARATOR or word in self._others)]
        stray += [tag for tag, text in self.labels.items() if text and entry == SEPARATOR]
        if stray:
            what = "a line between entries" if entry == SEPARATOR else f"an entry of the kind `{self.kind}`"
            work.notes.append(f"left out {', '.join(f'`{word}`' for word in stray)}, which {what} does not have")
        path, index = work.place_beside(self.menu, self.parent, sys.maxsize if self.index is None else self.index)
        data = work.data()
        entries = entries_in(data, self.menu, path)
        index, moved, snippet = min(index, len(entries)), self._entry_of_first(work), entry_snippet(entry)
        if moved is not None and isinstance(entry, dict):
            if path[: len(moved)] == moved:
                raise EditRejected("A group cannot begin with an entry that it would be under. Nothing was changed.")
            # What is in the menu already is not there twice: the group begins with that entry, and all that it has.
            entry["items"], cut = _taken(data, self.menu, moved)
            work.site = without_item(work.site, self.menu, changed_without(work.site, self.menu, moved))
            work.removes_empty_groups(self.menu, moved[:-1])
            snippet = _group_of(entry, work.text.cut_entry(self.menu, moved))
            work.text.prune([self.menu])
            *above, index = without_path((*path, index), cut)
            path = tuple(above)
        entries.insert(index, entry)
        work.text.insert_entry(self.menu, path, index, snippet)
        work.take_data(data)

    def _entry_of_first(self, work: EditInProgress) -> Path | None:
        """Where the first page of a new group has its entry in the menu already."""
        keys = References(work.site.pages).find(self.first) if self.first else ()
        menu = work.site.menus.get(self.menu)
        return path_of_page(menu.written, keys[0]) if len(keys) == 1 and menu is not None else None

    def _entry(self, words: dict[str, str], languages: Collection[str]) -> MapData:
        if self.kind == "separator":
            return SEPARATOR
        own = {word: value for word, value in words.items() if word not in self._others}
        if not own.get(self.kind):
            raise EditRejected(_WANTED[self.kind])
        entry = in_languages(entry_data({}, own), self.labels, languages)
        if self.kind == "group":
            if bool(self.first) == bool(self.under):
                raise EditRejected("A group needs entries: choose its first page, or a page whose child pages it has.")
            entry["items"] = [self.first] if self.first else {"auto": {"under": self.under}}
        return entry["page"] if list(entry) == ["page"] else entry

    @property
    def _others(self) -> tuple[str, ...]:
        """The words that entries of other kinds have."""
        return NOT_OF_KIND.get(self.kind, LEADS)

    def describe(self, before: Site) -> str:
        """What was done, in words."""
        name = self.words.get("label", "") if self.kind != "group" else ""
        name = "a line" if self.kind == "separator" else name or self.words.get(self.kind, "an entry")
        return f"Added {name} to the menu {self.menu}"


def _taken(data: MapData, menu: str, path: Path) -> tuple[list[MapData], Path]:
    """The entry at a path, taken out of its menu with the groups that are empty without it; and what was cut."""
    taken = [entries_in(data, menu, path[:-1]).pop(path[-1])]
    while len(path) > 1 and not entries_in(data, menu, path[:-1]):
        above = entries_in(data, menu, path[:-2])
        if "group" not in dict_of(above[path[-2]]):
            break
        path = path[:-1]
        above.pop(path[-1])
    return taken, path


def _group_of(group: dict[str, MapData], entry: Snippet) -> Snippet:
    """A new group with an entry in it as that is written."""
    words = [f"{word}: {written(value)}" for word, value in group.items() if word != "items"]
    lines = [f"{'  ' if number else '- '}{word}" for number, word in enumerate(words)]
    below = (f"    {line}" if line else line for line in entry.lines)
    return Snippet((*lines, "  items:", *below), f"{{{', '.join(words)}, items: [{entry.flow}]}}", entry.comments)
