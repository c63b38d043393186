"""Every page has a title."""

from __future__ import annotations

from collections.abc import Iterator

from basilica.core.findings.check import Check, Reads, Violation
from basilica.core.rules.rule import Level
from basilica.core.site_reader import BuiltSite


def run(built: BuiltSite) -> Iterator[Violation]:
    """The `title` element of each page."""
    for page in built.pages:
        if not page.head.title:
            yield Violation(page, f"{page.file} has no title.")
        elif page.head.titles > 1:
            yield Violation(page, f"{page.file} has {page.head.titles} titles; browsers show the first.")


_PAGE = '<!doctype html><html lang="en"><head>%s</head><body><main><h1>Tides</h1></main></body></html>'

CHECK = Check(
    "no-title",
    Level.ERROR,
    "A page without a title",
    "It is the name of the tab, of the bookmark and of the search result, and the first thing that is read out.",
    "WCAG 2.2, 2.4.2 Page Titled",
    "Give the page a title, one.",
    {"index.html": _PAGE % "<title>Tides</title>"},
    {"index.html": _PAGE % ""},
    Reads.ANY,
    run,
)
