"""The focus goes through the page as one reads it."""

from __future__ import annotations

from collections.abc import Iterator

from basilica.core.findings.check import Check, Violation
from basilica.core.rules.rule import Level, Stage
from basilica.core.site_reader import BuiltPage, BuiltSite, Region

_ORDER = ("banner", "main", "contentinfo")


def run(built: BuiltSite) -> Iterator[Violation]:
    """A ``tabindex`` above 0, which jumps the queue; and header, content and footer in another order."""
    jumps: dict[Region, bool] = {}

    def jumping(region: Region) -> bool:
        found = jumps.get(region)
        if found is None:
            found = jumps[region] = any(stop.tabindex > 0 for stop in region.stops)
        return found

    for page in built.pages:
        if any(jumping(region) for region in page.regions):
            yield Violation(
                page,
                f"Something on {page.file} has a `tabindex` above 0.",
                spot=('[tabindex]:not([tabindex="0"]):not([tabindex^="-"])', 0),
                written="tabindex",
            )
        elif not _in_order(page):
            yield Violation(
                page, f"On {page.file} header, content and footer are in another order than the keyboard reaches them."
            )


def _in_order(page: BuiltPage) -> bool:
    places = [_ORDER.index(mark.role) for mark in page.landmarks() if mark.role in _ORDER]
    return places == sorted(places)


CHECK = Check(
    code="focus-order",
    level=Level.WARNING,
    title="The keyboard order differs from the reading order",
    why="People who use the keyboard lose their place.",
    standard="WCAG 2.2, 2.4.3 Focus Order",
    remedy="Remove `tabindex`, and put the elements in the order in which they are read.",
    good='<button type="button">Book</button> <a href="#a">Hours</a> <p id="a">',
    bad='<button type="button" tabindex="2">Book</button> <a href="#a" tabindex="1">Hours</a> <p id="a">',
    stage=Stage.ANY,
    run=run,
)
