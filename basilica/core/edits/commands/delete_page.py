"""A page is deleted."""

from __future__ import annotations

from basilica.core.edits.command import Command, EditInProgress, label_of
from basilica.core.edits.site_changes import Tree, leading_to
from basilica.core.map.site import Site


class DeletePage(Command, frozen=True, tag="delete-page"):
    """A page is deleted, with those under it and every entry that leads to one of them."""

    key: str

    def change(self, work: EditInProgress) -> None:
        """Do it, to the site and to the text."""
        tree = Tree(work.site)
        tree.take(self.key)
        gone = {other for other in work.site.pages if other == self.key or other.startswith(self.key + "/")}
        for name, menu in work.site.menus.items():
            if menu.settings.section in gone:
                continue  # it goes as a whole
            for path in reversed(leading_to(menu.written, gone)):
                work.text.cut_entry(name, path)
        work.text.prune(work.site.menus)
        work.text.cut_page(self.key)
        work.chosen = work.site.pages[self.key].parent or work.site.home
        work.take_tree(tree)

    def describe(self, before: Site) -> str:
        """What was done, in words."""
        return f"Deleted {label_of(before, self.key)}"
