"""An entry is removed from a menu."""

from __future__ import annotations

from basilica.core.edits.command import EditInProgress, MenuEdit, entry_label
from basilica.core.edits.fields import EntryNumber, MenuName, numbered
from basilica.core.edits.site_changes import at, changed_without, without_item
from basilica.core.map.site import Site


class RemoveFromMenu(MenuEdit, frozen=True, tag="remove-from-menu"):
    """An entry leaves its menu, with those under it. One that `auto` makes becomes an exception of that, so that the
    menu goes on following the pages."""

    menu: MenuName
    number: EntryNumber

    def change(self, work: EditInProgress) -> None:
        """Do it, to the site and to the text."""
        there = numbered(work.site.menus[self.menu].entries)[self.number]
        path = work.path_of(self.menu, self.number)
        if work.is_auto(self.menu, path) and there.page is not None and not self.write_out:
            left = at(work.site.menus[self.menu].written, path).auto_options
            work.set_auto(self.menu, path, (*(left.without if left is not None else ()), there.page))
            return
        if work.is_auto(self.menu, path):
            with work.text.comments_kept(self.menu, path):  # what was said of it is not said of its first entry
                self._remove(work)
        else:
            self._remove(work)

    def _remove(self, work: EditInProgress) -> None:
        path = work.entry_path(self.menu, self.number)
        work.removes_entry(self.menu, path)
        work.text.cut_entry(self.menu, path)
        work.site = without_item(work.site, self.menu, changed_without(work.site, self.menu, path))
        work.removes_empty_groups(self.menu, path[:-1])
        work.change_menu(self.menu, (), lambda entries: entries)
        work.text.prune([self.menu])

    def describe(self, before: Site) -> str:
        """What was done, in words."""
        return f"Removed {entry_label(before, self.menu, self.number)} from the menu {self.menu}"
