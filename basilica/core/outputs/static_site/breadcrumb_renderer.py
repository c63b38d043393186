"""Breadcrumbs: as they are drawn, and as data for search engines."""

from __future__ import annotations

import json
from typing import Any

from markupsafe import Markup

from basilica.core.map.site.model import TrailLevel
from basilica.core.outputs.static_site.indentation import indented
from basilica.core.outputs.static_site.slot_template import SlotTemplate
from basilica.core.outputs.static_site.slots import LABEL, room_for
from basilica.core.outputs.static_site.template_environment import environment
from basilica.core.plan import Plan

_ENCODER = json.JSONEncoder(ensure_ascii=False, separators=(",", ":"))


class BreadcrumbRenderer:
    """Renders the breadcrumbs of the pages of one plan."""

    def __init__(self, plan: Plan) -> None:
        self._plan = plan
        self._crumbs = environment().get_template("parts/_breadcrumbs.html").module
        self._around: dict[tuple[str, tuple[TrailLevel, ...], bool], SlotTemplate] = {}
        self._data_above: dict[tuple[TrailLevel, ...], str] = {}

    def breadcrumbs(self, key: str) -> Markup:
        """The breadcrumbs of a page; nothing on home."""
        trail = self._plan.breadcrumbs(key)
        return self._drawn(key, trail) if trail else Markup("")

    def data(self, key: str) -> Markup:
        """The same as schema.org data."""
        trail = self._plan.breadcrumbs(key)
        return self._data(trail) if trail else Markup("")

    def crumbs(self, key: str, trail: tuple[TrailLevel, ...]) -> list[tuple[str | None, str, bool]]:
        """Of each breadcrumb but the page itself: its address as it is written on page ``key`` (None for a section, and
        for a name alone), its label, and whether it is drawn as an icon."""
        routes, site = self._plan.routes, self._plan.site
        write = self._plan.addresses.to_page
        return [
            (
                write(above.page, key) if above.page is not None and above.page in routes else None,
                above.label,
                above.page is not None and above.page == site.home and site.crumbs.home == "icon",
            )
            for above in trail
            if above.page != key
        ]

    def _drawn(self, key: str, trail: tuple[TrailLevel, ...]) -> Markup:
        """Pages under the same parent share all breadcrumbs but the last."""
        site = self._plan.site
        itself = trail[-1].page == key
        around = self._plan.addresses.place_of(key), trail[:-1] if itself else trail, itself
        known = self._around.get(around)
        if known is None:
            folded: tuple[int, int] = (0, 0)
            if site.crumbs.shorten and len(trail) > site.crumbs.shorten:
                # The first stays, and as many of the last as there is room for; a mark stands for the others.
                folded = (1, len(trail) - (site.crumbs.shorten - 2))
            last = room_for(LABEL) if itself else ""
            drawn = self._crumbs.breadcrumbs(self.crumbs(key, trail), last, folded, site.phrases)  # type: ignore[attr-defined]
            known = self._around[around] = SlotTemplate(indented(str(drawn), 1))
        return known.text({LABEL: site.pages[key].label})

    def _data(self, trail: tuple[TrailLevel, ...]) -> Markup:
        """The breadcrumbs as schema.org data, in a form that cannot end the script element it stands in."""
        above = trail[:-1]
        known = self._data_above.get(above)
        if known is None:
            items = "".join([self._list_item(position, level) + "," for position, level in enumerate(above, 1)])
            known = f'{{"@context":"https://schema.org","@type":"BreadcrumbList","itemListElement":[{items}'
            self._data_above[above] = known
        return Markup(f"{known}{self._list_item(len(trail), trail[-1])}]}}")

    def _list_item(self, position: int, level: TrailLevel) -> str:
        """One breadcrumb as data."""
        item: dict[str, Any] = {"@type": "ListItem", "position": position, "name": level.label}
        canonical = self._plan.addresses.canonical(level.page) if level.page is not None else None
        if canonical:
            item["item"] = canonical
        return _ENCODER.encode(item).replace("<", "\\u003c")
