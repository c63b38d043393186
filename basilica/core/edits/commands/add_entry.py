"""An entry of any kind is added to a menu."""

from __future__ import annotations

from basilica.core.edits.command import Command, EditInProgress, EditRejected, Index
from basilica.core.edits.entry_words import LEADS, checked_words, entry_data, entry_snippet
from basilica.core.edits.map_data import MapData, entries_in
from basilica.core.map.schema.sections import SEPARATOR
from basilica.core.map.site import Site


class AddEntry(Command, frozen=True, tag="add-entry"):
    """A new entry in ``menu``, below the entry ``parent`` (by number, None: at the top), in place ``index``. ``words``
    are those of `SetEntry`, one of which says where it leads; ``separator`` alone is a line between entries. A group
    begins with a page in it (``first``), since an empty one is none."""

    menu: str
    parent: Index | None
    index: Index
    words: dict[str, str]
    first: str = ""

    def change(self, work: EditInProgress) -> None:
        """Do it, to the site and to the text."""
        words = checked_words(self.words)
        leads = [word for word in LEADS if words.get(word)]
        is_line = self.words == {"separator": ""}
        if len(leads) != 1 and not is_line:
            raise EditRejected("Say where the entry leads: to a page, a file or an address; or give a group its name.")
        if leads == ["group"] and not self.first:
            raise EditRejected("A group needs an entry in it. Choose a page for it.")
        path = work.list_path(self.menu, self.parent)
        data = work.data()
        entry: MapData = SEPARATOR
        if not is_line:
            entry = entry_data({}, words) | ({"items": [self.first]} if self.first else {})
            if list(entry) == ["page"]:
                entry = entry["page"]
        entries = entries_in(data, self.menu, path)
        index = min(self.index, len(entries))
        entries.insert(index, entry)
        work.text.insert_entry(self.menu, path, index, entry_snippet(entry))
        work.take_data(data)

    def describe(self, before: Site) -> str:
        """What was done, in words."""
        name = next(
            (self.words[word] for word in ("label", "group", "page", "file", "url") if self.words.get(word)), ""
        )
        return f"Added {name or 'a line'} to the menu {self.menu}"
