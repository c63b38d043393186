"""The one way from a site to a plan."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from basilica.core import limits
from basilica.core.findings import Finding, Findings
from basilica.core.plan.addresses import Addresses
from basilica.core.plan.header import HeaderPlan, plan_header
from basilica.core.plan.menus import Mark, MenuPlan, plan_menu
from basilica.core.plan.redirects import make_redirects
from basilica.core.plan.routes import Route, make_routes
from basilica.core.site import Site


@dataclass(frozen=True, slots=True)
class Plan:
    """Everything that is worked out from a site before a file is written."""

    site: Site
    routes: Mapping[str, Route]
    menus: Mapping[str, MenuPlan]
    header: HeaderPlan
    redirects: tuple[Route, ...]
    addresses: Addresses = field(compare=False, repr=False)

    def marks(self, key: str) -> dict[str, Mark | None]:
        """The mark of page ``key`` in each menu."""
        return {name: menu.mark(self.site, key) for name, menu in self.menus.items()}

    def breadcrumbs(self, key: str) -> tuple[str, ...]:
        """Keys from home to the page itself: home, its ancestors from the outside in, itself. None on home."""
        if key == self.site.home:
            return ()
        above = tuple(reversed(self.site.ancestors(key)))
        home = (self.site.home,) if self.site.home and self.site.home not in above else ()
        return (*home, *above, key)


def make_plan(site: Site) -> tuple[Plan, tuple[Finding, ...]]:
    """Work out the plan of a site, with every finding of this stage."""
    findings = Findings()
    routes = make_routes(site, findings)
    redirects = make_redirects(site, routes, findings)
    menus = {name: plan_menu(menu) for name, menu in site.menus.items()}
    links = len(site.pages) * sum(len(menu.entries) for menu in menus.values())
    if links > limits.MENU_LINKS:
        largest = max(site.menus.values(), key=lambda menu: len(menus[menu.name].entries))
        findings.add(
            "menu-too-large",
            site.lines.place(largest.at),
            f"The menus would put {links:,} links on {len(site.pages):,} pages; at most {limits.MENU_LINKS:,} can be.",
            f"Take fewer levels or fewer entries into the menu `{largest.name}`.",
        )
    addresses = Addresses(routes, site.base, site.links)
    return Plan(site, routes, menus, plan_header(site.header.behaviour), redirects, addresses), findings.done()
