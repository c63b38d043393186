"""What the header takes: of the screen, and of the place where a jump ends."""

from __future__ import annotations

from typing import NamedTuple

from basilica.core.header.header_settings import Settings, Windows

SCREENS = (
    ("a small phone", 320, 568),
    ("a phone", 390, 844),
    ("a small phone on its side", 667, 375),
    ("a phone on its side", 844, 390),
    ("a tablet", 768, 1024),
    ("a laptop", 1280, 720),
    ("a desktop", 1920, 1080),
)
"""Usual sizes of windows, CSS px. Common practice, no source."""
FIFTH = 20
"""Percent of the screen past which a header takes much. Common practice, no source."""


class Share(NamedTuple):
    """What the header takes of a window, in percent: at rest, and as it ``stays`` while one reads."""

    screen: str
    width: int
    height: int
    rest: float
    stays: float

    @property
    def much(self) -> bool:
        """Whether what stays takes more than a fifth."""
        return self.stays > FIFTH


def shares(settled: tuple[tuple[Windows, Settings], ...], row: int) -> tuple[Share, ...]:
    """What it takes of each usual window; ``row`` is the height of the row above it."""
    found = []
    for screen, width, height in SCREENS:
        settings = next(settings for windows, settings in settled if windows.has(width, height))
        rest = settings.height + row
        found.append(Share(screen, width, height, 100 * rest / height, 100 * staying(settings, row) / height))
    return tuple(found)


def staying(settings: Settings, row: int) -> int:
    """How high what stays over the content is while one reads, CSS px: of one that hides, as it is when it is back."""
    if not settings.sticks:
        return 0
    bar = settings.small_height if settings.shrinks else settings.height
    return bar + (row if settings.top_row == "stays" or (settings.top_row == "leaves" and not settings.shrinks) else 0)


def jump_room(settings: Settings, row: int) -> int:
    """How much room a jump must leave at the top of the window, CSS px, so that its target is in view whatever state
    the header is in when it ends: the most that it then covers. A jump may end above ``depth``, or on the way up."""
    if not settings.sticks:
        return 0
    return settings.height + (row if settings.top_row != "scrolls" else 0)
