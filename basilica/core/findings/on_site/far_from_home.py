"""No page is many clicks away from home."""

from __future__ import annotations

from collections.abc import Iterator

from basilica.core.findings.check import Check, Violation
from basilica.core.language.sections.checks_words import CLICKS
from basilica.core.rules.rule import COMMON, Level, Stage
from basilica.core.site_reader import BuiltSite


def run(built: BuiltSite) -> Iterator[Violation]:
    """How many links lie between home and each page."""
    most = built.plan.site.checks.clicks if built.plan is not None else CLICKS
    for page in built.pages:
        clicks = built.clicks.get(page.file, 0)
        if clicks > most and built.should_be_linked(page):
            yield Violation(page, f"{page.file} is {clicks} clicks away from home; more than {most} is far.")


_CHAIN = {
    "index.html": '<a href="a.html">A</a>',
    "a.html": '<a href="b.html">B</a>',
    "b.html": '<a href="c.html">C</a>',
}

CHECK = Check(
    code="far-from-home",
    level=Level.ADVICE,
    title="A page that is many clicks from home",
    why="Some people give up at each click.",
    standard=COMMON,
    remedy="Link to it from a page nearer to home, or change `clicks:` under `checks:`.",
    without_map="Link to it from a page that is nearer to home.",
    good={**_CHAIN, "c.html": "<p>Here.</p>"},
    bad={**_CHAIN, "c.html": '<a href="d.html">D</a>', "d.html": "<p>Far away.</p>"},
    stage=Stage.ANY,
    run=run,
    applies=BuiltSite.should_be_linked,
)
