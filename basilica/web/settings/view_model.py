"""What follows from settings: how well colours can be told apart, and how addresses and links are written."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from typing import NamedTuple

from basilica.core.map.schema.sections import SITE
from basilica.core.plan import Plan
from basilica.core.plan.addresses import Addresses
from basilica.core.plan.routes import make_routes
from basilica.core.shared.theme import ENOUGH, PAIRS, contrast


class ContrastRow(NamedTuple):
    """Two colours of the theme that lie upon each other, and how well they can be told apart (WCAG 2.2, 1.4.3)."""

    what: str
    ground: str
    colours: tuple[str, str]
    ratio: float

    @property
    def is_enough(self) -> bool:
        """Whether text in these can be read."""
        return self.ratio >= ENOUGH


def contrasts(plan: Plan) -> list[ContrastRow]:
    """Every pair of colours in which text stands."""
    colours = plan.site.theme.all_colours()
    return [
        ContrastRow(one, other, (colours[one], colours[other]), contrast(colours[one], colours[other]))
        for one, other in PAIRS
    ]


class AddressExample(NamedTuple):
    """What a page's address is, or a link to it, with one value of a setting."""

    word: str
    value: str
    written: str
    is_now: bool


def examples(plan: Plan, key: str) -> Iterator[AddressExample]:
    """How the address of a page, and a link to it from home, would be written, by value of the setting."""
    site = plan.site
    words = {word.name: word for word in SITE}
    for urls in words["urls"].values:
        routes = make_routes(replace(site, urls=urls))
        yield AddressExample("urls", urls, routes[key].path, urls == site.urls)
    for links in words["links"].values:
        if links == "absolute" and site.base is None:
            continue
        written = Addresses(plan.routes, site.base, links).to_page(key, site.home)
        yield AddressExample("links", links, written, links == site.links)
