"""Descriptions are short enough for a list of results."""

from __future__ import annotations

from collections.abc import Iterator

from basilica.core.findings.check import Check, Violation
from basilica.core.rules.rule import COMMON, Level, Stage
from basilica.core.site_reader import BuiltSite

MOST = 165
"""Characters of a description; lists of results cut longer ones (common practice, from memory)."""


def run(built: BuiltSite) -> Iterator[Violation]:
    """The length of each description."""
    for page in built.pages:
        text = page.head.description or ""
        if len(text) > MOST:
            yield Violation(
                page,
                f"The description of {page.file} has {len(text)} characters; lists of results cut it after about"
                f" {MOST}.",
                spot=('meta[name="description"]', 0),
            )


_PAGE = '<!doctype html><html lang="en"><title>Hours</title><meta name="description" content="%s"><main></main>'

CHECK = Check(
    code="description-long",
    level=Level.ADVICE,
    title="A description that is too long for search results",
    why="It is cut off.",
    standard=COMMON,
    remedy="Put the most important thing first, and shorten the rest.",
    good={"index.html": _PAGE % "When the mill is open."},
    bad={"index.html": _PAGE % ("When the mill is open, month by month. " * 5)},
    stage=Stage.ANY,
    run=run,
    applies=BuiltSite.is_listed,
)
