"""A word of the header is set."""

from __future__ import annotations

from dataclasses import replace
from typing import ClassVar

from basilica.core.edits.command import Command, EditInProgress, EditRejected, label_of
from basilica.core.edits.fields import HeaderWord, PageKey
from basilica.core.edits.site_changes import header_words, with_header_word
from basilica.core.map.document.scalar_writer import write_scalar
from basilica.core.map.site import Page, Site
from basilica.core.map.site.model import Header


class SetHeader(Command, frozen=True, tag="set-header"):
    """Another value for one of the header's words; an empty one takes it out. It holds for the site, or (``key``) for
    a page and those under it; and in every window, or (``mobile``) below a width."""

    word: HeaderWord
    value: str
    key: PageKey | None = None
    mobile: bool = False

    settles: ClassVar[bool] = True

    def change(self, work: EditInProgress) -> None:
        """Do it, to the site and to the text."""
        value = " ".join(self.value.split())
        if self.word not in header_words(self.key is not None, self.mobile):
            raise EditRejected(f"`{self.word}` is not a word of the header here. Nothing was changed.")
        names = ("header", "mobile") if self.mobile else ("header",)
        flow = value if value.isdecimal() else write_scalar(value)
        work.removes((*(("pages", self.key) if self.key is not None else ()), *names, self.word))
        work.text.set_under(self.key, names, self.word, flow if value else None)
        if self.key is None:
            work.site = replace(work.site, header=with_header_word(work.site.header, self.word, value, self.mobile))
            return

        def change(page: Page) -> Page:
            header = page.options.header
            if header is None and not value:
                return page
            return page._replace(
                set_options=replace(
                    page.options, header=with_header_word(header or Header(), self.word, value, self.mobile)
                )
            )

        work.change_page(self.key, change)

    def describe(self, before: Site) -> str:
        """What was done, in words."""
        where = f" on {label_of(before, self.key)}" if self.key is not None else ""
        of = f" of the header{where}{' on mobile' if self.mobile else ''}"
        return f"Set the {self.word}{of}" if self.value else f"Removed the {self.word}{of}"
