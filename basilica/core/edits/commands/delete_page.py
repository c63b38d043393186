"""A page is deleted."""

from __future__ import annotations

from collections.abc import Collection, Iterator

from basilica.core.edits.accounted_words import WordPlace
from basilica.core.edits.command import Command, EditInProgress, EditRejected, label_of
from basilica.core.edits.fields import PageKey
from basilica.core.edits.site_changes import Tree, at, leading_to
from basilica.core.language.sections.menu_words import AUTO_WORD
from basilica.core.map.site import EntryKind, Site


class DeletePage(Command, frozen=True, tag="delete-page"):
    """A page is deleted, with those under it and every entry that leads to one of them."""

    key: PageKey

    def change(self, work: EditInProgress) -> None:
        """Do it, to the site and to the text."""
        tree = Tree(work.site)
        tree.take(self.key)
        gone = {other for other in work.site.pages if other == self.key or other.startswith(self.key + "/")}
        is_row = self.key in work.site.rows
        parent = work.site.pages[self.key].parent
        if is_row and parent is not None and work.site.pages[parent].options.from_table:
            gone |= {parent} if len(work.site.pages[parent].children) == 1 else set()  # a section is its rows
        for name, menu in work.site.menus.items():
            if menu.settings.section in gone:
                work.removes(("menus", name))  # it goes as a whole
                continue
            for path in reversed(leading_to(menu.written, gone)):
                entry = at(menu.written, path)
                if work.text.is_instead_of_a_list(name, path):
                    label = label_of(work.site, entry.page or self.key)
                    raise EditRejected(
                        f"The menu {name} has the pages under {label} and nothing else. Give it other entries first, "
                        "or delete it. Nothing was changed."
                    )
                if entry.kind is EntryKind.GROUP:
                    work.notes.append(f"removed the group {entry.label}, which is empty without it")
                work.removes_entry(name, path)
                work.text.cut_entry(name, path)
        work.text.prune(work.site.menus)
        work.removes(*(("pages", key) for key in gone), ("menus", "*", "entries", AUTO_WORD))
        work.removes(*_naming(work.site, gone))
        work.chosen = next((above for above in work.site.ancestors(self.key) if above not in gone), work.site.home)
        if is_row:
            work.rows.cut(work.site, self.key)
            return
        work.text.cut_page(self.key)
        work.take_tree(tree)

    def describe(self, before: Site) -> str:
        """What was done, in words."""
        return f"Deleted {label_of(before, self.key)}"


def _naming(site: Site, gone: Collection[str]) -> Iterator[WordPlace]:
    """The words that name one of the pages that are gone: they go with it."""
    for key, page in site.pages.items():
        own = page.options
        if own.highlight in gone:
            yield "pages", key, "highlight"
        if own.trail_parent in gone or any(level.page in gone for level in own.trail):
            yield "pages", key, "breadcrumbs"
    yield from (("redirects", one.path) for one in site.redirects if one.page in gone)
