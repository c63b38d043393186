"""Where the header is, moment by moment, while a page is scrolled: worked out, without a browser.

The model is that of CSS Positioned Layout 3: a sticky box moves only within the box that contains it, and a fixed one
stays. Where the room follows what is drawn, the browser keeps what one reads in its place (CSS Scroll Anchoring 1), and
so moves the scroll position by as much as the page above it has changed.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from basilica.core.header.header_settings import Settings
from basilica.core.header.state_machine import Machine, table_of

_ROUNDS = 12
"""Changes of state in one moment past which a header is taken to flicker."""


@dataclass(frozen=True, slots=True)
class Viewport:
    """What a header stands on; all in CSS px. ``page`` is the height of the page, with the header at rest; ``row`` the
    height of the row above it; ``reach`` how far down the box goes in which it sticks (0: to the end of the page)."""

    page: float
    window: float
    row: float = 0
    reach: float = 0


@dataclass(frozen=True, slots=True)
class ScrollFrame:
    """The header after a step, once every transition has run; lengths in CSS px.

    ``time`` is in ms, ``scrolled`` where the page stands, ``top`` the place of the header's upper edge in the window,
    ``covers`` how much of the content at the top of the window is under it, the row above included. ``flickers`` where
    it undoes its own change without end."""

    time: float
    scrolled: float
    state: str
    height: int
    top: float
    covers: float
    flickers: bool = False


def simulate(settings: Settings, viewport: Viewport, trace: Iterable[tuple[float, float]]) -> tuple[ScrollFrame, ...]:
    """The moments of a trace: pairs of a time (ms) and the depth to which somebody scrolls then (CSS px; below 0 or
    past the end where a rubber band pulls). The page begins at the top."""
    stage = _Stage(settings, viewport)
    return tuple(stage.step(time, depth) for time, depth in trace)


class _Stage:
    def __init__(self, settings: Settings, viewport: Viewport) -> None:
        self.settings, self.viewport = settings, viewport
        self.machine = Machine(table_of(settings))

    @property
    def _given(self) -> int:
        """By how much the page is shorter now than with the header at rest."""
        settings = self.settings
        return settings.height - settings.height_in(self.machine.state) if settings.follows else 0

    @property
    def _end(self) -> float:
        return max(self.viewport.page - self._given - self.viewport.window, 0)

    def step(self, time: float, depth: float) -> ScrollFrame:
        scrolled = min(max(depth, 0), self._end)
        rounds = 0
        while rounds < _ROUNDS:
            before = self._given
            self.machine.look(scrolled, self._end)
            if self._given == before:
                break
            rounds += 1
            # What one reads stays where it is: the page above it has changed by so much.
            moved = scrolled - (self._given - before) if scrolled > 0 else scrolled
            scrolled = min(max(moved, 0), self._end)
        return self._frame(time, scrolled, rounds == _ROUNDS)

    def _frame(self, time: float, scrolled: float, flickers: bool) -> ScrollFrame:
        settings, viewport, state = self.settings, self.viewport, self.machine.state
        height = settings.height_in(state)
        room = height if settings.follows else settings.height
        row, row_top = viewport.row, -scrolled
        stays = settings.sticks and settings.top_row != "scrolls" and row > 0
        gone = stays and settings.top_row == "leaves" and state in ("small", "hidden")
        end = (viewport.reach or viewport.page) - self._given - scrolled
        flow = row - scrolled
        """Where the room's upper edge would be, did nothing stick."""
        top = flow
        if settings.sticks:
            inset = row if stays else 0.0
            top = inset if settings.layout == "fixed" else min(max(flow, inset), max(end - room, flow))
            if stays:
                row_top = min(max(-scrolled, 0), max(end - row, -scrolled))
            if gone:
                top, row_top = top - row, row_top - row
        if state == "hidden":
            top -= height
        lowest = max(top + height, row_top + row if row else 0, 0)
        covers = max(min(lowest, viewport.window) - max(flow + room, 0), 0) if settings.sticks else 0
        return ScrollFrame(time, scrolled, state, height, top, covers, flickers)
