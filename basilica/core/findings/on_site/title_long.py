"""Titles are short enough for a list of results."""

from __future__ import annotations

from collections.abc import Iterator

from basilica.core.findings.check import Check, Violation
from basilica.core.rules.rule import COMMON, Level, Stage
from basilica.core.site_reader import BuiltSite

MOST = 65
"""Characters of a title; lists of results cut longer ones (common practice, from memory)."""


def run(built: BuiltSite) -> Iterator[Violation]:
    """The length of each title."""
    for page in built.pages:
        title = page.head.title or ""
        if len(title) > MOST:
            yield Violation(
                page,
                f"The title of {page.file} has {len(title)} characters; lists of results cut it after about {MOST}.",
                spot=("title", 0),
            )


_PAGE = '<!doctype html><html lang="en"><title>%s</title><main><h1>Hours</h1></main>'

CHECK = Check(
    code="title-long",
    level=Level.ADVICE,
    title="A title that is too long for search results",
    why="It is cut off, and usually the end is what tells pages apart.",
    standard=COMMON,
    remedy="Shorten it; the description can say more.",
    good={"index.html": _PAGE % "Opening hours"},
    bad={"index.html": _PAGE % ("Opening hours of the mill, " * 3)},
    stage=Stage.ANY,
    run=run,
)
