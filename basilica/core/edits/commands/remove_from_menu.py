"""An entry is removed from a menu."""

from __future__ import annotations

from basilica.core.edits.command import Command, EditInProgress, Index, entry_label
from basilica.core.edits.site_changes import without
from basilica.core.map.site import Site


class RemoveFromMenu(Command, frozen=True, tag="remove-from-menu"):
    """An entry leaves its menu, with those under it."""

    menu: str
    number: Index

    def change(self, work: EditInProgress) -> None:
        """Do it, to the site and to the text."""
        path = work.entry_path(self.menu, self.number)
        work.text.cut_entry(self.menu, path)
        work.change_menu(self.menu, path[:-1], lambda entries: without(entries, path[-1]))
        work.text.prune([self.menu])

    def describe(self, before: Site) -> str:
        """What was done, in words."""
        return f"Removed {entry_label(before, self.menu, self.number)} from the menu {self.menu}"
