"""Every page can be reached by links from home."""

from __future__ import annotations

from collections.abc import Iterator

from basilica.core.findings.check import Check, Violation
from basilica.core.rules.rule import Level, Stage
from basilica.core.site_reader import BuiltSite


def run(built: BuiltSite) -> Iterator[Violation]:
    """Follow links from home, page by page, and name the pages that were not met."""
    if built.home is None:
        return
    for page in built.pages:
        if page.file not in built.clicks and built.should_be_linked(page):
            name = f"page `{page.key}`" if page.key is not None else f"page {page.file}"
            yield Violation(page, f"No link leads from home to the {name}.")


CHECK = Check(
    code="unreachable",
    level=Level.WARNING,
    title="A page that no link leads to",
    why="Nobody finds it. A new page needs three things: the page, its route, and a link.",
    standard="WCAG 2.2, 2.4.5 Multiple Ways",
    remedy="Add it to a menu, or link to it from the content of another page.",
    good={"index.html": '<a href="press/">Press</a>', "press/index.html": "<p>For the press.</p>"},
    bad={"index.html": "<p>Welcome.</p>", "press/index.html": "<p>For the press.</p>"},
    stage=Stage.ANY,
    run=run,
    applies=BuiltSite.should_be_linked,
)
