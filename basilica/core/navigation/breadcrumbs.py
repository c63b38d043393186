"""Breadcrumbs: the way from home to a page, by the tree of pages, or as the map says by hand."""

from __future__ import annotations

from basilica.core.map.site import EntryKind, Site
from basilica.core.map.site.auto_entries import drafts_of
from basilica.core.map.site.model import TrailLevel
from basilica.core.navigation.menus import MenuPlan


class Breadcrumbs:
    """The breadcrumbs of the pages of a site. ``main`` is its main menu, whose groups can be levels."""

    def __init__(self, site: Site, main: MenuPlan) -> None:
        self._site = site
        self._main = main if site.crumbs.groups else None
        self._some_hidden = any("breadcrumbs" in page.options.hidden for page in site.pages.values())
        self._drafts = drafts_of(site.pages)
        self._above: dict[str, tuple[TrailLevel, ...]] = {}

    def of(self, key: str) -> tuple[TrailLevel, ...]:
        """From home to the page itself: home, its ancestors from the outside in, itself. None on home.

        What is kept out of breadcrumbs is left out, and home and the page itself where the map says so."""
        site = self._site
        if key == site.home:
            return ()
        above = self.above(key)
        page = site.pages[key]
        trail = above if not site.crumbs.itself else (*above, TrailLevel(key, page.label))
        if self._main is not None:
            trail = self._with_groups(self._main, trail, key)
        if site.home and site.crumbs.home != "none" and all(level.page != site.home for level in above):
            trail = (TrailLevel(site.home, site.pages[site.home].label), *trail)
        if self._drafts and key not in self._drafts:
            trail = tuple(level for level in trail if level.page not in self._drafts)
        if not self._some_hidden:
            return trail
        return tuple(level for level in trail if level.page is None or not self._is_hidden(level.page))

    def is_plain(self, key: str) -> bool:
        """Whether the tree alone says what the breadcrumbs of a page are."""
        if self._main is not None:
            return False
        pages = self._site.pages
        return all(
            not (pages[page].options.trail or pages[page].options.trail_parent)
            for page in (key, *self._site.ancestors(key))
        )

    def above(self, key: str) -> tuple[TrailLevel, ...]:
        """The levels between home and a page."""
        known = self._above.get(key)
        if known is None:
            page = self._site.pages[key]
            parent = page.options.trail_parent or page.parent
            if page.options.trail:
                known = tuple(
                    level if level.page is None else TrailLevel(level.page, self._site.pages[level.page].label)
                    for level in page.options.trail
                )
            elif parent is None or (parent == self._site.home and page.options.trail_parent):
                known = ()
            else:
                known = (*self.above(parent), TrailLevel(parent, self._site.pages[parent].label))
            self._above[key] = known
        return known

    def _is_hidden(self, key: str) -> bool:
        return "breadcrumbs" in self._site.pages[key].options.hidden

    @staticmethod
    def _with_groups(main: MenuPlan, trail: tuple[TrailLevel, ...], key: str) -> tuple[TrailLevel, ...]:
        """A trail in which the groups stand before the first level, or before page ``key`` itself, that they hold."""
        levels = trail if any(level.page == key for level in trail) else (*trail, TrailLevel(key, ""))
        for at, level in enumerate(levels):
            numbers = main.page_entries.get(level.page) if level.page is not None else None
            if numbers:
                above = [main.entries[number] for number in main.above(numbers[0])]
                groups = [TrailLevel(None, entry.label) for entry in above if entry.kind is EntryKind.GROUP]
                return (*trail[:at], *groups, *trail[at:])
        return trail
