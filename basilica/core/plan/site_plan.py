"""The one way from a site to a plan."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property

from basilica.core.header import HeaderPlan, plan_headers
from basilica.core.language.sections.part_words import MENU_PART
from basilica.core.map.site import Base, Site
from basilica.core.map.site.auto_entries import drafts_of
from basilica.core.map.site.model import TrailLevel
from basilica.core.map.site.settings_reader import TITLE_VALUE
from basilica.core.map.site.shared_values import Part
from basilica.core.navigation.breadcrumbs import Breadcrumbs
from basilica.core.navigation.menus import Mark, MenuPlan, plan_menu
from basilica.core.navigation.sequence import PageSequence
from basilica.core.plan.addresses import Addresses
from basilica.core.plan.layout_assignment import (
    LayoutAssignment,
    LayoutAssignments,
    assign_layouts,
    included_parts,
    width_in_row,
)
from basilica.core.plan.redirects import Redirect, by_page, make_redirects
from basilica.core.plan.routes import Route, make_routes

_PLACES = {"header": "header", "utility": "header", "section": "section-menus", "footer": "footer"}
"""The part in which a menu stands, by its place."""


@dataclass(frozen=True)
class Plan:
    """Everything that is worked out from a site before a file is written."""

    site: Site
    routes: Mapping[str, Route]
    menus: Mapping[str, MenuPlan]
    headers: tuple[HeaderPlan, ...]
    """The header of most pages, then those of the others."""
    headers_of: Mapping[str, int]
    """For each page whose header is not the first: which it is."""
    redirects: tuple[Redirect, ...]
    """What answers at old addresses."""
    further: tuple[Redirect, ...]
    """What serves a page at other addresses than its own."""
    drafts: frozenset[str]
    """Drafts, and what is under them: built on request alone, and led to by nothing."""
    assignments: LayoutAssignments
    """Which parts stand where."""
    addresses: Addresses = field(compare=False, repr=False)
    languages: Mapping[str, Plan] = field(default_factory=dict, compare=False, repr=False)
    """The plans of the same map in all its languages, this one too, by their tags; none where there is one alone."""

    def in_language(self, language: str, key: str | None) -> tuple[str | None, bool]:
        """The page of another language that stands for page ``key``: the same, or else the nearest above it, or home
        (None where there is none of these); and whether it is the same."""
        other = self.languages[language]
        ways = (key, *self.site.ancestors(key)) if key is not None else ()
        found = next(filter(other.is_built, ways), None)
        return (found, found == key) if found is not None else (other.site.home, False)

    def is_translated(self, key: str, language: str) -> bool | None:
        """Whether a page is there in another language; None for one that is in none, such as a draft or a section, and
        for one that other code answers."""
        there = self.languages[language].is_built(key)
        return there if there or self.is_built(key) else None

    def there_in(self, key: str) -> tuple[str, ...]:
        """The tags of the languages in which a page is no draft."""
        return tuple(tag for tag, plan in self.languages.items() if key not in plan.drafts)

    def lacks_above(self, key: str, language: str) -> str | None:
        """The topmost page above a page that another language lacks, so that it lacks this one too; None for none."""
        return next((each for each in reversed(self.site.ancestors(key)) if language not in self.there_in(each)), None)

    def translations(self, key: str) -> dict[str, str]:
        """The full address of a page in every language in which it is there, by their tags; none where that is one
        language alone, or where the site has no base."""
        found = {tag: plan.addresses.canonical(key) for tag, plan in self.languages.items() if plan.is_built(key)}
        told = {tag: address for tag, address in found.items() if address}
        return told if len(told) > 1 else {}

    def routes_in(self, urls: str) -> Mapping[str, Route]:
        """The routes that pages would have in a style of addresses (`folders`, `files` or `bare`)."""
        if urls == self.site.urls:
            return self.routes
        return make_routes(replace(self.site, urls=urls))

    def moved(
        self, base: Base | None = None, links: str | None = None, parts: Mapping[str, Part] | None = None
    ) -> Plan:
        """The plan of the same site at another base, with links of another style, in all its languages; or with other
        texts of its parts."""
        here = self._moved(base, links, parts)
        if not self.languages:
            return here
        plans: dict[str, Plan] = {}
        for tag, other in self.languages.items():
            plans[tag] = replace(here if tag == self.site.language else other._moved(base, links), languages=plans)
        return plans[self.site.language]

    def _moved(self, base: Base | None, links: str | None, parts: Mapping[str, Part] | None = None) -> Plan:
        site = replace(
            self.site,
            base=base or self.site.base,
            links=links or self.site.links,
            parts=self.site.parts if parts is None else parts,
        )
        return replace(self, site=site, addresses=Addresses(self.routes, site.base, site.links))

    @cached_property
    def further_of(self) -> Mapping[str, tuple[Redirect, ...]]:
        """By page, its further addresses."""
        return by_page(self.further)

    def seen_at(self, places: Mapping[str, Route]) -> Plan:
        """The plan with links written for pages (by key) that are read at other addresses than their own."""
        return replace(self, addresses=Addresses(self.routes, self.site.base, self.site.links, places))

    def assignment_of(self, key: str | None) -> LayoutAssignment:
        """What stands where on a page, or on one that is not in the map."""
        return self.assignments.of(key)

    def marks(self, key: str) -> dict[str, Mark | None]:
        """The mark of page ``key`` in each menu that stands on it."""
        site = self.site
        return {name: menu.mark(site, key) for name, menu in self.menus.items() if menu.visible_on(site, key)}

    def head_title(self, key: str | None, title: str) -> str:
        """The title of a page as browsers show it: by the site's pattern; that of home by its own."""
        site = self.site
        pattern = (site.home_title or "{title}") if key is not None and key == site.home else site.title
        if not pattern:
            return title
        page = site.pages[key] if key is not None else None
        above = site.pages[key.partition("/")[0]].label if key is not None else title
        values = {"title": title, "site": site.name, "label": page.label if page else title, "section": above}
        return TITLE_VALUE.sub(lambda found: values.get(found[1], found[0]), pattern)

    @property
    def header(self) -> HeaderPlan:
        """The header of most pages."""
        return self.headers[0]

    def header_of(self, key: str | None) -> HeaderPlan:
        """The header of a page, or of one that is not in the map."""
        return self.headers[self.headers_of.get(key, 0) if key is not None else 0]

    def id_of(self, key: str) -> str:
        """What a page is called among those of all languages: its key, and behind that the tag of its language where
        that is not the first (`visit/hours@cy`)."""
        return key if self.site.is_first else f"{key}@{self.site.language}"

    def path_of(self, key: str) -> str:
        """The address of a page as a server sees it; empty for a section, which has none."""
        route = self.routes.get(key)
        return route.path if route else ""

    def builds(self, drafts: bool = False) -> tuple[str, ...]:
        """Keys of the pages that are built, in map order: not sections, not what other code serves, and drafts only
        on request."""
        return tuple(key for key in self.routes if self.is_built(key, drafts))

    def is_built(self, key: str, drafts: bool = False) -> bool:
        """Whether a page is among those that are built."""
        return key in self.routes and not self.routes[key].is_backend and (drafts or key not in self.drafts)

    @cached_property
    def _placed(self) -> tuple[frozenset[str], ...]:
        return tuple(frozenset(included_parts(self.site, assignment)) for assignment in self.assignments.all)

    def shows(self, part: str, key: str | None) -> bool:
        """Whether the layout of a page, or one of its slots, has a part."""
        return part in self._placed[self.assignments.which.get(key, 0) if key is not None else 0]

    def shows_menu(self, menu: MenuPlan, key: str | None) -> bool:
        """Whether a menu stands on a page (None: the page for addresses that do not exist)."""
        if self.shows(MENU_PART + menu.name, key):
            return True
        part = _PLACES.get(menu.place)
        return part is not None and menu.visible_on(self.site, key) and self.shows(part, key)

    def breadcrumbs(self, key: str) -> tuple[TrailLevel, ...]:
        """The breadcrumbs on a page: its trail, or none where its layout has no room for it."""
        return self.trail(key) if self.shows("breadcrumbs", key) else ()

    def trail(self, key: str) -> tuple[TrailLevel, ...]:
        """From home to the page itself, whether or not its layout has room for that."""
        return self.trails.of(key)

    @cached_property
    def trails(self) -> Breadcrumbs:
        """The breadcrumbs of every page."""
        return Breadcrumbs(self.site, self.menus["main"])

    def under(self, key: str | None) -> tuple[str, ...]:
        """Keys of the pages under a page (None: at the top) that others may be led to."""
        site = self.site
        keys = site.top if key is None else site.pages[key].children
        return tuple(child for child in keys if child not in self.drafts) if self.drafts else keys

    def neighbours(self, key: str) -> tuple[str | None, str | None]:
        """The page before and the page after, over the pages that are built; None where there is none."""
        return self._sequence.around(key)

    @cached_property
    def _sequence(self) -> PageSequence:
        return PageSequence(self.site, self.builds())


