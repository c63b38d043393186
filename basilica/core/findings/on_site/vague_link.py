"""The words of a link say where it leads."""

from __future__ import annotations

from collections.abc import Iterator

from basilica.core.findings.check import Check, Violation
from basilica.core.findings.vague_words import is_vague
from basilica.core.rules.rule import Level, Stage
from basilica.core.site_reader import BuiltSite
from basilica.core.site_reader.built_page import LINKS


def run(built: BuiltSite) -> Iterator[Violation]:
    """The words of each link."""
    for page, number, link in built.links_that(lambda link: is_vague(link.name)):
        yield Violation(
            page,
            f"The link to `{link.href[:80]}` on {page.file} says only `{link.name}`.",
            spot=(LINKS, number),
            written=link.name,
        )


CHECK = Check(
    code="vague-link",
    level=Level.ADVICE,
    title="A link that does not say where it leads",
    why="Links are also read on their own, in lists or at a glance.",
    standard="WCAG 2.2, 2.4.4 and 2.4.9 Link Purpose",
    remedy="Use the words that name the thing as the link.",
    good='<a href="#times">Opening hours</a> <h2 id="times">Times</h2>',
    bad='<a href="#times">Click here</a> <h2 id="times">Times</h2>',
    stage=Stage.ANY,
    run=run,
)
