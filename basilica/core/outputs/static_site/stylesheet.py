"""What the style sheet and the script are made from: only what a site uses goes into them."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from typing import Any

from basilica.core.header.breakpoints import bar_fits_from, picture_box
from basilica.core.header.header_script import script_of
from basilica.core.header.header_settings import EM
from basilica.core.header.header_style import StyleRule, rules_of, text_of
from basilica.core.language.sections.part_words import IDENTITY
from basilica.core.language.sections.theme_words import Theme
from basilica.core.plan import Plan
from basilica.core.shared.fonts import family_of
from basilica.core.shared.locales import is_right_to_left
from basilica.core.shared.theme import CORNERS, CURRENT_LINES, DIVIDERS, HEADINGS, PRESETS, WEIGHTS, contrast

ROOTS = {
    "header": (".b-skip", ".b-utility", ".b-header-space", ".b-header"),
    "breadcrumbs": (".b-breadcrumbs",),
    "section": (".b-section",),
    "page-end": (".b-page-list", ".b-sequence"),
    "footer": (".b-footer",),
}
"""The elements in which everything of a region stands that has a style."""
_NAVS = ".b-main, .b-utility-menu, .b-section, .b-footer-menu, .b-links, .b-menu, .b-page-list, .b-sequence"


def style_and_script(plan: Plan, inlaid: frozenset[str] | None = None) -> dict[str, Any]:
    """The context of the templates of both. ``inlaid`` names the regions that stand in pages of somebody else, where
    nothing else may get a style; None for pages that are Basilica's own."""
    main = plan.menus["main"]
    shown = frozenset(ROOTS) if inlaid is None else inlaid
    header = "header" in shown
    entries = [entry for menu in plan.menus.values() for entry in menu.entries]
    opening = [menu for menu in plan.menus.values() if header and menu.place in ("header", "utility")]
    filled = any(assignment.in_slot("header") for assignment in plan.assignments.all)
    beside = header and (filled or bool(plan.languages))
    identity = plan.site.parts.get(IDENTITY)
    roots = [root for name in ROOTS if inlaid and name in inlaid for root in ROOTS[name]]
    return {
        "inlaid": inlaid is not None,
        "roots": ", ".join(roots) if inlaid is not None else "html",
        "nav": f":is({_NAVS})",
        "sticks": any(cell.settings.sticks for header in plan.headers for cell in header.cells),
        "plan": plan,
        "header_rules": text_of(rules_of(plan.headers) if inlaid is None else _within_header(rules_of(plan.headers))),
        "header_script": "\n".join(line.code for line in script_of(plan.headers)),
        "header": header,
        "origin": plan.site.base.origin if plan.site.base else "",
        "rtl": is_right_to_left(plan.site.language),
        "shows_crumbs": "breadcrumbs" in shown,
        "page_end": "page-end" in shown,
        "page_footer": "footer" in shown,
        "scripted": any(header.scripted for header in plan.headers),
        "shrinks": any(cell.settings.shrinks for header in plan.headers for cell in header.cells),
        "tagline": plan.header.plain.tagline,
        "crumbs": plan.site.crumbs,
        "steps": _steps(is_right_to_left(plan.site.language)),
        "theme": plan.site.theme,
        "colours": plan.site.theme.all_colours(),
        "dark": plan.site.theme.dark_colours() if inlaid is None else {},
        "scheme": scheme_of(plan.site.theme),
        "own_ground": any(cell.settings.ground for header in plan.headers for cell in header.cells),
        "preset": PRESETS[plan.site.theme.preset],
        "font": family_of(plan.site.theme.shown_font),
        "corner": CORNERS[plan.site.theme.corners or PRESETS[plan.site.theme.preset].corners],
        "sizes": sizes(HEADINGS[plan.site.theme.headings or PRESETS[plan.site.theme.preset].headings]),
        "weight": WEIGHTS[plan.site.theme.weight],
        "current_weight": WEIGHTS[plan.site.theme.current_weight],
        "current_line": CURRENT_LINES[plan.site.theme.current_line],
        "current_background": "current-background" in plan.site.theme.all_colours(),
        "arranged": any(cell.settings.arranged for header in plan.headers for cell in header.cells),
        "over_picture": any(cell.settings.over_picture == "yes" for header in plan.headers for cell in header.cells),
        "panels": header and main.settings.submenus == "panel",
        "small_picture": bool(identity and identity.value("small-picture")),
        "tool": any(assignment.in_slot("bar") for assignment in plan.assignments.all),
        "transitions": plan.site.theme.transitions and inlaid is None,
        "speculation": _speculation(plan) if plan.site.head.prefetch and inlaid is None else None,
        "follows": any(cell.settings.follows for header in plan.headers for cell in header.cells),
        "until": plan.header.ends_at if plan.header.sticks else (),
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
        "kinds": {part.kind for part in plan.site.parts.values()},
        "identity": any(IDENTITY in parts for each in plan.assignments.all for _, parts in each.slots),
        "beside": beside,
        "languages": header and bool(plan.languages),
        "pictured": bool(identity and identity.value("picture")),
        "picture": picture_box(plan.site),
        "sequences": plan.site.page_end.sequence != "none"
        or any(page.options.sequence not in ("", "none") for page in plan.site.pages.values()),
    }


