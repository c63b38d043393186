"""No two pages have the same title."""

from __future__ import annotations

from collections.abc import Iterator

from basilica.core.findings.check import Check, Violation
from basilica.core.rules.rule import Level, Stage
from basilica.core.site_reader import BuiltSite


def run(built: BuiltSite) -> Iterator[Violation]:
    """Every title that more than one page has."""
    for title, pages in built.sharing(lambda page: page.head.title):
        for page in pages[1:]:
            yield Violation(page, f"{page.file} has the title of {pages[0].file}: `{title[:80]}`.", spot=("title", 0))


def _page(title: str) -> str:
    return f'<!doctype html><html lang="en"><title>{title}</title><main><a href="index.html">A</a></main>'


CHECK = Check(
    code="duplicate-title",
    level=Level.WARNING,
    title="Two pages with the same title",
    why="Nobody can tell them apart in tabs, bookmarks and search results.",
    standard="WCAG 2.2, 2.4.2 Page Titled",
    remedy="Write `title:` for one of them, so that each says what it is about.",
    without_map="Give one of them another title, so that each says what it is about.",
    good={"index.html": _page("Hours"), "fees.html": _page("Fees")},
    bad={"index.html": _page("Hours"), "fees.html": _page("Hours")},
    stage=Stage.ANY,
    run=run,
)
