"""One page as its site sees it: where it is in every style, what is current on it and why, each part as it is built."""

from __future__ import annotations

from dataclasses import dataclass
from typing import NamedTuple

from basilica.core.map.schema.sections import SITE
from basilica.core.navigation.menus import Mark
from basilica.core.outputs.static_site import Renderer
from basilica.core.plan import MenuPlan, Plan, why_current
from basilica.core.plan.addresses import Addresses

_STYLES = {word.name: word.values for word in SITE if word.values}


class Styled(NamedTuple):
    """The address of a page in one style, and whether that is the style of its site. ``file`` is empty for links."""

    style: str
    address: str
    file: str
    current: bool


@dataclass(frozen=True, slots=True)
class InMenu:
    """How a page stands in a menu: the mark it puts there, and the rule that led to it, step by step."""

    menu: MenuPlan
    mark: Mark | None
    why: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class PageView:
    """What there is to know of one page. ``order`` has the pages that can be stepped through, and ``before`` and
    ``after`` are its neighbours there."""

    key: str
    urls: tuple[Styled, ...]
    links: tuple[Styled, ...]
    menus: tuple[InMenu, ...]
    before: str | None
    after: str | None
    parts: dict[str, str]


def page_view(plan: Plan, renderer: Renderer, key: str) -> PageView:
    """Everything of page ``key``. ``renderer`` renders the same plan, with drafts."""
    order = list(plan.site.pages)
    at = order.index(key)
    return PageView(
        key=key,
        urls=tuple(_urls(plan, key)),
        links=tuple(_links(plan, key)),
        menus=tuple(
            InMenu(menu, menu.mark(plan.site, key), why_current(menu, plan.site, key))
            for menu in plan.menus.values()
            if menu.entries and menu.visible_on(plan.site, key)
        ),
        before=order[at - 1] if at else None,
        after=order[at + 1] if at + 1 < len(order) else None,
        parts=renderer.parts(key) if key in renderer.pages else {},
    )


def _urls(plan: Plan, key: str) -> list[Styled]:
    """Its address and its file in each style of addresses."""
    found = []
    for style in _STYLES["urls"]:
        route = plan.routes_in(style).get(key)
        if route:
            found.append(Styled(style, route.path, "" if route.is_backend else route.file, style == plan.site.urls))
    return found


def _links(plan: Plan, key: str) -> list[Styled]:
    """How a link to it is written on home, in each style of links."""
    found = []
    for style in _STYLES["links"]:
        base = plan.site.base
        if key not in plan.routes or plan.site.home is None or (style == "absolute" and base is None):
            continue
        address = Addresses(plan.routes, base, style).to_page(key, plan.site.home)
        found.append(Styled(style, address, "", style == plan.site.links))
    return found
