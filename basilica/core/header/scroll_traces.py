"""Ready-made traces: how people scroll, as times (ms) and depths (CSS px)."""

from __future__ import annotations

from collections.abc import Callable

from basilica.core.header.header_settings import Settings

Trace = tuple[tuple[float, float], ...]
_FRAME = 50


def _along(*legs: tuple[float, float, float]) -> Trace:
    """Points of legs, each a time (ms) and the depth from which and to which it goes, slow at both ends."""
    points: list[tuple[float, float]] = []
    start = 0.0
    for time, here, there in legs:
        steps = max(round(time / _FRAME), 1)
        for step in range(steps + 1):
            part = step / steps
            eased = part * part * (3 - 2 * part)
            points.append((start + time * part, round(here + (there - here) * eased, 1)))
        start += time + _FRAME
    return tuple(points)


def _slow(settings: Settings, end: float) -> Trace:
    far = min(end, settings.threshold * 4 + 400)
    return _along((3000, 0, far), (3000, far, 0))


def _flick(settings: Settings, end: float) -> Trace:
    far = min(end, 2400)
    return _along((500, 0, far), (400, far, far), (300, far, max(far - 700, 0)))


def _threshold(settings: Settings, end: float) -> Trace:
    depth, near = min(settings.threshold, end), 12
    legs = [(600.0, 0.0, float(depth))]
    for _ in range(4):
        legs += [
            (200, depth, depth + near),
            (200, depth + near, max(depth - near, 0)),
            (100, max(depth - near, 0), depth),
        ]
    return _along(*legs)


def _jump(settings: Settings, end: float) -> Trace:
    far = min(end, 1800)
    return ((0, 0), (400, 0), (450, far), (1200, far), (1250, far / 3), (1900, far / 3), (1950, 0), (2400, 0))


def _band(settings: Settings, end: float) -> Trace:
    return _along((300, 0, 0), (200, 0, -90), (300, -90, 0), (600, 0, end), (200, end, end + 90), (300, end + 90, end))


TRACES: dict[str, tuple[str, Callable[[Settings, float], Trace]]] = {
    "slow": ("Slowly down and up", _slow),
    "flick": ("A flick, and a little back", _flick),
    "threshold": ("Back and forth at the depth", _threshold),
    "jump": ("Jumps to anchors", _jump),
    "rubber-band": ("Pulled past both ends", _band),
}
"""By name: what it is called, and the trace for a header on a page that can be scrolled so far."""
