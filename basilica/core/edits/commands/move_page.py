"""A page is moved in the tree."""

from __future__ import annotations

from basilica.core.edits.command import Command, EditInProgress, EditRejected, below, label_of
from basilica.core.edits.fields import Index, PageKey
from basilica.core.edits.site_changes import Tree
from basilica.core.map.site import Site


class MovePage(Command, frozen=True, tag="move-page"):
    """A page, with those under it, goes below ``parent``, in place ``index`` among the other pages there."""

    key: PageKey
    parent: PageKey | None
    index: Index

    def change(self, work: EditInProgress) -> None:
        """Do it, to the site and to the text."""
        if self.parent == self.key or (self.parent or "").startswith(self.key + "/"):
            raise EditRejected("A page cannot go below itself. Nothing was changed.")
        tree = Tree(work.site)
        branch = tree.take(self.key)
        below = tree.below(self.parent)
        index = tree.place_below(self.parent, self.index)
        below.insert(index, branch)
        work.text.insert_page(self.parent, index, work.text.cut_page(self.key))
        work.take_tree(tree)
        work.chosen = work.keys[self.key]

    def describe(self, before: Site) -> str:
        """What was done, in words."""
        page = label_of(before, self.key)
        if before.pages[self.key].parent == self.parent:
            return f"Moved {page} among its neighbours"
        return f"Moved {page} {below(before, self.parent)}" if self.parent is not None else f"Moved {page} to the top"
