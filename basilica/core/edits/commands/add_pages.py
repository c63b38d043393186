"""Several pages are added at once."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from typing import Literal

from msgspec import Struct

from basilica.core.edits.command import Command, EditInProgress, EditRejected, below, label_of
from basilica.core.edits.fields import Index, PageKey
from basilica.core.edits.map_data import written
from basilica.core.edits.site_changes import Branch, Tree, new_page
from basilica.core.edits.source_patcher import Snippet
from basilica.core.map.document.scalar_writer import write_scalar
from basilica.core.map.site import Site
from basilica.core.map.site.ids import id_from


class ListedPage(Struct, frozen=True):
    """A page of a list: its ``title``, its ``path`` where it has one, and the pages under it."""

    title: str
    path: str = ""
    pages: tuple[ListedPage, ...] = ()


class AddPages(Command, frozen=True, tag="add-pages"):
    """The ``pages`` of a list, with those under them, in the ``place`` `under` the page ``key`` or `after` it. A page
    that stands there already, by its id, is left as it is, and what is under it in the list comes under it. With
    ``menu``, new pages are in that menu too, as with `AddPage`; those at the top of the list in the place ``index``
    among the entries there, where that is given."""

    pages: tuple[ListedPage, ...]
    key: PageKey
    place: Literal["under", "after"]
    menu: str = ""
    index: Index | None = None

    def change(self, work: EditInProgress) -> None:
        """Do it, to the site and to the text."""
        tree, parent = Tree(work.site), self._parent(work.site)
        there = tree.below(parent)
        own = tree.place_below(parent, len(there))
        after = next((at for at, branch in enumerate(there, 1) if branch.page.key == self.key), own)
        runs: list[list[str]] = []
        self._add(work, there, parent, after, self.pages, runs)
        if not runs:
            raise EditRejected("Every page of the list is there already. Nothing was changed.")
        work.take_tree(tree)
        work.chosen = runs[0][0]
        for keys in runs if self.menu else ():
            work.add_run_where_it_belongs(self.menu, keys, self.index if len(runs) == 1 else None)

    def _parent(self, site: Site) -> str | None:
        return self.key if self.place == "under" else site.pages[self.key].parent

    def already_there(self, site: Site) -> tuple[str, ...]:
        """The labels of the pages of the list that stand there already, and are left as they are."""
        return tuple(_there(self.pages, site, self._parent(site))) if self.key in site.pages else ()

    def _add(
        self,
        work: EditInProgress,
        there: list[Branch],
        parent: str | None,
        index: int,
        pages: Iterable[ListedPage],
        runs: list[list[str]],
    ) -> None:
        """Add pages below ``parent``. ``runs`` gets the keys of new ones that stand side by side; those are written at
        once, since a list may have thousands."""
        fresh: list[Branch] = []
        taken = {branch.page.id for branch in there}
        known = {branch.page.id: branch for branch in there}
        for listed in pages:
            page_id = id_from(listed.title, ())
            if page_id in known:
                key = f"{parent}/{page_id}" if parent else page_id
                below = known[page_id].pages
                last = sum(not branch.page.options.from_table for branch in below)
                self._add(work, below, key, last, listed.pages, runs)
                continue
            fresh.append(_branch(listed, taken))
            taken.add(fresh[-1].page.id)
        if fresh:
            work.text.insert_page(parent, index, _joined([_snippet(branch) for branch in fresh]))
            there[index:index] = fresh
            runs.append([f"{parent}/{branch.page.id}" if parent else branch.page.id for branch in fresh])

    def describe(self, before: Site) -> str:
        """What was done, in words."""
        count = sum(1 for _ in _all(self.pages)) - len(self.already_there(before))
        return f"Added {count} {'page' if count == 1 else 'pages'} {below(before, self._parent(before))}"


def _there(pages: Iterable[ListedPage], site: Site, parent: str | None) -> Iterator[str]:
    for listed in pages:
        page_id = id_from(listed.title, ())
        key = f"{parent}/{page_id}" if parent else page_id
        if key in site.pages:
            yield label_of(site, key)
            yield from _there(listed.pages, site, key)


def _all(pages: Iterable[ListedPage]) -> Iterator[ListedPage]:
    for page in pages:
        yield page
        yield from _all(page.pages)


def _branch(listed: ListedPage, taken: set[str]) -> Branch:
    page = new_page(id_from(listed.title, taken), listed.title)
    branch = Branch(page._replace(path=listed.path or None))
    ids: set[str] = set()
    for each in listed.pages:
        branch.pages.append(_branch(each, ids))
        ids.add(branch.pages[-1].page.id)
    return branch


def _joined(snippets: list[Snippet]) -> Snippet:
    """Pages side by side as one piece of the text."""
    return Snippet(tuple(line for each in snippets for line in each.lines), ", ".join(each.flow for each in snippets))


def _snippet(branch: Branch) -> Snippet:
    page = branch.page
    if page.path is None and not branch.pages:
        return Snippet.of(f"{page.id}: {write_scalar(page.title)}")
    own = _data(branch)
    lines = [f"{page.id}:", *(f"  {word}: {write_scalar(str(own[word]))}" for word in ("path", "title") if word in own)]
    if branch.pages:
        lines.append("  pages:")
        lines += [f"    {line}" for each in branch.pages for line in _snippet(each).lines]
    return Snippet(tuple(lines), f"{page.id}: {written(own)}")


def _data(branch: Branch) -> dict[str, object]:
    page = branch.page
    found: dict[str, object] = {"path": page.path} if page.path is not None else {}
    found["title"] = page.title
    if branch.pages:
        found["pages"] = {each.page.id: _data(each) for each in branch.pages}
    return found
