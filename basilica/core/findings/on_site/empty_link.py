"""Every link can be read out."""

from __future__ import annotations

from collections.abc import Iterator

from basilica.core.findings.check import Check, Violation
from basilica.core.rules.rule import Level, Stage
from basilica.core.site_reader import BuiltSite
from basilica.core.site_reader.built_page import LINKS


def run(built: BuiltSite) -> Iterator[Violation]:
    """The name of each link."""
    for page, number, link in built.links_that(lambda link: not link.name):
        message = f"The link to `{link.href[:80]}` on {page.file} has no words."
        yield Violation(page, message, spot=(LINKS, number), written=link.href)


CHECK = Check(
    code="empty-link",
    level=Level.WARNING,
    title="A link without text",
    why="Screen readers announce a link, but not where it leads.",
    standard="WCAG 2.2, 2.4.4 Link Purpose (In Context)",
    remedy="Write text into it, or give its picture an `alt`.",
    good='<a href="#wheel"><img src="data:," alt="The wheel"></a> <p id="wheel">',
    bad='<a href="#wheel"><img src="data:," alt=""></a> <p id="wheel">',
    stage=Stage.ANY,
    run=run,
)
