"""The first thing that takes the focus leads past the menu."""

from __future__ import annotations

from collections.abc import Iterator

from basilica.core.findings.check import Check, Violation
from basilica.core.rules.rule import Level, Stage
from basilica.core.site_reader import BuiltPage, BuiltSite
from basilica.core.site_reader.built_page import CONTROLS


def run(built: BuiltSite) -> Iterator[Violation]:
    """The first link of each page that has a menu before its content."""
    for page in built.pages:
        if not applies(built, page):
            continue
        first = next((stop for region in page.regions for stop in region.stops), None)
        if first is None or not first[1].startswith("#"):
            yield Violation(page, f"The first link of {page.file} does not lead past the menu.", spot=(CONTROLS, 0))
        elif first[1][1:] not in page.anchors:
            yield Violation(
                page,
                f"The first link of {page.file} jumps to `{first[1][1:][:60]}`, which is not on the page.",
                spot=(CONTROLS, 0),
            )


def applies(built: BuiltSite, page: BuiltPage) -> bool:
    """A page without a menu before its content needs no way past it."""
    for region in page.regions:
        if region.in_main:
            return False
        if region.navs or any(landmark.role == "navigation" for landmark in region.landmarks):
            return True
    return False


_MENU = '<nav aria-label="Main"><ul><li><a href="index.html">Home</a></li></ul></nav><main id="content"></main>'
_PAGE = '<!doctype html><html lang="en"><title>Mill</title><body>%s' + _MENU + "</body></html>"

CHECK = Check(
    code="skip-link",
    level=Level.WARNING,
    title="No link to skip the menu",
    why="People who use the keyboard have to go through the whole menu on every page.",
    standard="WCAG 2.2, 2.4.1 Bypass Blocks",
    remedy="Keep the link with which the layout of Basilica begins, and the id `content`.",
    without_map="Begin the page with a link to the id of its content.",
    good={"index.html": _PAGE % '<a href="#content">Skip to content</a>'},
    bad={"index.html": _PAGE % ""},
    stage=Stage.ANY,
    run=run,
    applies=applies,
)
