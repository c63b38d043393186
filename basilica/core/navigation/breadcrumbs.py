"""Breadcrumbs: the way from home to a page, by the tree of pages."""

from __future__ import annotations

from basilica.core.map.site import Site


class Breadcrumbs:
    """The breadcrumbs of the pages of a site."""

    def __init__(self, site: Site) -> None:
        self._site = site
        self._some_hidden = any("breadcrumbs" in page.options.hidden for page in site.pages.values())

    def of(self, key: str) -> tuple[str, ...]:
        """Keys from home to the page itself: home, its ancestors from the outside in, itself. None on home.

        What is kept out of breadcrumbs is left out, and home and the page itself where the map says so."""
        site = self._site
        if key == site.home:
            return ()
        above = tuple(reversed(site.ancestors(key)))
        home = (site.home,) if site.home and site.home not in above and site.crumbs.home != "none" else ()
        trail = (*home, *above, *((key,) if site.crumbs.itself else ()))
        if not self._some_hidden:
            return trail
        return tuple(page for page in trail if "breadcrumbs" not in site.pages[page].options.hidden)
