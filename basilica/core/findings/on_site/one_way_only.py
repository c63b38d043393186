"""There is more than one way to each page."""

from __future__ import annotations

from collections.abc import Iterator

from basilica.core.findings.check import Check, Violation
from basilica.core.rules.rule import Level, Stage
from basilica.core.site_reader import BuiltSite


def run(built: BuiltSite) -> Iterator[Violation]:
    """Pages to which one page alone has a link."""
    for page in built.pages:
        if page is built.home or not built.should_be_linked(page):
            continue
        leading = built.linked_from(page.file, 2)
        if len(leading) == 1:
            yield Violation(page, f"The only link to {page.file} stands on {leading[0]}.")


CHECK = Check(
    code="one-way-only",
    level=Level.ADVICE,
    title="One way only to a page",
    why="Some people follow menus, some read a list of all pages, some come by a text; who misses the one way misses"
    " the page.",
    standard="WCAG 2.2, 2.4.5 Multiple Ways",
    remedy="Put it into a menu, link to it from a second page, or write `list: site` at a page that is to "
    "list them all.",
    without_map="Put it into a menu, or link to it from a second page.",
    good={
        "index.html": '<a href="a.html">A</a> <a href="b.html">B</a>',
        "a.html": '<a href="b.html">B</a>',
        "b.html": '<a href="a.html">A</a>',
    },
    bad={"index.html": '<a href="a.html">A</a>', "a.html": "<p>Here.</p>"},
    stage=Stage.ANY,
    run=run,
    applies=BuiltSite.should_be_linked,
)
