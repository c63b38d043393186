"""An id stands once on a page."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from itertools import chain

from basilica.core.findings.check import Check, Violation
from basilica.core.rules.rule import Level, Stage
from basilica.core.site_reader import BuiltSite


def run(built: BuiltSite) -> Iterator[Violation]:
    """The ids of each page."""
    for page in built.pages:
        if len(page.ids) == sum(len(region.ids) for region in page.regions):
            continue
        for name, count in Counter(chain.from_iterable(region.ids for region in page.regions)).items():
            if count > 1:
                yield Violation(
                    page,
                    f"On {page.file} {count} elements have the id `{name[:60]}`.",
                    spot=(f'[id="{name}"]', 1) if '"' not in name and "\\" not in name else None,
                    written=name,
                )


CHECK = Check(
    code="duplicate-id",
    level=Level.WARNING,
    title="An id that is used twice",
    why="Links and labels that use it always reach the first.",
    standard="HTML, the id attribute",
    remedy="Give one of them another id.",
    good='<h2 id="times">Times</h2> <h2 id="prices">Prices</h2>',
    bad='<h2 id="times">Times</h2> <h2 id="times">Prices</h2>',
    stage=Stage.ANY,
    run=run,
)
