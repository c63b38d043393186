"""What closes a page, below its own text: a list of pages, and the pages before and after it."""

from __future__ import annotations

from typing import Any

from markupsafe import Markup

from basilica.core.outputs.static_site.indentation import indented
from basilica.core.outputs.static_site.template_environment import environment, naming
from basilica.core.plan import Plan
from basilica.core.rules import limits

Listed = tuple[str | None, str, list[Any]]
"""A page in a list below content: its address (None for a section), its label, and those under it."""


class PageEndRenderer:
    """Renders what closes the pages of one plan."""

    def __init__(self, plan: Plan) -> None:
        self._plan = plan
        self._page_end = environment().get_template("parts/_page_end.html").module

    def page_list(self, key: str) -> Markup:
        """The pages under a page, or all of the site, as a list; nothing where none is wanted."""
        site, phrases = self._plan.site, self._plan.site.phrases
        how = site.list_of(key)
        listed: list[Listed] = []
        label = ""
        if how == "under" and site.pages[key].children:
            listed, label = self._listed(key, key, 1), naming(phrases["under"], site.pages[key].label)
        elif how == "site":
            listed, label = self._listed(None, key, limits.LEVELS), phrases["all-pages"]
        if not listed:
            return Markup("")
        return Markup(indented(self._page_end.page_list(listed, label), 3))  # type: ignore[attr-defined]

    def sequence(self, key: str) -> Markup:
        """Links to the page before and the one after; nothing where there is neither."""
        around = [self._neighbour(other, key) for other in self._plan.neighbours(key)]
        if around == [None, None]:
            return Markup("")
        return Markup(self._page_end.sequence(*around, self._plan.site.phrases))  # type: ignore[attr-defined]

    def _neighbour(self, other: str | None, key: str) -> tuple[str, str] | None:
        if other is None:
            return None
        return self._plan.addresses.to_page(other, key), self._plan.site.pages[other].label

    def _listed(self, parent: str | None, source: str, levels: int) -> list[Listed]:
        """The pages under a page, so many levels deep, as they are written on page ``source``: address (None for a
        section, which is no level of its own), label, and those under them."""
        found: list[Listed] = []
        for key in self._plan.under(parent):
            page = self._plan.site.pages[key]
            route = self._plan.routes.get(key)
            if route is not None and route.parameters:
                continue  # a list has no values to give
            routed = route is not None
            deeper = levels - 1 if routed else levels
            items = self._listed(key, source, deeper) if deeper and page.children else []
            if routed or items:
                found.append((self._plan.addresses.to_page(key, source) if routed else None, page.label, items))
        return found
