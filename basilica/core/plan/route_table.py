"""The routes of a plan as plain data, for people and for programs."""

from __future__ import annotations

from typing import TypedDict

from basilica.core.plan import Plan


class RouteRow(TypedDict):
    """One route. ``parent`` is None at the top; ``file`` is empty where other code answers."""

    key: str
    path: str
    file: str
    title: str
    label: str
    parent: str | None


def route_rows(plan: Plan, drafts: bool = False) -> list[RouteRow]:
    """A row for every page that has an address, in map order; for drafts on request."""
    return [
        RouteRow(
            key=key,
            path=route.path,
            file="" if route.is_backend else route.file,
            title=page.title,
            label=page.label,
            parent=page.parent,
        )
        for key, route in plan.routes.items()
        if (page := plan.site.pages[key]) and (drafts or key not in plan.drafts)
    ]
