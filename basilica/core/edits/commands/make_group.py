"""An entry is put into a new group."""

from __future__ import annotations

from basilica.core.edits.command import EditInProgress, MenuEdit, entry_label
from basilica.core.edits.fields import EntryNumber, MenuName
from basilica.core.edits.site_changes import at
from basilica.core.map.site import Entry, EntryKind, Site


class MakeGroup(MenuEdit, frozen=True, tag="make-group"):
    """An entry goes into a new group that takes its place."""

    menu: MenuName
    number: EntryNumber
    label: str

    def change(self, work: EditInProgress) -> None:
        """Do it, to the site and to the text."""
        path = work.entry_path(self.menu, self.number)
        work.text.wrap_entry(self.menu, path, self.label)
        group = Entry(EntryKind.GROUP, self.label, items=(at(work.site.menus[self.menu].written, path),))
        work.change_menu(self.menu, path[:-1], lambda e: (*e[: path[-1]], group, *e[path[-1] + 1 :]))

    def describe(self, before: Site) -> str:
        """What was done, in words."""
        return f"Put {entry_label(before, self.menu, self.number)} into the new group {self.label}"
