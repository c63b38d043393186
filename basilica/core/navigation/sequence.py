"""The page before and the page after, as readers go through a site."""

from __future__ import annotations

from collections.abc import Iterable

from basilica.core.map.site import Site


class PageSequence:
    """The order of some pages of a site: those that are built, in the order of the map."""

    def __init__(self, site: Site, order: Iterable[str]) -> None:
        self._site = site
        self._order = tuple(order)
        self._at = {key: index for index, key in enumerate(self._order)}

    def around(self, key: str) -> tuple[str | None, str | None]:
        """The page before and the page after, as `sequence` says. None where there is none, or where no sequence is
        wanted."""
        how = self._site.sequence_of(key)
        at = self._at.get(key)
        if how == "none" or at is None:
            return None, None
        order = self._order
        before, after = order[at - 1] if at else None, order[at + 1] if at + 1 < len(order) else None
        if how == "map":
            return before, after
        section = key.partition("/")[0]
        inside = [other if other and other.partition("/")[0] == section else None for other in (before, after)]
        return inside[0], inside[1]
