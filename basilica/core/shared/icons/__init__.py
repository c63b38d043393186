"""The icons that an entry of a menu may have: Lucide's, drawn inline so that no page asks for a file."""

from __future__ import annotations

from functools import lru_cache
from importlib.resources import files


@lru_cache(maxsize=1)
def shapes() -> dict[str, str]:
    """What each icon is drawn of, by its name: SVG markup in a square of 24, of lines 2 wide."""
    text = (files(__package__) / "lucide.txt").read_text(encoding="utf-8")
    return dict(line.split("\t", 1) for line in text.splitlines())


def drawn(name: str) -> str:
    """One of them as it stands in a page: SVG that says nothing, beside words that do. Raises ``KeyError``."""
    return (
        '<svg class="b-icon" aria-hidden="true" focusable="false" width="20" height="20" viewBox="0 0 24 24"'
        ' fill="none" stroke="currentColor" stroke-width="2" stroke-linecap="round" stroke-linejoin="round">'
        f"{shapes()[name]}</svg>"
    )
