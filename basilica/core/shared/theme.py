"""How generated pages look: colours by name, a few sets of them to begin with, and which must be read on which."""

from __future__ import annotations

from typing import NamedTuple

COLOURS: dict[str, str] = {
    "ink": "The colour of text.",
    "quiet": "The colour of what is less important: breadcrumbs, notes.",
    "link": "The colour of links.",
    "hover": "The colour of a link under the mouse.",
    "current": "The colour of the entry that is current.",
    "ground": "The colour behind everything.",
    "line": "The colour of the lines between parts.",
}

PRESETS: dict[str, dict[str, str]] = {
    "slate": {
        "ink": "#1d2433", "quiet": "#565f70", "link": "#1f4fa3", "hover": "#12336e", "current": "#7a5200",
        "ground": "#ffffff", "line": "#d5dae2",
    },
    "meadow": {
        "ink": "#1c2a20", "quiet": "#54614f", "link": "#1d6440", "hover": "#0f4029", "current": "#8a3a14",
        "ground": "#fbfcf7", "line": "#d6ddcf",
    },
    "harbour": {
        "ink": "#10242e", "quiet": "#4d626d", "link": "#0b6178", "hover": "#073f4f", "current": "#9a2f2f",
        "ground": "#f6fafb", "line": "#cddbe0",
    },
    "lantern": {
        "ink": "#f1ede4", "quiet": "#bdb5a6", "link": "#9ecbff", "hover": "#d3e7ff", "current": "#f3c56b",
        "ground": "#191d26", "line": "#3b4252",
    },
}  # fmt: skip
"""Sets of colours to begin with. Every pair of ``PAIRS`` in them is at least 4.5:1 (tested)."""

PAIRS = tuple((name, "ground") for name in ("ink", "quiet", "link", "hover", "current"))
"""Text and what is behind it: each pair must be told apart at 4.5:1 (WCAG 2.2, 1.4.3)."""

ENOUGH = 4.5

DIVIDERS = {"none": "", "line": "|", "dot": "·"}
WEIGHTS = {"normal": "400", "medium": "500", "bold": "700"}


class Poor(NamedTuple):
    """A pair of colours that is hard to tell apart: its ratio, and the nearest colour for the first that is enough
    (None where there is none)."""

    name: str
    behind: str
    ratio: float
    better: str | None


def hex_of(text: str) -> str | None:
    """A colour as CSS writes them, as ``#rrggbb``; None for what is no colour, or is not opaque."""
    from coloraide import Color  # takes its time to load, and few maps need it

    if len(text) > 60:
        return None
    try:
        colour = Color(text)
    except (ValueError, TypeError, KeyError):
        return None
    if colour.alpha(nans=False) < 1:
        return None
    return str(colour.convert("srgb").fit().to_string(hex=True))


def contrast(one: str, other: str) -> float:
    """The contrast ratio of two colours (WCAG 2.2, contrast ratio)."""
    from coloraide import Color

    return float(Color(one).contrast(other, method="wcag21"))


def poor_pairs(colours: dict[str, str]) -> list[Poor]:
    """The pairs that are below 4.5:1."""
    found = []
    for name, behind in PAIRS:
        ratio = contrast(colours[name], colours[behind])
        if ratio < ENOUGH:
            found.append(Poor(name, behind, ratio, nearest(colours[name], colours[behind])))
    return found


def nearest(colour: str, ground: str) -> str | None:
    """The colour nearest to one in lightness, with its own hue, that can be read on a ground; None where none can.

    Lightness is that of OKLCH, tried in steps of a half percent both ways.
    """
    from coloraide import Color

    base = Color(colour).convert("oklch")
    for step in range(1, 201):
        for way in (-1, 1):
            lightness = base["l"] + way * step / 200
            if not 0 <= lightness <= 1:
                continue
            tried = base.clone().set("l", lightness).convert("srgb").fit().to_string(hex=True)
            if contrast(tried, ground) >= ENOUGH:
                return str(tried)
    return None
