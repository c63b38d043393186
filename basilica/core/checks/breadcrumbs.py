"""Breadcrumbs are home and the chain of parents, seen and as data."""

from __future__ import annotations

from collections.abc import Iterator

from basilica.core.checks.built import BuiltPage, BuiltSite
from basilica.core.checks.check import Check, Off


def run(built: BuiltSite) -> Iterator[Off]:
    """The breadcrumbs of each page of the map, held against the plan."""
    plan = built.plan
    for page in built.pages:
        if page.key is None:
            continue
        trail = plan.breadcrumbs(page.key)
        labels = [" ".join(plan.site.pages[key].label.split()) for key in trail]
        # A section has no address, and the page itself is no link.
        files = [plan.routes[key].file if key in plan.routes and key != page.key else None for key in trail]
        marks = ["page" if key == page.key else None for key in trail]
        if [text for text, _, _ in page.breadcrumbs] != labels or _targets(built, page) != files:
            wrong = "differ from the map"
        elif [current for _, _, current in page.breadcrumbs] != marks:
            wrong = "do not end with the page itself, marked and without a link"
        elif [name for _, name, _ in page.data] != [plan.site.pages[key].label for key in trail] or [
            position for position, _, _ in page.data
        ] != list(range(1, len(trail) + 1)):
            wrong = "are not the same in the page's data"
        else:
            continue
        yield Off(
            "wrong-breadcrumbs",
            page.key,
            f"The breadcrumbs on {page.file} {wrong}.",
            "Build again; where that does not help, something in the page's content breaks them.",
        )


def _targets(built: BuiltSite, page: BuiltPage) -> list[str | None]:
    return [
        built.resolver.target(page.file, href).file if href is not None else None for _, href, _ in page.breadcrumbs
    ]


CHECK = Check(
    ("wrong-breadcrumbs",),
    "Breadcrumbs follow the page tree",
    "They are the way back up, and what search results show.",
    "WAI-ARIA APG, breadcrumb pattern; schema.org BreadcrumbList",
    run,
)
