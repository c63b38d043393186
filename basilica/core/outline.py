"""Which page each place of a map's text is about, so that choosing in the text and in the plan are one."""

from __future__ import annotations

from typing import NamedTuple

from basilica.core.document import Document, Mapping
from basilica.core.plan import Plan


class Place(NamedTuple):
    """From this line and column (from 1, in characters) on, up to the next place, the text is about a page, or
    about none (``key`` None)."""

    line: int
    column: int
    key: str | None


def outline(document: Document, plan: Plan) -> tuple[Place, ...]:
    """The places of a text, in its order."""
    offsets: dict[int, str | None] = {}
    if isinstance(document.root, Mapping):
        for key, _ in document.root.pairs:
            offsets[key.start] = None
    for menu in plan.menus.values():
        for entry in menu.entries:
            # What `auto` makes stands at one place together and is about no page in particular.
            offsets[entry.at] = None if entry.at in offsets else entry.page
    for page in plan.site.pages.values():
        offsets[page.at] = page.key
    return tuple(Place(*document.lines.place(offset), key) for offset, key in sorted(offsets.items()))
