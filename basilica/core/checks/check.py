"""What a check is, and what it brings back."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from enum import StrEnum

from basilica.core.catalogue import Level
from basilica.core.checks.reading import BuiltPage, BuiltSite
from basilica.core.content import Contents
from basilica.core.document import Lines
from basilica.core.plan import Plan

Example = str | Mapping[str, str]
"""A map, or a piece of a page; or files by their names, each a page or a piece of one."""

COMMON = "common practice, no source"


class Reads(StrEnum):
    """What a check is asked about."""

    MAP = "map"
    """What the map says."""
    BUILT = "built"
    """Built pages, held against the map."""
    ANY = "any"
    """Built pages, of which no map need be known."""


@dataclass(frozen=True, slots=True)
class Off:
    """Something that is off. ``page`` is None where it is true of the whole site.

    ``written`` is the text, such as an address, that a person may have typed; it is looked for in the page's content to
    say where. ``at`` is the offset in the map that it comes from, where that is known and is not the page's own line.
    ``spot`` says where it stands in the page: a CSS selector, and the how-manieth that it meets, from 0. ``part`` is
    the shared part in which it stands: the name of a menu (`menu-main`), `breadcrumbs`, `header` or `footer`."""

    page: BuiltPage | None
    message: str
    remedy: str = ""
    spot: tuple[str, int] | None = None
    written: str = ""
    at: int | None = None
    part: str = ""
    key: str | None = None
    """The page of the map, where it is about one that was not built."""

    @property
    def about(self) -> str | None:
        """The key of the page that it is about."""
        return self.page.key if self.page is not None and self.page.key is not None else self.key

    def place(self, plan: Plan, contents: Contents) -> tuple[tuple[int, int], str]:
        """Where a person mends it: line and column, and the file (empty for the map)."""
        if self.at is not None:
            place = plan.site.lines.place(self.at)
            return place, getattr(place, "file", "")
        key = self.about
        if key is None or key not in plan.site.pages:
            return (1, 1), ""
        content = contents.get(key)
        if content and self.written and self.written in content.text:
            return Lines.of(content.text).place(content.text.index(self.written)), content.name
        place = plan.site.lines.place(plan.site.pages[key].at)
        return place, getattr(place, "file", "")


@dataclass(frozen=True, slots=True)
class Check:
    """One check. ``run`` is None for what is said while the map is read, since nothing can be built without it."""

    code: str
    level: Level
    title: str
    why: str
    standard: str
    remedy: str
    good: Example
    bad: Example
    reads: Reads
    run: Callable[[BuiltSite], Iterator[Off]] | None
    applies: Callable[[BuiltSite, BuiltPage], bool] = lambda built, page: True
    """Whether a page is asked at all; where it is not, that is on purpose."""
    of_redirects: bool = False
    """Whether what stands at old addresses is asked too."""
