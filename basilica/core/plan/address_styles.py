"""The address of a page, and links to it, as each style of addresses and links writes them."""

from __future__ import annotations

from typing import NamedTuple

from basilica.core.language.sections.site_words import SITE
from basilica.core.plan import Plan
from basilica.core.plan.addresses import Addresses

_STYLES = {word.name: word.values for word in SITE if word.values}


class Styled(NamedTuple):
    """The address of a page in one style, and whether that is the style of its site. ``file`` is empty for links."""

    style: str
    address: str
    file: str
    current: bool


def addresses_in_styles(plan: Plan, key: str) -> list[Styled]:
    """The address of a page, and its file, in each style of addresses."""
    found = []
    for style in _STYLES["urls"]:
        route = plan.routes_in(style).get(key)
        if route:
            found.append(Styled(style, route.path, "" if route.is_backend else route.file, style == plan.site.urls))
    return found


def links_in_styles(plan: Plan, key: str) -> list[Styled]:
    """How a link to a page is written on home, in each style of links."""
    found = []
    for style in _STYLES["links"]:
        base = plan.site.base
        if key not in plan.routes or plan.site.home is None or (style == "absolute" and base is None):
            continue
        address = Addresses(plan.routes, base, style).to_page(key, plan.site.home)
        found.append(Styled(style, address, "", style == plan.site.links))
    return found
