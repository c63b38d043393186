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
            yield Violation(page, f"The only link to {page.file} is on {leading[0]}.")


CHECK = Check(
    code="one-way-only",
    level=Level.ADVICE,
    title="A page that only one link leads to",
    why="Some people use menus, some a list of all pages, some follow links in texts. Who "
    "misses the one link misses the page.",
    standard="WCAG 2.2, 2.4.5 Multiple Ways",
    remedy="Add it to a menu, link to it from a second page, or write `list: site` on a page "
    "that should list all of them.",
    without_map="Add it to a menu, or link to it from a second page.",
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
