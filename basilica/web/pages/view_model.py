"""One page as its site sees it: where it is in every style, what is current on it and why, each part as it is built."""

from __future__ import annotations

from dataclasses import dataclass

from basilica.core.navigation.menus import Mark
from basilica.core.outputs.static_site import Renderer
from basilica.core.plan import MenuPlan, Plan, why_current
from basilica.core.plan.address_styles import Styled, addresses_in_styles, links_in_styles


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
        urls=tuple(addresses_in_styles(plan, key)),
        links=tuple(links_in_styles(plan, key)),
        menus=tuple(
            InMenu(menu, menu.mark(plan.site, key), why_current(menu, plan.site, key))
            for menu in plan.menus.values()
            if menu.entries and menu.visible_on(plan.site, key)
        ),
        before=order[at - 1] if at else None,
        after=order[at + 1] if at + 1 < len(order) else None,
        parts=renderer.parts(key) if key in renderer.pages else {},
    )
