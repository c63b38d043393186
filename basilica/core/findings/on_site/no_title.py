"""Every page has a title."""

from __future__ import annotations

from collections.abc import Iterator

from basilica.core.findings.check import Check, Violation
from basilica.core.rules.rule import Level, Stage
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
    code="no-title",
    level=Level.ERROR,
    title="A page without a title",
    why="The title names the tab, the bookmark and the search result, and screen readers read it first.",
    standard="WCAG 2.2, 2.4.2 Page Titled",
    remedy="Give the page one title.",
    good={"index.html": _PAGE % "<title>Tides</title>"},
    bad={"index.html": _PAGE % ""},
    stage=Stage.ANY,
    run=run,
)
