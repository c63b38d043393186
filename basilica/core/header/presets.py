"""Headers to begin with, by plain names."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import NamedTuple


class HeaderPreset(NamedTuple):
    """A header to begin with: what it is called, what it does, and its words with their values."""

    called: str
    told: str
    words: Mapping[str, str]


HEADER_PRESETS: dict[str, HeaderPreset] = {
    "static": HeaderPreset("Scrolls away", "It scrolls away with the page.", {"behaviour": "static"}),
    "sticky": HeaderPreset(
        "Sticky", "A low bar that stays. No script.", {"behaviour": "sticky", "height": "64", "min-window": "480"}
    ),
    "shrink": HeaderPreset(
        "Shrinks on scroll",
        "High at the top of the page, low over the text.",
        {"behaviour": "shrink", "height": "100", "small-height": "40", "threshold": "100"},
    ),
    "hide": HeaderPreset(
        "Hides on scroll down",
        "It leaves on the way down and returns on the way up.",
        {"behaviour": "hide", "height": "72", "threshold": "120", "min-window": "480"},
    ),
    "shrink-hide": HeaderPreset(
        "Shrinks, hides on scroll down",
        "Low once it returns.",
        {"behaviour": "shrink-hide", "height": "100", "small-height": "48", "threshold": "120"},
    ),
    "translucent": HeaderPreset(
        "Translucent",
        "The page shines through; a shadow once it is over the text.",
        {
            "behaviour": "sticky",
            "height": "64",
            "opacity": "88",
            "blur": "8",
            "shadow": "scrolled",
            "min-window": "480",
        },
    ),
}

_UNCHANGED = frozenset(
    ["tagline", "width", "name-width", "align", "padding", "bar", "arrange", "over-picture", "below", "until", "layer"]
)
"""Words that a preset leaves as they are: they say what stands in the bar and how wide it is, not what it does."""


def preset_values(preset: HeaderPreset, known: Iterable[str]) -> dict[str, str]:
    """The values with which a header begins, for those of the ``known`` words that a preset sets; an empty one takes
    the word out."""
    return {word: preset.words.get(word, "") for word in known if word not in _UNCHANGED}
