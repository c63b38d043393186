"""Where something stands in a text."""

from __future__ import annotations

from typing import NamedTuple


class Place(NamedTuple):
    """A place in a file: ``line`` and ``column`` count from 1, in characters. ``file`` is empty for the map's own file,
    and otherwise a name such as ``content/visit/hours.md``."""

    line: int
    column: int
    file: str = ""


START = Place(1, 1)
"""Where every text begins."""
