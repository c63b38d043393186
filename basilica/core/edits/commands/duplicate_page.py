"""A page is made again beside itself."""

from __future__ import annotations

from basilica.core.edits.command import Command, EditInProgress, EditRejected, label_of
from basilica.core.edits.fields import PageKey
from basilica.core.edits.map_data import holder_of, written
from basilica.core.edits.source_patcher import Snippet
from basilica.core.map.site import Site
from basilica.core.map.site.ids import id_from

_OWN = ("pages", "path", "was", "also", "label", "table", "include", "title")
"""Words of a page that its copy does not have, or has in its own way."""


class DuplicatePage(Command, frozen=True, tag="duplicate-page"):
    """A copy of a page comes behind it, with its settings, and without the pages under it and its addresses."""

    key: PageKey

    def change(self, work: EditInProgress) -> None:
        """Do it, to the site and to the text."""
        if self.key == work.site.home:
            raise EditRejected("There is one home page. Make a new page, and copy its content. Nothing was changed.")
        page = work.site.pages[self.key]
        title = f"{page.title} (copy)"
        among = work.site.pages[page.parent].children if page.parent is not None else work.site.top
        page_id = id_from(title, {key.rpartition("/")[2] for key in among})
        data = work.data()
        holder = holder_of(data, self.key)
        pages = holder["pages"]
        known = pages[page.id]
        words = {word: value for word, value in known.items() if word not in _OWN} if isinstance(known, dict) else {}
        for tag in work.site.languages[1:]:  # each language has its own title and addresses
            said = words.get(tag)
            if isinstance(said, dict):
                named = {"title": f"{said['title']} (copy)"} if said.get("title") else {}
                words[tag] = {**named, **{word: value for word, value in said.items() if word not in _OWN}}
            elif said:
                words[tag] = f"{said} (copy)"
        copy = {"title": title, **words} if words else title
        holder["pages"] = {}
        for name, value in pages.items():
            holder["pages"][name] = value
            if name == page.id:
                holder["pages"][page_id] = copy
        work.text.insert_page(page.parent, among.index(self.key) + 1, Snippet.of(f"{page_id}: {written(copy)}"))
        work.take_data(data)
        work.chosen = f"{page.parent}/{page_id}" if page.parent else page_id

    def describe(self, before: Site) -> str:
        """What was done, in words."""
        return f"Duplicated {label_of(before, self.key)}"
