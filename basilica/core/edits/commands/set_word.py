"""A key of a page is set."""

from __future__ import annotations

from typing import ClassVar

from basilica.core.edits.command import Command, EditInProgress, EditRejected, label_of
from basilica.core.edits.fields import PageKey, PageWord
from basilica.core.edits.site_changes import WORDS, plain_value, with_word
from basilica.core.map.document.scalar_writer import write_scalar
from basilica.core.map.site import Site
from basilica.core.map.site.references import References, shortest


class SetWord(Command, frozen=True, tag="set-word"):
    """Another value for one of a page's keys, such as `description`; an empty one, or the default, takes the key out.
    Several values of `hidden` have spaces between them."""

    key: PageKey
    word: PageWord
    value: str

    settles: ClassVar[bool] = True

    def change(self, work: EditInProgress) -> None:
        """Do it, to the site and to the text."""
        if self.word not in WORDS:
            raise EditRejected(f"`{self.word}` is not a key of a page that can be written here. Nothing was changed.")
        if work.set_cell(self.key, self.word, self.value):
            return
        value = written = plain_value(work.site, self.key, self.word, self.value)
        if self.word == "highlight" and value:
            found = References(work.site.pages).find(value)
            if len(found) != 1:
                raise EditRejected(f"There is no page `{value}`. Nothing was changed.")
            value, written = found[0], shortest(found[0], References(work.site.pages))
        flow = write_scalar(written) if written else None
        if self.word == "hidden" and " " in value:
            flow = f"[{', '.join(value.split())}]"
        work.removes(("pages", self.key, self.word))
        work.text.set_word(self.key, self.word, flow)
        work.change_page(self.key, lambda page: with_word(page, self.word, value))

    def describe(self, before: Site) -> str:
        """What was done, in words."""
        page = label_of(before, self.key)
        return f"Set the {self.word} of {page}" if self.value else f"Removed the {self.word} of {page}"
