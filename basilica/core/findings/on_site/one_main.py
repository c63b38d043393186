"""Every page has one main landmark."""

from __future__ import annotations

from collections.abc import Iterator

from basilica.core.findings.check import Check, Violation
from basilica.core.rules.rule import Level, Stage
from basilica.core.site_reader import BuiltSite


def run(built: BuiltSite) -> Iterator[Violation]:
    """The main landmarks of each page."""
    for page in built.pages:
        count = sum(1 for landmark in page.landmarks() if landmark.role == "main")
        if count != 1:
            many = "no main landmark" if count == 0 else f"{count} main landmarks"
            spot = ("main, [role=main]", 1) if count > 1 else None
            yield Violation(page, f"{page.file} has {many}.", spot=spot, written="<main")


_PAGE = '<!doctype html><html lang="en"><title>Hours</title><body>%s</body></html>'

CHECK = Check(
    code="one-main",
    level=Level.ERROR,
    level_without_map=Level.WARNING,
    title="A page without a main landmark, or with several",
    why="People who use a screen reader, or skip the menu, jump there first.",
    standard="HTML, the main element; WAI-ARIA 1.2, main",
    remedy="Remove `main` from the text of the page; the layout has it.",
    without_map="Put the page's own content into one `main` element.",
    good={"index.html": _PAGE % "<main><h1>Hours</h1></main>"},
    bad={"index.html": _PAGE % "<main><h1>Hours</h1></main><main><p>More.</p></main>"},
    stage=Stage.ANY,
    run=run,
)
