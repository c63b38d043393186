"""Menus and breadcrumbs in the pages' own markup: by the patterns of `inlay:`, so that their own style fits them."""

from __future__ import annotations

import re
from collections.abc import Callable

from markupsafe import escape

from basilica.core.map.site.shared_values import EntryMarkup
from basilica.core.navigation.menus import Mark, PlannedEntry
from basilica.core.outputs.static_site import Renderer
from basilica.core.plan import MenuPlan

_ROOM = re.compile(r"\{(address|label|below)\}")
_NOTHING_BELOW = re.compile(r"\s*\{below\}")
"""Room for what is under an entry, with the white space before it, where there is nothing."""
_LAST_END = re.compile(r"\s*</[a-zA-Z0-9]+>\s*\Z")
_IN_LIST = '<li><a href="{address}">{label}</a>{below}</li>'
_LINK = re.compile(r"<a\b([^>]*)>(.*?)</a>", re.DOTALL)


def menu_in(markup: EntryMarkup | None, renderer: Renderer, name: str, key: str) -> str:
    """The entries of a menu as page ``key`` has them; empty where the menu does not stand there."""
    plan = renderer.plan
    menu = plan.menus[name]
    mark = plan.marks(key).get(name)
    if not menu.visible_on(plan.site, key):
        return ""
    return _entries(
        menu,
        menu.top,
        _patterns(markup or EntryMarkup()),
        mark,
        lambda entry: entry.url or renderer.entry_address(entry, key) or "",
    )


def breadcrumbs_in(markup: EntryMarkup, renderer: Renderer, key: str) -> str:
    """The breadcrumbs of a page; empty on home."""
    trail = renderer.plan.breadcrumbs(key)
    if not trail:
        return ""
    patterns = _patterns(markup)
    drawn = [
        _filled(patterns["entry" if address is not None else "group"], address or "", label, "")
        for address, label, _ in renderer.trails.crumbs(key, trail)
    ]
    if trail[-1].page == key:
        here = renderer.plan.addresses.to_page(key, key)
        drawn.append(_filled(patterns["current"], here, renderer.plan.site.pages[key].label, ""))
    return patterns["between"].join(drawn)


def _patterns(markup: EntryMarkup) -> dict[str, str]:
    """Every pattern, with the usual ones in place of those that are not given."""
    entry = markup.entry or _IN_LIST
    current = markup.current or _LINK.sub(r'<a\1 aria-current="page">\2</a>', entry, count=1)
    return {
        "entry": entry,
        "current": current,
        "section": markup.section or (markup.current or current.replace('aria-current="page"', 'aria-current="true"')),
        "holds": markup.holds or entry,
        "group": markup.group or _LINK.sub(r"\2", entry, count=1),
        "between": markup.between,
        "below": markup.below or "<ul>{entries}</ul>",
    }


def _entries(
    menu: MenuPlan,
    numbers: tuple[int, ...],
    patterns: dict[str, str],
    mark: Mark | None,
    address: Callable[[PlannedEntry], str],
) -> str:
    drawn = []
    for number in numbers:
        entry = menu.entries[number]
        if entry.kind == "separator":
            continue
        below = ""
        if entry.items:
            below = patterns["below"].replace("{entries}", _entries(menu, entry.items, patterns, mark, address))
        to = address(entry)
        if mark is not None and number in mark.entries:
            name = "current" if mark.current == "page" else "section"
        elif not to:
            name = "group"
        else:
            name = "holds" if mark is not None and number in mark.path else "entry"
        drawn.append(_filled(patterns[name], to, entry.label, below))
    return patterns["between"].join(drawn)


def _filled(pattern: str, address: str, label: str, below: str) -> str:
    if not below:
        pattern = _NOTHING_BELOW.sub("", pattern)
    elif "{below}" not in pattern:  # what is under an entry is never lost: it comes before the end of that
        pattern = _LAST_END.sub(r"{below}\g<0>", pattern, count=1) if _LAST_END.search(pattern) else pattern + "{below}"
    values = {"address": str(escape(address)), "label": str(escape(label)), "below": below}
    return _ROOM.sub(lambda room: values[room[1]], pattern)
