"""No two pages have the same description."""

from __future__ import annotations

from collections.abc import Iterator

from basilica.core.findings.check import Check, Violation
from basilica.core.rules.rule import COMMON, Level, Stage
from basilica.core.site_reader import BuiltSite


def run(built: BuiltSite) -> Iterator[Violation]:
    """Every description that more than one page has."""
    for _, pages in built.sharing(lambda page: page.head.description):
        for page in pages[1:]:
            yield Violation(
                page, f"{page.file} has the description of {pages[0].file}.", spot=('meta[name="description"]', 0)
            )


def _page(text: str) -> str:
    return (
        f'<!doctype html><html lang="en"><title>{text}</title><meta name="description" content="{text}"><main></main>'
    )


CHECK = Check(
    code="duplicate-description",
    level=Level.WARNING,
    title="Two pages with the same description",
    why="They look like the same page in search results.",
    standard=COMMON,
    remedy="Write `description:` for one of them, so that each says what it is about.",
    without_map="Give one of them another description, so that each says what it is about.",
    good={"index.html": _page("When."), "fees.html": _page("How much.")},
    bad={"index.html": _page("When."), "fees.html": _page("When.")},
    stage=Stage.ANY,
    run=run,
    applies=BuiltSite.is_listed,
)
