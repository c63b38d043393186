"""The routes of a plan as plain data, for people and for programs."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable
from typing import TypedDict

from basilica.core.plan import Plan, Redirect


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
    old, further = _by_page(plan.redirects), _by_page(plan.further)
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
            also=further.get(key, []),
            was=old.get(key, []),
        )
        for key, route in plan.routes.items()
        if (page := plan.site.pages[key]) and (drafts or key not in plan.drafts)
    ]


def _by_page(addresses: Iterable[Redirect]) -> dict[str, list[str]]:
    """By the key of a page, its addresses among these."""
    found: dict[str, list[str]] = {}
    for each in addresses:
        if each.key is not None:
            found.setdefault(each.key, []).append(each.address)
    return found


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
