"""A slot is filled."""

from __future__ import annotations

from dataclasses import replace
from typing import ClassVar

from basilica.core.edits.command import Command, EditInProgress, label_of
from basilica.core.edits.fields import PageKey
from basilica.core.edits.part_changes import names_in, with_slot
from basilica.core.map.document.scalar_writer import write_scalar
from basilica.core.map.site import Page, Site
from basilica.core.map.site.part_reader import NONE


class FillSlot(Command, frozen=True, tag="fill-slot"):
    """The parts, by name with spaces between them, that fill a slot: everywhere, or (``key``) on a page and those under
    it. None at all takes the line out; on a page, `none` leaves the slot empty there."""

    slot: str
    parts: str
    key: PageKey | None = None

    settles: ClassVar[bool] = True

    def change(self, work: EditInProgress) -> None:
        """Do it, to the site and to the text."""
        names = names_in(self.parts)
        empty = self.parts.strip() == NONE
        flow = None if not names else write_scalar(names[0]) if len(names) == 1 else f"[{', '.join(names)}]"
        work.removes((*(("pages", self.key) if self.key is not None else ()), "slots", self.slot))
        work.text.set_under(self.key, ("slots",), self.slot, NONE if empty else flow)
        filled = names if names or empty else None
        if self.key is None:
            work.site = replace(work.site, slots=with_slot(work.site.slots, self.slot, filled))
            return

        def change(page: Page) -> Page:
            extra = replace(page.options.extra, slots=with_slot(page.options.extra.slots, self.slot, filled))
            return page._replace(set_options=replace(page.options, extra=extra))

        work.change_page(self.key, change)

    def describe(self, before: Site) -> str:
        """What was done, in words."""
        return f"Filled the slot {self.slot}" + (f" on {label_of(before, self.key)}" if self.key is not None else "")
