"""The elevation of a header: seen from the side, how far the page is scrolled along, and where the header is.

Everything is worked out by the simulation; here it becomes lengths on a drawing, in its own px.
"""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise
from typing import NamedTuple

from basilica.core.header.header_plan import BreakpointVariant
from basilica.core.header.simulation import ScrollFrame, Viewport, simulate

_LEFT, _RIGHT, _TOP, _BOTTOM = 46, 14, 22, 30
_MARGIN_TOP = 14
_WINDOW = 56
"""How high the window of a moment is drawn."""


class Tick(NamedTuple):
    """A number on an axis, and its place on the drawing."""

    at: float
    text: str


class Turn(NamedTuple):
    """Where a trace changes state."""

    x: float
    y: float
    state: str


@dataclass(frozen=True, slots=True)
class ScrollTimeline:
    """A drawing of ``width`` by ``height``. ``down`` and ``up`` are the outlines of the header on the way down and on
    the way back, ``content`` is where the text of the page begins; each as the ``d`` of a path. ``change`` and ``back``
    are where it changes on the way down and where it is at rest again, and ``limit`` where what it sticks in ends; None
    where that is not on the drawing."""

    width: int
    height: int
    along: tuple[Tick, ...]
    across: tuple[Tick, ...]
    window: float
    down: str
    up: str
    content: str
    change: float | None
    back: float | None
    limit: float | None
    scale: float
    left: float
    most: int

    def x(self, depth: float) -> float:
        """The place of a depth along the drawing."""
        return round(self.left + depth * self.scale, 1)

    @property
    def right(self) -> int:
        """Where the drawing ends; right of it is its margin."""
        return self.width - _RIGHT

    @property
    def foot(self) -> int:
        """Where the drawing ends below; what is lower are the numbers of the axis."""
        return self.height - _BOTTOM

    @property
    def margin(self) -> tuple[float, float, int] | None:
        """Where the threshold margin begins, how wide and how high it is drawn; None where there is none."""
        if self.back is None or self.change is None or self.back >= self.change:
            return None
        return self.back, round(self.change - self.back, 1), self.foot - _MARGIN_TOP


class WindowDrawing(NamedTuple):
    """A window from the side, small: how high each line of text is and how far it goes, and the header's upper edge and
    height; None where nothing of it is in the window."""

    lines: tuple[tuple[float, int], ...]
    bar: tuple[float, float] | None


def draw_window(cell: BreakpointVariant, viewport: Viewport, now: ScrollFrame) -> WindowDrawing:
    """The header at one moment, and the text below it."""
    room = cell.settings.height + viewport.row
    scale = _WINDOW / max(room + 40, 90)
    begins = max(room - now.scrolled, 0) * scale + 6
    places = ((round(begins + 7 * row, 1), 118 if row % 3 else 90) for row in range(8))
    lines = tuple(place for place in places if place[0] < _WINDOW - 2)
    if now.top + now.height <= -10:
        return WindowDrawing(lines, None)
    top = max(now.top * scale, -6)
    return WindowDrawing(lines, (round(top, 1), round(max((now.top + now.height) * scale - top, 0), 1)))


class _Canvas:
    def __init__(self, cell: BreakpointVariant, viewport: Viewport, width: int, height: int) -> None:
        settings = cell.settings
        whole = settings.height + viewport.row
        self.end = max(viewport.page - viewport.window, 0)
        wanted = max(settings.threshold * 2.2, whole * 2, 240) if settings.sticks else whole * 2
        self.most = max(round(min(max(wanted, settings.threshold + whole), max(self.end, whole))), 1)
        least = -(settings.height_in("hidden") + 6) if settings.hides else -min(settings.height, 40)
        self.least, self.height = least, height
        self.scale = (width - _LEFT - _RIGHT) / self.most
        self.upright = (height - _TOP - _BOTTOM) / (whole + 24 - least)

    def x(self, depth: float) -> float:
        return round(_LEFT + depth * self.scale, 1)

    def y(self, place: float) -> float:
        return round(_TOP + (max(place, self.least) - self.least) * self.upright, 1)


