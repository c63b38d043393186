"""A page is added."""

from __future__ import annotations

from basilica.core.edits.command import Command, EditInProgress, below
from basilica.core.edits.fields import Index, PageKey
from basilica.core.edits.site_changes import Branch, Tree, new_page
from basilica.core.edits.source_patcher import Snippet
from basilica.core.map.document.scalar_writer import write_scalar
from basilica.core.map.site import Site
from basilica.core.map.site.ids import id_from


class AddPage(Command, frozen=True, tag="add-page"):
    """A new page named ``title``, below ``parent`` (None: at the top), in place ``index`` among the pages there.
    Its id is made from the title. With ``menu``, it is in that menu too, in its place there, if the page above has an
    entry in it; where a menu follows the pages, it is there by itself."""

    title: str
    parent: PageKey | None
    index: Index
    menu: str = ""

    def change(self, work: EditInProgress) -> None:
        """Do it, to the site and to the text."""
        tree = Tree(work.site)
        below = tree.below(self.parent)
        page_id = id_from(self.title, {branch.page.id for branch in below})
        index = tree.place_below(self.parent, self.index)
        below.insert(index, Branch(new_page(page_id, self.title)))
        work.text.insert_page(self.parent, index, Snippet.of(f"{page_id}: {write_scalar(self.title)}"))
        work.take_tree(tree)
        work.chosen = f"{self.parent}/{page_id}" if self.parent else page_id
        if self.menu:
            work.add_where_it_belongs(self.menu, work.chosen)

    def describe(self, before: Site) -> str:
        """What was done, in words."""
        return f"Added {self.title} {below(before, self.parent)}"
