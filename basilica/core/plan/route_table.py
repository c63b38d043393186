"""The routes of a plan as plain data, for people and for programs."""

from __future__ import annotations

import csv
import io
from typing import TypedDict

from basilica.core.plan import Plan
from basilica.core.plan.redirects import by_page


class RouteRow(TypedDict):
    """One route. ``parent`` is None at the top; ``file`` is empty where other code answers; ``menus`` are those in
    which the page has an entry, ``also`` its further addresses, and ``was`` its old ones."""

    key: str
    path: str
    file: str
    title: str
    label: str
    parent: str | None
    kind: str
    menus: list[str]
    also: list[str]
    was: list[str]


def route_rows(plan: Plan, drafts: bool = False) -> list[RouteRow]:
    """A row for every page that has an address, in map order; for drafts on request."""
    menus: dict[str, list[str]] = {}
    for name, menu in plan.menus.items():
        for shown in {entry.page for entry in menu.entries if entry.page is not None}:
            menus.setdefault(shown, []).append(name)
    old = by_page(plan.redirects)
    return [
        RouteRow(
            key=key,
            path=route.path,
            file="" if route.is_backend else route.file,
            title=page.title,
            label=page.label,
            parent=page.parent,
            kind="draft" if key in plan.drafts else str(route.kind),
            menus=menus.get(key, []),
            also=[each.address for each in plan.further_of.get(key, ())],
            was=[each.address for each in old.get(key, ())],
        )
        for key, route in plan.routes.items()
        if (page := plan.site.pages[key]) and (drafts or key not in plan.drafts)
    ]


def as_csv(rows: list[RouteRow]) -> str:
    """The rows as comma-separated values (RFC 4180); several menus or addresses in a cell have spaces between."""
    target = io.StringIO()
    writer = csv.DictWriter(target, fieldnames=list(RouteRow.__annotations__))
    writer.writeheader()
    writer.writerows(
        {**row, "menus": " ".join(row["menus"]), "also": " ".join(row["also"]), "was": " ".join(row["was"])}
        for row in rows
    )
    return target.getvalue()
