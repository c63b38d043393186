"""Breadcrumbs are home and the chain of parents."""

from __future__ import annotations

from collections.abc import Iterator

from basilica.core.findings.check import Check, Violation, nav_named
from basilica.core.rules.rule import Level, Stage
from basilica.core.site_reader import BuiltSite


def run(built: BuiltSite) -> Iterator[Violation]:
    """The breadcrumbs of each page of the map, held against the plan."""
    plan = built.plan
    if plan is None:
        return
    for page in built.pages:
        if page.key is None:
            continue
        trail = plan.breadcrumbs(page.key)
        labels = [" ".join(level.label.split()) for level in trail]
        # A section and a name alone have no address, and the page itself is no link.
        linked = [level.page if level.page != page.key else None for level in trail]
        files = [plan.routes[key].file if key is not None and key in plan.routes else None for key in linked]
        marks = ["page" if level.page == page.key else None for level in trail]
        found = page.breadcrumbs
        if [text for text, _, _ in found] != labels or built.breadcrumb_targets(page) != files:
            wrong = "differ from the map"
        elif [current for _, _, current in found] != marks:
            wrong = "do not end with the page itself, marked and without a link"
        else:
            continue
        yield Violation(
            page,
            f"The breadcrumbs on {page.file} {wrong}.",
            spot=nav_named(plan.site.phrases["breadcrumb"]) if found else None,
            part="breadcrumbs",
        )


CHECK = Check(
    code="wrong-breadcrumbs",
    level=Level.ERROR,
    title="Breadcrumbs that differ from the map",
    why="Breadcrumbs are the way back up.",
    standard="WAI-ARIA APG, breadcrumb pattern",
    remedy="Build again. If that does not help, something in the page's content breaks them.",
    good='<span aria-current="page">Opening hours</span>',
    bad="<span>Opening hours</span>",
    stage=Stage.BUILT,
    column="breadcrumbs",
    run=run,
    applies=BuiltSite.has_breadcrumbs,
)