NARROW, WIDE = 20, 100
"""Between windows of so many em sizes of letters grow."""
_NARROW_STEP = 1.16


def sizes(step: float) -> dict[str, str]:
    """The sizes of letters and the space between blocks, by name: `--b-fluid` goes from 0 to 1 rem as windows widen,
    and all of it grows with the reader's letters (WCAG 2.2, 1.4.4)."""
    heights = {"text": 0, "h3": 1, "h2": 2, "h1": 3}
    least = {name: 1.0625 * _NARROW_STEP**power for name, power in heights.items()}
    growth = {name: 1.125 * step**power - least[name] for name, power in heights.items()}
    found = {name: f"calc({least[name]:.3g}rem + {growth[name]:.2g} * var(--b-fluid))" for name in heights}
    fluid = f"clamp(0px, (100vw - {NARROW}rem) / {WIDE - NARROW}, 1rem)"
    return {"fluid": fluid, **found, "space": "calc(1.25rem + 0.75 * var(--b-fluid))"}


def _steps(rtl: bool) -> str:
    """The outline of one of the breadcrumbs that are drawn as steps: it points to the next one."""
    back, on = ("100%", "0.7rem") if rtl else ("0%", "calc(100% - 0.7rem)")
    tip, notch = ("0%", "calc(100% - 0.7rem)") if rtl else ("100%", "0.7rem")
    return f"{back} 0%, {on} 0%, {tip} 50%, {on} 100%, {back} 100%, {notch} 50%"


def _speculation(plan: Plan) -> dict[str, Any]:
    """Speculation rules (HTML, 7.6): the pages of the site are fetched once they are pointed at; what other code
    answers is not, as it may do something."""
    path = plan.site.base.path if plan.site.base else ""
    backend = sorted({route.path.partition("{")[0] for route in plan.routes.values() if route.is_backend})
    wanted: list[dict[str, Any]] = [{"href_matches": f"{path}/*"}]
    wanted += [{"not": {"href_matches": f"{path}{each}*"}} for each in backend]
    return {"prefetch": [{"where": {"and": wanted}, "eagerness": "moderate"}]}


def scheme_of(theme: Theme) -> str:
    """The `color-scheme` of pages: what a browser draws itself has the same (CSS Color Adjustment 1, 2)."""
    if theme.dark_colours():
        return "light dark"
    ground = theme.all_colours()["ground"]
    return "dark" if contrast(ground, "#ffffff") > contrast(ground, "#000000") else "light"


def _within_header(rules: Iterable[StyleRule]) -> Iterator[StyleRule]:
    """The rules of a header that stands in somebody else's page: of the page itself they say only what a header that
    sticks cannot do without, which is room for it when a link jumps to a place in the page."""
    for rule in rules:
        own = tuple(line for line in rule.lines if not line.name.startswith("--b-") and line.value != "auto")
        inherited = tuple(line for line in rule.lines if line.name.startswith("--b-"))
        if ".b-" in rule.selector or not inherited:
            yield rule
            continue
        if own:
            yield rule._replace(lines=own)
        within = rule.selector.removeprefix(":where(").removesuffix(")")
        yield rule._replace(selector=f":where({within} :is(.b-header-space, .b-utility))", lines=inherited)


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
    in_bar = plan.assignments.all[0].in_slot("bar")
    return bar_fits_from(plan.menus["main"], plan.site, plan.header.plain, in_bar)
