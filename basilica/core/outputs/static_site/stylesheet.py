"""What the style sheet and the script are made from: only what a site uses goes into them."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from typing import Any

from basilica.core.header.breakpoints import EM, PICTURE, bar_fits_from, picture_width
from basilica.core.header.header_script import script_of
from basilica.core.header.header_style import StyleRule, rules_of, text_of
from basilica.core.map.schema.part_words import IDENTITY
from basilica.core.plan import Plan
from basilica.core.shared.theme import DIVIDERS, WEIGHTS

ROOTS = {
    "header": (".b-skip", ".b-utility", ".b-room", ".b-header"),
    "breadcrumbs": (".b-breadcrumbs",),
    "section": (".b-section",),
    "page-end": (".b-under", ".b-sequence"),
    "footer": (".b-footer",),
}
"""The elements in which everything of a region stands that has a style."""
_NAVS = ".b-main, .b-utility, .b-section, .b-columns, .b-under, .b-sequence"


def style_and_script(plan: Plan, inlaid: frozenset[str] | None = None) -> dict[str, Any]:
    """The context of the templates of both. ``inlaid`` names the regions that stand in pages of somebody else, where
    nothing else may get a style; None for pages that are Basilica's own."""
    main = plan.menus["main"]
    shown = frozenset(ROOTS) if inlaid is None else inlaid
    header = "header" in shown
    entries = [entry for menu in plan.menus.values() for entry in menu.entries]
    opening = [menu for menu in plan.menus.values() if header and menu.place in ("header", "utility")]
    beside = header and any(assignment.in_slot("header") for assignment in plan.assignments.all)
    identity = plan.site.parts.get(IDENTITY)
    roots = [root for name in ROOTS if inlaid and name in inlaid for root in ROOTS[name]]
    return {
        "inlaid": inlaid is not None,
        "roots": ", ".join(roots) if inlaid is not None else "html",
        "nav": f":is({_NAVS})" if inlaid is not None else "nav",
        "sticks": any(cell.settings.sticks for header in plan.headers for cell in header.cells),
        "plan": plan,
        "header_rules": text_of(rules_of(plan.headers) if inlaid is None else _within_header(rules_of(plan.headers))),
        "header_script": "\n".join(line.code for line in script_of(plan.headers)),
        "header": header,
        "shows_crumbs": "breadcrumbs" in shown,
        "page_end": "page-end" in shown,
        "page_footer": "footer" in shown,
        "scripted": any(header.scripted for header in plan.headers),
        "shrinks": any(cell.settings.shrinks for header in plan.headers for cell in header.cells),
        "tagline": plan.header.plain.tagline,
        "crumbs": plan.site.crumbs,
        "theme": plan.site.theme,
        "colours": plan.site.theme.all_colours(),
        "weight": WEIGHTS[plan.site.theme.weight],
        "divider": DIVIDERS[plan.site.theme.divider],
        "width": plan.header.plain.width,
        "fold": fold_of(plan) if header and main.entries else "",
        "fits_from": fits_from(plan),
        "main": header and bool(main.entries),
        "opens": any(entry.items for menu in opening for entry in menu.entries),
        "hovers": any(menu.settings.hover for menu in opening),
        "utility": beside or (header and any(menu.place == "utility" and menu.entries for menu in plan.menus.values())),
        "footer": "footer" in shown and any(menu.place == "footer" and menu.entries for menu in plan.menus.values()),
        "section": "section" in shown and any(menu.place == "section" and menu.entries for menu in plan.menus.values()),
        "icons": any(entry.display.icon or (entry.url or "").startswith("http") for entry in entries)
        or plan.site.crumbs.home == "icon",
        "unseen": any(entry.display.show == "icon" for entry in entries) or plan.site.crumbs.home == "icon",
        "notes": any(entry.display.note for entry in entries),
        "buttons": any(entry.display.show == "button" for entry in entries),
        "lines": any(entry.kind == "separator" for entry in entries),
        "above": sorted({entry.display.above for entry in entries} - {0}),
        "below": sorted({entry.display.below for entry in entries} - {0}),
        "parts": bool(plan.site.parts),
        "beside": beside,
        "pictured": bool(identity and identity.value("picture")),
        "picture": (picture_width(plan.site), PICTURE),
        "sequences": plan.site.page_end.sequence != "none"
        or any(page.options.sequence not in ("", "none") for page in plan.site.pages.values()),
    }


def _within_header(rules: Iterable[StyleRule]) -> Iterator[StyleRule]:
    """The rules of a header that stands in somebody else's page: of the page itself they say only what a header that
    sticks cannot do without, which is room for it when a link jumps to a place in the page."""
    for rule in rules:
        own = tuple(line for line in rule.lines if line.name != "--b-rest" and line.value != "auto")
        inherited = tuple(line for line in rule.lines if line.name == "--b-rest")
        if not inherited:
            yield rule
            continue
        if own:
            yield rule._replace(lines=own)
        within = rule.selector.removeprefix(":where(").removesuffix(")")
        yield rule._replace(selector=f":where({within} .b-header)", lines=inherited)


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
    if not wanted and width > plan.header.plain.width:
        return "always"
    return f"(max-width: {(width - 0.02) / EM:.3f}em)"


def fits_from(plan: Plan) -> int:
    """The least width of the window, CSS px, at which the site's name and the main menu stand in one line."""
    return bar_fits_from(plan.menus["main"], plan.site, plan.header.plain.name_width)
