"""Headers to begin with, by plain names."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import NamedTuple


class Start(NamedTuple):
    """A header to begin with: what it is called, what it does, and its words with their values."""

    called: str
    told: str
    words: Mapping[str, str]


STARTS: dict[str, Start] = {
    "passing": Start("Passes by", "It scrolls away with the page.", {"behaviour": "static"}),
    "standing": Start(
        "Stands", "A low bar that stays. No script.", {"behaviour": "stick", "height": "64", "short": "480"}
    ),
    "drawing-in": Start(
        "Draws in",
        "High at the top of the page, low over the text.",
        {"behaviour": "shrink", "height": "100", "small": "40", "depth": "100"},
    ),
    "stepping-aside": Start(
        "Steps aside",
        "It leaves on the way down and returns on the way up.",
        {"behaviour": "retreat", "height": "72", "depth": "120", "short": "480"},
    ),
    "both": Start(
        "Draws in, steps aside",
        "Low once it returns.",
        {"behaviour": "shrink-retreat", "height": "100", "small": "48", "depth": "120"},
    ),
    "glazed": Start(
        "Glazed",
        "The text shimmers through; a shadow once it lies over it.",
        {"behaviour": "stick", "height": "64", "opacity": "88", "blur": "8", "shadow": "scrolled", "short": "480"},
    ),
}

_KEPT = frozenset(["tagline", "width", "name-width", "align", "padding", "bar", "below", "until", "layer"])
"""Words that a start leaves as they are: they say what stands in the bar and how wide it is, not what it does."""


def started(start: Start, known: Iterable[str]) -> dict[str, str]:
    """The values with which a header begins, for those of the ``known`` words that a start sets; an empty one takes the
    word out."""
    return {word: start.words.get(word, "") for word in known if word not in _KEPT}
