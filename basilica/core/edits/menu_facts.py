"""Which entries of menus follow the pages, and which pages a menu lacks."""

from __future__ import annotations

from basilica.core.edits.site_changes import at, paths
from basilica.core.map.site import EntryKind
from basilica.core.plan import Plan


def auto_numbers(plan: Plan) -> dict[str, frozenset[int]]:
    """By menu, the numbers of the entries that `auto` makes."""
    found = {}
    for name, menu in plan.site.menus.items():
        places = paths(menu, plan.site)
        found[name] = frozenset(
            number for number, path in enumerate(places) if at(menu.written, path).kind is EntryKind.AUTO
        )
    return found


def missing_from(plan: Plan, menu: str) -> list[str]:
    """The keys of pages at the top of the tree that a menu does not have, though they are hidden from none."""
    there = {entry.page for entry in plan.menus[menu].entries}
    pages = plan.site.pages
    return [
        key
        for key in plan.site.top
        if key not in there and "menus" not in pages[key].options.hidden and key not in plan.drafts
    ]
