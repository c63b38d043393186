"""An entry is moved in its menu."""

from __future__ import annotations

from basilica.core.edits.command import EditInProgress, EditRejected, MenuEdit, entry_label
from basilica.core.edits.fields import EntryNumber, Index, MenuName
from basilica.core.edits.site_changes import at, changed_without, inside, within, without_item, without_path
from basilica.core.map.site import Site


class MoveEntry(MenuEdit, frozen=True, tag="move-entry"):
    """An entry, with those under it, goes below the entry ``parent``, in place ``index`` among the others there."""

    menu: MenuName
    number: EntryNumber
    parent: EntryNumber | None
    index: Index

    def change(self, work: EditInProgress) -> None:
        """Do it, to the site and to the text."""
        menu = self.menu
        # Both are looked up twice: writing `auto` out for the one may move the other.
        work.entry_path(menu, self.number)
        to = work.list_path(menu, self.parent)
        path = work.entry_path(menu, self.number)
        if to[: len(path)] == path:
            raise EditRejected("An entry cannot go below itself. Nothing was changed.")
        entry = at(work.site.menus[menu].written, path)
        chunk = work.text.cut_entry(menu, path)
        work.site = without_item(work.site, menu, changed_without(work.site, menu, path))
        work.removes_empty_groups(menu, path[:-1])
        to = without_path(to, path)
        index = within(self.index, inside(work.site.menus[menu].written, to))
        work.text.insert_entry(menu, to, index, chunk)
        work.change_menu(menu, to, lambda entries: (*entries[:index], entry, *entries[index:]))
        work.text.prune([menu])
        work.chosen = entry.page

    def describe(self, before: Site) -> str:
        """What was done, in words."""
        into = f" into {entry_label(before, self.menu, self.parent)}" if self.parent is not None else ""
        return f"Moved {entry_label(before, self.menu, self.number)} in the menu {self.menu}{into}"
