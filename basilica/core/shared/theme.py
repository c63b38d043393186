"""How generated pages look: colours by name, a few sets of them to begin with, and which must be read on which."""

from __future__ import annotations

from collections.abc import Mapping
from functools import lru_cache
from types import MappingProxyType
from typing import NamedTuple

COLOURS: dict[str, str] = {
    "ink": "The text.",
    "quiet": "Less important text, such as breadcrumbs and notes.",
    "link": "Links.",
    "hover": "Links under the pointer.",
    "current": "The current entry of menus.",
    "ground": "The background of the page.",
    "panel": "The background of the footer, code, and the head rows of tables.",
    "line": "The lines between parts.",
}

COLOUR_TITLES = {
    "ink": "Text",
    "quiet": "Quiet text",
    "link": "Links",
    "hover": "Links under the pointer",
    "current": "Current entry",
    "ground": "Background",
    "panel": "Panels",
    "line": "Lines",
    "current-background": "Current entry, background",
}
"""What the colours are called where people choose them."""

CORNERS = {"square": "0", "soft": "0.375rem", "round": "0.875rem"}
"""How round the corners of buttons, panels and code are."""
HEADINGS = {"calm": 1.2, "clear": 1.28, "bold": 1.38}
"""By how much each step of headings is larger than the one below it, in wide windows."""


class Preset(NamedTuple):
    """A theme to begin with. ``dark`` are its colours for those who ask for dark ones; none where it is dark itself."""

    colours: dict[str, str]
    dark: dict[str, str]
    font: str
    corners: str
    headings: str
    heading_weight: int
    heading_spacing: float
    """Between the letters of headings, em."""


PRESETS: dict[str, Preset] = {
    "slate": Preset({
        "ink": "#1a2233", "quiet": "#566074", "link": "#2148a4", "hover": "#15336f", "current": "#7a5200",
        "ground": "#ffffff", "panel": "#f3f5f9", "line": "#d8dee8",
    }, {
        "ink": "#e6eaf2", "quiet": "#a4afc2", "link": "#94b6ff", "hover": "#c0d4ff", "current": "#f0c368",
        "ground": "#11151e", "panel": "#1a202c", "line": "#323b4d",
    }, "figtree", "soft", "clear", 700, -0.018),
    "meadow": Preset({
        "ink": "#222a20", "quiet": "#596353", "link": "#1d6440", "hover": "#0f4029", "current": "#8a3a14",
        "ground": "#fcfbf6", "panel": "#f2f1e6", "line": "#d9d9c9",
    }, {
        "ink": "#e9e9dd", "quiet": "#adb5a4", "link": "#8fd0a6", "hover": "#bfe7cc", "current": "#f2a884",
        "ground": "#151a15", "panel": "#1d241d", "line": "#364036",
    }, "source-serif", "square", "calm", 600, -0.008),
    "harbour": Preset({
        "ink": "#0f222b", "quiet": "#4b606b", "link": "#0a5f76", "hover": "#063e4e", "current": "#9a2f2f",
        "ground": "#ffffff", "panel": "#e9f2f5", "line": "#c4d6dd",
    }, {
        "ink": "#e3eff3", "quiet": "#9db4be", "link": "#71cbe5", "hover": "#abe3f2", "current": "#ff9f8d",
        "ground": "#0b1920", "panel": "#122630", "line": "#26434f",
    }, "archivo", "round", "bold", 800, -0.025),
    "lantern": Preset({
        "ink": "#f1ede4", "quiet": "#bdb5a6", "link": "#9ecbff", "hover": "#d3e7ff", "current": "#f3c56b",
        "ground": "#191d26", "panel": "#232936", "line": "#3f4759",
    }, {}, "atkinson", "soft", "clear", 650, -0.01),
}  # fmt: skip
"""Every pair of ``PAIRS`` in their colours is at least 4.5:1 (tested)."""

PAIRS = (
    *((name, "ground") for name in ("ink", "quiet", "link", "hover", "current")),
    *((name, "panel") for name in ("ink", "quiet", "link", "hover")),
)
"""Text and what is behind it: each pair must be told apart at 4.5:1 (WCAG 2.2, 1.4.3)."""

OWN_PAIRS = (("current", "current-background"),)
"""The same of colours that a theme may have or not."""

ENOUGH = 4.5

DIVIDERS = {"none": "", "line": "|", "dot": "·"}
CURRENT_LINES = {
    "below": "box-shadow: inset 0 -3px 0 currentColor;",
    "above": "box-shadow: inset 0 3px 0 currentColor;",
    "none": "box-shadow: none;",
}
"""What is drawn at the current entry."""
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


def poor_pairs(colours: Mapping[str, str]) -> list[Poor]:
    """The pairs that are below 4.5:1."""
    found = []
    for name, behind in (*PAIRS, *(pair for pair in OWN_PAIRS if pair[1] in colours)):
        ratio = contrast(colours[name], colours[behind])
        if ratio < ENOUGH:
            found.append(Poor(name, behind, ratio, nearest(colours[name], colours[behind])))
    return found


@lru_cache(maxsize=64)
def settled_colours(preset: str, own: tuple[tuple[str, str], ...]) -> Mapping[str, str]:
    """Every colour of a theme: the site's own over those of the preset. A panel that the site has not chosen, and on
    which its own colours cannot be read, is as the background."""
    colours = {**PRESETS[preset].colours, **dict(own)}
    if own and "panel" not in dict(own):
        texts = [name for name, behind in PAIRS if behind == "panel"]
        hard = [name for name in texts if contrast(colours[name], colours["panel"]) < ENOUGH]
        if any(contrast(colours[name], colours["ground"]) >= ENOUGH for name in hard):
            colours["panel"] = colours["ground"]
    return MappingProxyType(colours)


def dark_version(preset: Preset, own: Mapping[str, str]) -> dict[str, str]:
    """The colours of a theme for those who ask for dark ones: those of the preset; the site's own colours of links and
    marks keep their hue, and become as light as they must. None where the theme is dark already."""
    if not preset.dark or ("ground" in own and contrast(own["ground"], "#ffffff") > contrast(own["ground"], "#000000")):
        return {}
    dark = dict(preset.dark)
    for name in ("link", "hover", "current"):
        if name in own:
            dark[name] = nearest(own[name], dark["panel"]) or dark[name]
    if "current-background" in own:
        dark["current-background"] = dark["panel"]
    return dark


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
