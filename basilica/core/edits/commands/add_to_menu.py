"""A page gets an entry in a menu."""

from __future__ import annotations

from basilica.core.edits.command import EditInProgress, EditRejected, MenuEdit, label_of
from basilica.core.edits.fields import EntryNumber, Index, PageKey
from basilica.core.edits.source_patcher import Snippet
from basilica.core.map.site import Entry, EntryKind, Site
from basilica.core.map.site.references import References, shortest


class AddToMenu(MenuEdit, frozen=True, tag="add-to-menu"):
    """A page gets an entry in ``menu``, below the entry ``parent`` (by number, None: at the top). One that
    `auto` leaves out by name is left in again."""

    menu: str
    key: PageKey
    parent: EntryNumber | None
    index: Index

    def change(self, work: EditInProgress) -> None:
        """Do it, to the site and to the text."""
        menu = work.site.menus.get(self.menu)
        if menu is not None and _has(menu.entries, self.key):
            label = label_of(work.site, self.key)
            raise EditRejected(
                f"{label} is in the menu {self.menu} already. To have it twice, add a new entry that leads to it. "
                "Nothing was changed."
            )
        work.chosen = self.key
        if work.leave_in(self.menu, self.key):
            return
        path, index = work.place_beside(self.menu, self.parent, self.index)
        reference = shortest(self.key, References(work.site.pages))
        entry = Entry(EntryKind.PAGE, "", page=self.key)
        work.insert(self.menu, path, index, Snippet((f"- {reference}",), reference), entry)

    def describe(self, before: Site) -> str:
        """What was done, in words."""
        return f"Added {label_of(before, self.key)} to the menu {self.menu}"


def _has(entries: tuple[Entry, ...], key: str) -> bool:
    """Whether a page stands among some entries, or below one of them."""
    return any((entry.kind is EntryKind.PAGE and entry.page == key) or _has(entry.items, key) for entry in entries)
