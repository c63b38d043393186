"""A page is named."""

from __future__ import annotations

from typing import ClassVar

from basilica.core.edits.command import Command, EditInProgress, label_of
from basilica.core.edits.fields import PageKey
from basilica.core.edits.site_changes import with_name
from basilica.core.map.document.scalar_writer import write_scalar
from basilica.core.map.site import Site


class NamePage(Command, frozen=True, tag="name-page"):
    """Another name for a page: its label where it has one of its own, else its title."""

    key: PageKey
    name: str

    settles: ClassVar[bool] = True

    def change(self, work: EditInProgress) -> None:
        """Do it, to the site and to the text."""
        page = work.site.pages[self.key]
        if work.set_cell(self.key, "label" if page.own_label else "title", self.name):
            return
        if "label" in page.from_text:  # that of the text would show, whatever the title is
            work.text.set_word(self.key, "label", write_scalar(self.name))
        else:
            work.text.name_page(self.key, "label" if page.own_label else "title", self.name)
        work.change_page(self.key, lambda page: with_name(page, self.name))

    def describe(self, before: Site) -> str:
        """What was done, in words."""
        return f"Named {label_of(before, self.key)} {self.name}"
