"""An entry of any kind is added to a menu."""

from __future__ import annotations

from typing import Literal

from basilica.core.edits.command import Command, EditInProgress, EditRejected, Index
from basilica.core.edits.entry_words import LEADS, checked_words, entry_data, entry_snippet
from basilica.core.edits.map_data import MapData, entries_in
from basilica.core.map.schema.sections import SEPARATOR
from basilica.core.map.site import Site

_WANTED = {
    "page": "Choose the page that it leads to.",
    "url": "Write the address that it leads to.",
    "file": "Choose the file that it leads to.",
    "group": "Give the group a name.",
}


class AddEntry(Command, frozen=True, tag="add-entry"):
    """A new entry in ``menu``, below the entry ``parent`` (by number, None: at the top), in place ``index`` (None: the
    last). It is of a ``kind``: `page`, `url`, `file`, `group`, or `separator`, a line between entries; of ``words``,
    those of `SetEntry`, it has the ones of its kind. A group begins with a page in it (``first``), since an empty one
    is none, or has the child pages of one (``under``) and follows them."""

    menu: str
    parent: Index | None
    kind: Literal["page", "url", "file", "group", "separator"]
    words: dict[str, str]
    index: Index | None = None
    first: str = ""
    under: str = ""

    def change(self, work: EditInProgress) -> None:
        """Do it, to the site and to the text."""
        entry = self._entry(checked_words(self.words))
        path = work.list_path(self.menu, self.parent)
        data = work.data()
        entries = entries_in(data, self.menu, path)
        index = len(entries) if self.index is None else min(self.index, len(entries))
        entries.insert(index, entry)
        work.text.insert_entry(self.menu, path, index, entry_snippet(entry))
        work.take_data(data)

    def _entry(self, words: dict[str, str]) -> MapData:
        if self.kind == "separator":
            return SEPARATOR
        others = (*(lead for lead in LEADS if lead != self.kind), *(("label",) if self.kind == "group" else ()))
        own = {word: value for word, value in words.items() if word not in others}
        if not own.get(self.kind):
            raise EditRejected(_WANTED[self.kind])
        entry = entry_data({}, own)
        if self.kind == "group":
            if bool(self.first) == bool(self.under):
                raise EditRejected("A group needs entries: choose its first page, or a page whose child pages it has.")
            entry["items"] = [self.first] if self.first else {"auto": {"under": self.under}}
        return entry["page"] if list(entry) == ["page"] else entry

    def describe(self, before: Site) -> str:
        """What was done, in words."""
        name = next(
            (self.words[word] for word in ("label", "group", "page", "file", "url") if self.words.get(word)), ""
        )
        return f"Added {name or 'a line'} to the menu {self.menu}"
