"""Every page is described."""

from __future__ import annotations

from collections.abc import Iterator

from basilica.core.findings.check import Check, Violation
from basilica.core.rules.rule import COMMON, Level, Stage
from basilica.core.site_reader import BuiltSite


def run(built: BuiltSite) -> Iterator[Violation]:
    """The description in the head of each page that search engines may list."""
    for page in built.pages:
        if not page.head.description and built.is_listed(page):
            yield Violation(page, f"{page.file} has no description.")


_PAGE = '<!doctype html><html lang="en"><head><title>Hours</title>%s</head><body><main></main></body></html>'

CHECK = Check(
    code="description-missing",
    level=Level.ADVICE,
    title="A page without a description",
    why="Search results then show any piece of the page.",
    standard=COMMON,
    remedy="Write `description:` for the page, one or two sentences.",
    without_map="Add a `meta` element with the name `description`, and one or two sentences.",
    good={"index.html": _PAGE % '<meta name="description" content="When the mill is open.">'},
    bad={"index.html": _PAGE % ""},
    stage=Stage.ANY,
    run=run,
    applies=BuiltSite.is_listed,
)