def draw(cell: BreakpointVariant, viewport: Viewport, width: int, height: int) -> ScrollTimeline:
    """The elevation of a header in one kind of windows, on a page."""
    canvas, settings = _Canvas(cell, viewport, width, height), cell.settings
    depths = sorted(
        {*range(0, canvas.most, 2), canvas.most, settings.threshold, settings.threshold + 1}
        & set(range(canvas.most + 1))
    )
    beyond = min(canvas.most + settings.hides_after + settings.returns_after + 2, round(canvas.end))
    trace = [*depths, beyond, *reversed(depths)]
    moments = simulate(settings, viewport, list(enumerate(trace)))
    down, up = moments[: len(depths)], moments[len(depths) + 1 :]
    begins = [
        (canvas.x(depth), canvas.y(max(settings.height + viewport.row - depth, 0)))
        for depth in (0, settings.height + viewport.row)
    ]
    changes = settings.shrinks or settings.hides
    limit = (viewport.reach or viewport.page) - settings.height
    step = next(step for step in (20, 50, 100, 200, 500, 1000, 2000, 5000) if canvas.most / step <= 9)
    lines = sorted({0, settings.height, *([settings.small_height] if settings.shrinks else [])})
    return ScrollTimeline(
        width,
        height,
        tuple(Tick(canvas.x(depth), str(depth)) for depth in range(0, canvas.most + 1, step)),
        tuple(Tick(canvas.y(place), str(place)) for place in lines),
        canvas.y(0),
        _contour(canvas, down),
        _contour(canvas, up),
        _path(begins),
        canvas.x(settings.threshold) if changes and settings.threshold <= canvas.most else None,
        canvas.x(settings.back) if changes and 0 <= settings.back <= canvas.most else None,
        canvas.x(limit) if settings.sticks and limit <= canvas.most else None,
        canvas.scale,
        _LEFT,
        canvas.most,
    )


def draw_trace(
    cell: BreakpointVariant, viewport: Viewport, width: int, height: int, moments: tuple[ScrollFrame, ...]
) -> tuple[str, tuple[Turn, ...]]:
    """The trace of a scroll on the elevation: the lower edge of the header on its way, and where it changes state."""
    canvas = _Canvas(cell, viewport, width, height)
    points = [(canvas.x(min(m.scrolled, canvas.most)), canvas.y(m.top + m.height)) for m in moments]
    turns = [
        Turn(*point, after.state)
        for (before, after), point in zip(pairwise(moments), points[1:], strict=True)
        if before.state != after.state
    ]
    return _path(points), tuple(turns)


class TimelineSegment(NamedTuple):
    """How long a trace is in one state: from where to where on the drawing, and how high. ``named`` tells that there is
    room for the state's name."""

    x: float
    width: float
    height: int
    state: str

    @property
    def named(self) -> bool:
        """Whether there is room for the name of the state."""
        return self.width > 30


def over_time(
    moments: tuple[ScrollFrame, ...], width: int, height: int
) -> tuple[str, tuple[TimelineSegment, ...], tuple[Tick, ...]]:
    """A trace along time: how deep the page is as a path, the stretches of each state, and the seconds."""
    if not moments:
        return "", (), ()
    whole = max(moments[-1].time - moments[0].time, 1)
    deepest = max(max(m.scrolled for m in moments), 1)
    scale = (width - _LEFT - _RIGHT) / whole

    def x(time: float) -> float:
        return round(_LEFT + (time - moments[0].time) * scale, 1)

    points = [(x(m.time), round(6 + m.scrolled / deepest * (height - 40), 1)) for m in moments]
    starts = [
        m for before, m in zip((None, *moments), moments, strict=False) if before is None or before.state != m.state
    ]
    ends = [x(m.time) for m in starts[1:]] + [x(moments[-1].time)]
    stretches = [
        TimelineSegment(x(m.time), round(max(end - x(m.time), 1), 1), height - 34, m.state)
        for m, end in zip(starts, ends, strict=True)
    ]
    every = next(step for step in (500, 1000, 2000, 5000, 10_000, 60_000, 600_000) if whole / step <= 10)
    seconds = [Tick(x(moments[0].time + ms), f"{ms / 1000:g}") for ms in range(0, int(whole) + 1, every)]
    return _path(points), tuple(stretches), tuple(seconds)


def _contour(canvas: _Canvas, moments: tuple[ScrollFrame, ...]) -> str:
    """The header's upper edge along the moments, and its lower edge back."""
    upper = _steps([(canvas.x(m.scrolled), canvas.y(m.top)) for m in moments])
    lower = _steps([(canvas.x(m.scrolled), canvas.y(m.top + m.height)) for m in moments])
    return _path([*upper, *reversed(lower)]) + "Z"


def _steps(points: list[tuple[float, float]]) -> list[tuple[float, float]]:
    """Points of a line without those that lie on the line between their neighbours."""
    kept = points[:1]
    for before, here, after in zip(points, points[1:], points[2:], strict=False):
        if abs((here[1] - before[1]) * (after[0] - here[0]) - (after[1] - here[1]) * (here[0] - before[0])) > 0.01:
            kept.append(here)
    return kept + points[-1:]


def _path(points: list[tuple[float, float]]) -> str:
    return "M" + "L".join(f"{x:g} {y:g}" for x, y in points) if points else ""