def other_languages(plan: Plan) -> tuple[Plan, ...]:
    """The plans of a site in its other languages, in their order."""
    return tuple(other for tag, other in plan.languages.items() if tag != plan.site.language)


def every_language(plan: Plan) -> tuple[Plan, ...]:
    """The plans of a site in each of its languages, that of the first one first."""
    return (plan, *other_languages(plan))


def every_redirect(plan: Plan) -> list[tuple[Plan, Redirect]]:
    """The redirects of a site in all its languages, each with the plan of its language."""
    return [(each, redirect) for each in every_language(plan) for redirect in each.redirects]


def every_further(plan: Plan) -> list[tuple[Plan, Redirect]]:
    """The further addresses of a site in all its languages, each with the plan of its language."""
    return [(each, further) for each in every_language(plan) for further in each.further]


def make_plan(site: Site) -> Plan:
    """Work out the plan of a site. It judges nothing; what is wrong with a plan is said by `basilica.core.findings`."""
    routes = make_routes(site)
    menus = {name: plan_menu(menu, site.phrases) for name, menu in site.menus.items()}
    assignments = assign_layouts(site)
    headers, headers_of = plan_headers(site, menus, width_in_row(site, assignments), _in_slots(assignments))
    return Plan(
        site,
        routes,
        menus,
        headers,
        headers_of,
        *make_redirects(site, routes),
        drafts_of(site.pages),
        assignments,
        Addresses(routes, site.base, site.links),
    )


def _in_slots(assignments: LayoutAssignments) -> dict[str, tuple[str, ...]]:
    """By slot, the parts that fill it on any page."""
    found: dict[str, dict[str, None]] = {}
    for assignment in assignments.all:
        for slot, _ in assignment.slots:
            found.setdefault(slot, {}).update(dict.fromkeys(assignment.in_slot(slot)))
    return {slot: tuple(parts) for slot, parts in found.items()}
