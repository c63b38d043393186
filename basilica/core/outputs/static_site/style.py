"""What the style sheet and the script are made from: only what a site uses goes into them."""

from __future__ import annotations

from typing import Any

from basilica.core.lettering import text_width
from basilica.core.looks import DIVIDERS, WEIGHTS
from basilica.core.plan import MenuPlan, Plan, PlannedEntry

CONTENT_WIDTH = 1080
"""Width of the content, CSS px. Common practice, no source."""
EM = 16
"""CSS px of the browsers' own letter size, on which widths in em depend."""

_ROOM = {"entry": 19.2, "button": 28, "icon": 27, "divider": 14, "as button": 8}
"""CSS px that an entry takes beside its letters."""


def style_and_script(plan: Plan) -> dict[str, Any]:
    """The context of the templates of both."""
    main = plan.menus["main"]
    entries = [entry for menu in plan.menus.values() for entry in menu.entries]
    opening = [menu for menu in plan.menus.values() if menu.place in ("header", "utility")]
    return {
        "plan": plan,
        "header": plan.header,
        "crumbs": plan.site.crumbs,
        "looks": plan.site.looks,
        "colours": plan.site.looks.all_colours(),
        "weight": WEIGHTS[plan.site.looks.weight],
        "divider": DIVIDERS[plan.site.looks.divider],
        "width": CONTENT_WIDTH,
        "fold": fold_of(plan) if main.entries else "",
        "fits_from": fits_from(plan),
        "main": bool(main.entries),
        "opens": any(entry.items for menu in opening for entry in menu.entries),
        "hovers": any(menu.settings.hover for menu in opening),
        "utility": any(menu.place == "utility" and menu.entries for menu in plan.menus.values()),
        "footer": any(menu.place == "footer" and menu.entries for menu in plan.menus.values()),
        "section": any(menu.place == "section" and menu.entries for menu in plan.menus.values()),
        "icons": any(entry.dress.icon or (entry.url or "").startswith("http") for entry in entries)
        or plan.site.crumbs.home == "icon",
        "unseen": any(entry.dress.show == "icon" for entry in entries) or plan.site.crumbs.home == "icon",
        "notes": any(entry.dress.note for entry in entries),
        "buttons": any(entry.dress.show == "button" for entry in entries),
        "lines": any(entry.kind == "separator" for entry in entries),
        "above": sorted({entry.dress.above for entry in entries} - {0}),
        "below": sorted({entry.dress.below for entry in entries} - {0}),
        "sequences": plan.site.closing.sequence != "none"
        or any(page.own.sequence not in ("", "none") for page in plan.site.pages.values()),
    }


def fold_of(plan: Plan) -> str:
    """Below which width of the window the main menu folds: a media query's condition in em, `always`, or empty for
    never. Worked out from the labels where the map does not say."""
    wanted = plan.menus["main"].settings.fold
    if wanted == "always":
        return wanted
    if wanted == "never":
        return ""
    width = int(wanted) if wanted else fits_from(plan)
    # A menu wider than the content has room at no width.
    if not wanted and width > CONTENT_WIDTH:
        return "always"
    return f"(max-width: {(width - 0.02) / EM:.3f}em)"


def fits_from(plan: Plan) -> int:
    """The least width of the window, CSS px, at which the site's name and the main menu stand in one line."""
    main, looks = plan.menus["main"], plan.site.looks
    size = EM * looks.size / 100
    width = sum(_entry_width(main, main.entries[number], size, looks.spacing) for number in main.top)
    if DIVIDERS[looks.divider]:
        width += _ROOM["divider"] * len(main.top)
    name = min(text_width(plan.site.name, 20) * 1.06, 260)  # a longer one is broken over lines
    return round(max(width + name + 24 + 40, 480))


def _entry_width(menu: MenuPlan, entry: PlannedEntry, size: float, spacing: int) -> float:
    if entry.kind == "separator":
        return _ROOM["divider"]
    width = _ROOM["entry"]
    if entry.dress.show != "icon":
        # The lit one is bold, which is wider.
        width += text_width(entry.label, size) * 1.04 + len(entry.label) * size * max(spacing, 0) / 1000
    width += _ROOM["icon"] if entry.dress.icon else 0
    width += _ROOM["icon"] if entry.url else 0
    width += _ROOM["button"] if entry.items else 0
    width += _ROOM["as button"] if entry.dress.show == "button" else 0
    return width
