"""Breadcrumbs are home and the chain of parents."""

from __future__ import annotations

from collections.abc import Iterator

from basilica.core.findings.check import Check, Violation
from basilica.core.findings.on_site.menu_differs import nav_named
from basilica.core.rules.rule import Level, Stage
from basilica.core.site_reader import BuiltPage, BuiltSite


def run(built: BuiltSite) -> Iterator[Violation]:
    """The breadcrumbs of each page of the map, held against the plan."""
    plan = built.plan
    if plan is None:
        return
    for page in built.pages:
        if page.key is None:
            continue
        trail = plan.breadcrumbs(page.key)
        labels = [" ".join(plan.site.pages[key].label.split()) for key in trail]
        # A section has no address, and the page itself is no link.
        files = [plan.routes[key].file if key in plan.routes and key != page.key else None for key in trail]
        marks = ["page" if key == page.key else None for key in trail]
        found = page.breadcrumbs
        if [text for text, _, _ in found] != labels or targets_of(built, page) != files:
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


def targets_of(built: BuiltSite, page: BuiltPage) -> list[str | None]:
    """The files to which the breadcrumbs of a page lead."""
    return [
        built.resolver.target(page.file, href).file if href is not None else None for _, href, _ in page.breadcrumbs
    ]


def applies(built: BuiltSite, page: BuiltPage) -> bool:
    """Home has none, and neither has the page for addresses that do not exist."""
    if built.plan is None:
        return bool(page.breadcrumbs)
    return page.key is not None and bool(built.plan.breadcrumbs(page.key))


CHECK = Check(
    code="wrong-breadcrumbs",
    level=Level.ERROR,
    title="Breadcrumbs that differ from the map",
    why="They are the way back up; these lead back by another way.",
    standard="WAI-ARIA APG, breadcrumb pattern",
    remedy="Build again; where that does not help, something in the page's content breaks them.",
    good='<span aria-current="page">Opening hours</span>',
    bad="<span>Opening hours</span>",
    stage=Stage.BUILT,
    run=run,
    applies=applies,
)
