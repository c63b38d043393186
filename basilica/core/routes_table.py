"""The routes of a plan as plain data, for people and for programs."""

from __future__ import annotations

from typing import TypedDict

from basilica.core.plan import Plan


class RouteRow(TypedDict):
    """One route. ``parent`` is None at the top."""

    key: str
    path: str
    file: str
    title: str
    label: str
    parent: str | None


def route_rows(plan: Plan) -> list[RouteRow]:
    """A row for every page, in map order."""
    return [
        RouteRow(
            key=key,
            path=plan.routes[key].path,
            file=plan.routes[key].file,
            title=page.title,
            label=page.label,
            parent=page.parent,
        )
        for key, page in plan.site.pages.items()
    ]
