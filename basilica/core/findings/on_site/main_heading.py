"""Every page begins with one heading that says what it is."""

from __future__ import annotations

from collections.abc import Iterator

from basilica.core.findings.check import Check, Violation
from basilica.core.rules.rule import COMMON, Level, Stage
from basilica.core.site_reader import BuiltSite


def run(built: BuiltSite) -> Iterator[Violation]:
    """The headings of level 1 of each page."""
    for page in built.pages:
        first = [text for level, text in page.headings() if level == 1]
        if not first:
            yield Violation(page, f"{page.file} has no heading of level 1.")
        elif len(first) > 1:
            yield Violation(
                page,
                f"{page.file} has {len(first)} headings of level 1; the second is `{first[1][:60]}`.",
                spot=("h1", 1),
                written=first[1],
            )
        elif not first[0]:
            yield Violation(page, f"The heading of level 1 on {page.file} is empty.", spot=("h1", 0))


CHECK = Check(
    code="main-heading",
    level=Level.WARNING,
    title="A page that does not begin with its own heading",
    why="People look for it to be sure that they are on the right page.",
    standard=COMMON,
    remedy="Write one heading of level 1, or none in the content: then the page's title is used.",
    without_map="Let the page's own heading be one `h1`.",
    good="<h1>Visit</h1> <p>The mill is open.</p>",
    bad="<h1>Visit</h1> <h1>Opening hours</h1>",
    stage=Stage.ANY,
    run=run,
)
