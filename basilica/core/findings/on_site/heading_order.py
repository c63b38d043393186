"""Headings go down one level at a time."""

from __future__ import annotations

from collections.abc import Iterator

from basilica.core.findings.check import Check, Violation
from basilica.core.rules.rule import Level, Stage
from basilica.core.site_reader import BuiltSite
from basilica.core.site_reader.built_page import HEADINGS


def run(built: BuiltSite) -> Iterator[Violation]:
    """The levels of the headings of each page, as one reads."""
    for page in built.pages:
        above = 0
        for number, (level, text) in enumerate(page.headings()):
            if level > above + 1 and above:
                yield Violation(
                    page,
                    f"On {page.file} the heading `{text[:60]}` is on level {level}, right below one on level {above}.",
                    spot=(HEADINGS, number),
                    written=text,
                )
            above = level


CHECK = Check(
    code="heading-order",
    level=Level.WARNING,
    title="A heading that skips a level",
    why="People who navigate by headings look for the missing one.",
    standard="WCAG 2.2, 1.3.1 Info and Relationships; HTML, headings and outlines",
    remedy="Write the heading one level below the one it belongs to.",
    good="<h1>Visit</h1> <h2>Opening hours</h2> <h3>Winter</h3>",
    bad="<h1>Visit</h1> <h3>Opening hours</h3>",
    stage=Stage.ANY,
    run=run,
)
