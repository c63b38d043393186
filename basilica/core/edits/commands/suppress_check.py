"""A check is ignored, or no longer."""

from __future__ import annotations

from dataclasses import replace
from typing import ClassVar

from basilica.core.edits.command import Command, EditInProgress, label_of
from basilica.core.edits.fields import PageKey
from basilica.core.edits.site_changes import with_item, with_rule
from basilica.core.language.sections.checks_words import LevelSetting
from basilica.core.map.document.scalar_writer import write_scalar
from basilica.core.map.site import Page, Site


class SuppressCheck(Command, frozen=True, tag="suppress-check"):
    """The reason for which a check is ignored: everywhere, or (``key``) on a page and those under it. With an empty one
    it is ignored no longer."""

    code: str
    reason: str
    key: PageKey | None = None

    settles: ClassVar[bool] = True

    def change(self, work: EditInProgress) -> None:
        """Do it, to the site and to the text."""
        reason = " ".join(self.reason.split())
        work.removes(("checks", "levels", self.code) if self.key is None else ("pages", self.key, "ignore", self.code))
        if self.key is None:
            flow = f"{{level: ignore, reason: {write_scalar(reason)}}}" if reason else None
            work.text.set_under(None, ("checks", "levels"), self.code, flow)
            if flow is None:
                work.text.prune_under(None, ("checks", "levels"))
            setting = LevelSetting(self.code, "ignore", reason) if reason else None
            work.site = replace(work.site, checks=with_rule(work.site.checks, self.code, setting))
            return
        work.text.set_under(self.key, ("ignore",), self.code, write_scalar(reason) if reason else None)
        if not reason:
            work.text.prune_under(self.key, ("ignore",))

        def change(page: Page) -> Page:
            known = dict(page.options.extra.ignored)
            ignored = with_item(page.options.extra.ignored, self.code, reason or None)
            if ignored == tuple(known.items()):
                return page
            return page._replace(set_options=replace(page.options, extra=replace(page.options.extra, ignored=ignored)))

        work.change_page(self.key, change)

    def describe(self, before: Site) -> str:
        """What was done, in words."""
        where = f" on {label_of(before, self.key)}" if self.key is not None else ""
        return f"Ignored {self.code}{where}" if self.reason.strip() else f"Stopped ignoring {self.code}{where}"
