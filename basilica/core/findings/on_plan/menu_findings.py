"""What is wrong with the menus of a plan: labels alike, pages that are named and in no menu, too many links."""

from __future__ import annotations

from collections.abc import Mapping

from basilica.core.map.site import Site, site_rules
from basilica.core.navigation.menus import MenuPlan
from basilica.core.plan import Plan
from basilica.core.plan.parameters import filled
from basilica.core.plan.plan_rules import PARAMETER_MISSING, lacks
from basilica.core.rules import limits
from basilica.core.rules.examples import HOME, TWO_PAGES, Many
from basilica.core.rules.finding import Findings
from basilica.core.rules.rule import Level, Rule
from basilica.core.shared.locales import PART_NAMES

HIGHLIGHT_NOWHERE = Rule(
    code="highlight-nowhere",
    level=Level.WARNING,
    title="A highlight without a menu entry",
    why="The page it names is in no menu.",
    remedy="Add that page to a menu, or name one that is in a menu.",
    good=HOME + "  tides: {title: Tides, hidden: menus}\n  flour: {title: Flour, highlight: home}\n",
    bad=HOME + "  tides: {title: Tides, hidden: menus}\n  flour: {title: Flour, highlight: tides}\n",
)

MENU_TOO_LARGE = Rule(
    code="menu-too-large",
    level=Level.ERROR,
    title="Menus too large for so many pages",
    why="The build would write gigabytes.",
    remedy="Use fewer levels or fewer entries in the menu.",
    good=TWO_PAGES,
    bad=Many(HOME, "  tides-{n}: Tides {n}\n", 4_500),
)

RULES = (HIGHLIGHT_NOWHERE, MENU_TOO_LARGE)


def find(plan: Plan, findings: Findings) -> None:
    """Add the findings about every menu of a plan."""
    site, menus = plan.site, plan.menus
    _highlights(site, menus, findings)
    _labels(site, menus, findings)
    for menu in menus.values():
        for entry in menu.entries:
            route = plan.routes.get(entry.page) if entry.page is not None else None
            missing = filled(route.path, entry.query)[2] if route is not None else ()
            if missing:
                findings.add(PARAMETER_MISSING, site.lines.place(entry.at), *lacks(entry.page or "", missing))
    links = len(site.pages) * sum(len(menu.entries) for menu in menus.values() if menu.place != "section")
    if links > limits.MENU_LINKS:
        largest = max(site.menus.values(), key=lambda menu: len(menus[menu.name].entries))
        findings.add(
            MENU_TOO_LARGE,
            site.lines.place(largest.at),
            f"The menus would put {links:,} links on {len(site.pages):,} pages; at most {limits.MENU_LINKS:,} can be.",
            f"Take fewer levels or fewer entries into the menu `{largest.name}`.",
        )


def _labels(site: Site, menus: Mapping[str, MenuPlan], findings: Findings) -> None:
    """Landmarks of a page are told apart by their labels."""
    taken = {site.phrases[name]: "something else on the page" for name in PART_NAMES}
    for menu in menus.values():
        if not menu.entries:
            continue
        owner = taken.setdefault(menu.label, f"the menu `{menu.name}`")
        if owner != f"the menu `{menu.name}`":
            findings.add(
                site_rules.DUPLICATE_MENU_LABEL,
                site.lines.place(site.menus[menu.name].at),
                f"The menu `{menu.name}` is called “{menu.label[:60]}”, and so is {owner}.",
                "Give it a `label:` of its own; screen readers tell menus apart by their labels.",
            )


def _highlights(site: Site, menus: Mapping[str, MenuPlan], findings: Findings) -> None:
    for key, page in site.pages.items():
        named = page.options.highlight
        if named is not None and not any(named in menu.page_entries for menu in menus.values()):
            findings.add(
                HIGHLIGHT_NOWHERE,
                site.lines.place(page.at),
                f"The page `{key}` highlights the entry of `{named}`, which is in no menu.",
            )
