"""No page has more elements in one another than browsers follow."""

from __future__ import annotations

from collections.abc import Iterator

from basilica.core.findings.check import Check, Violation
from basilica.core.rules.limits import ELEMENT_DEPTH
from basilica.core.rules.rule import Level, Stage
from basilica.core.site_reader import BuiltSite


def run(built: BuiltSite) -> Iterator[Violation]:
    """The pages of which a part was not read."""
    for page in (*built.pages, *built.beside):
        if page.is_cut:
            yield Violation(
                page,
                f"In {page.file} more than {ELEMENT_DEPTH} elements are nested; the rest of the page was not read.",
            )


_PAGE = '<!doctype html><html lang="en"><title>Hours</title><body><main><h1>Hours</h1>%s</main></body></html>'

CHECK = Check(
    code="nested-too-deep",
    level=Level.ERROR,
    title="More nested elements than browsers follow",
    why="Browsers move the deepest ones somewhere else, so they cannot be checked.",
    standard="HTML, conformance: user agents may limit what is not limited; that they do at 512 is common practice",
    remedy="Close the elements that the text of the page opens, such as `div` and `span`.",
    good={"index.html": _PAGE % ("<div>" * 20 + "<p>All day.</p>" + "</div>" * 20)},
    bad={"index.html": _PAGE % ("<div>" * 600 + "<p>All day.</p>")},
    stage=Stage.ANY,
    run=run,
    of_redirects=True,
)
