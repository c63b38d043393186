"""The id of a page is changed."""

from __future__ import annotations

from basilica.core.edits.command import Command, EditInProgress
from basilica.core.edits.fields import PageKey
from basilica.core.edits.site_changes import Tree, with_id
from basilica.core.map.site import Site


class RenameId(Command, frozen=True, tag="rename-id"):
    """Another id for a page."""

    key: PageKey
    id: str

    def change(self, work: EditInProgress) -> None:
        """Do it, to the site and to the text."""
        above, slash, _ = (work.site.pages[self.key].path or "").rstrip("/").rpartition("/")
        if work.set_cell(self.key, "path", f"{above}{slash}{self.id}"):
            return
        tree = Tree(work.site)
        tree.change(self.key, lambda page: with_id(page, self.id))
        work.text.set_id(self.key, self.id)
        work.take_tree(tree)
        work.chosen = work.keys[self.key]

    def describe(self, before: Site) -> str:
        """What was done, in words."""
        return f"Renamed the id {before.pages[self.key].id} to {self.id}"
