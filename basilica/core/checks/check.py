"""What a check is, and what it brings back."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import TYPE_CHECKING

from basilica.core.content import Contents
from basilica.core.document import Lines
from basilica.core.plan import Plan

if TYPE_CHECKING:
    from basilica.core.checks.built import BuiltSite


@dataclass(frozen=True, slots=True)
class Off:
    """Something that is off on a built page. ``written`` is the text, such as an address, that a person may have
    typed; it is looked for in the page's content to say where."""

    code: str
    key: str | None
    message: str
    remedy: str
    written: str = ""
    at: int | None = None
    """The offset in the map that it comes from, where that is known and is not the page's own line."""

    def place(self, plan: Plan, contents: Contents) -> tuple[tuple[int, int], str]:
        """Where a person mends it: line and column, and the file (empty for the map)."""
        if self.at is not None:
            return plan.site.lines.place(self.at), ""
        if self.key is None or self.key not in plan.site.pages:
            return (1, 1), ""
        content = contents.get(self.key)
        if content and self.written and self.written in content.text:
            return Lines.of(content.text).place(content.text.index(self.written)), content.name
        return plan.site.lines.place(plan.site.pages[self.key].at), ""


@dataclass(frozen=True, slots=True)
class Check:
    """One check: the codes it may bring up, why it matters, and the standard it comes from."""

    codes: tuple[str, ...]
    title: str
    why: str
    standard: str
    run: Callable[[BuiltSite], Iterator[Off]]
