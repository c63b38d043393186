"""What the header does, as one table: state, event, guard, next state.

The simulation below, the script that runs in the browser and the picture in the documentation come from it. The
header stands in a room whose height is the height at rest and never changes; only what is drawn in it does, so a
change of state cannot move the page.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

REST = 100
"""Height at rest, CSS px. Common practice, no source."""
SMALL = 40
"""Height when small, CSS px. Common practice, no source."""
DEPTH = 100
"""Scroll depth past which the header is small, CSS px. Common practice, no source."""
DURATION = 300
"""Time a change takes, ms, ease-in-out. Common practice, no source."""


@dataclass(frozen=True, slots=True)
class Transition:
    """In ``state``, when scrolling leaves the page at a depth that ``guard`` (``>`` or ``<=``) holds against
    ``depth`` (CSS px), the header goes to ``next``."""

    state: str
    event: str
    guard: str
    depth: int
    next: str

    def fires(self, state: str, depth: float) -> bool:
        """Whether it leads on from ``state`` at a scroll depth."""
        return state == self.state and (depth > self.depth if self.guard == ">" else depth <= self.depth)


SHRINK = (
    Transition("rest", "scroll", ">", DEPTH, "small"),
    Transition("small", "scroll", "<=", DEPTH, "rest"),
)


@dataclass(frozen=True, slots=True)
class HeaderPlan:
    """The header of a site. ``table`` is empty where CSS alone does what is wanted."""

    behaviour: str
    table: tuple[Transition, ...]
    rest: int = REST
    small: int = SMALL
    duration: int = DURATION

    @property
    def sticks(self) -> bool:
        """Whether the header stays at the top of the window."""
        return self.behaviour != "static"

    def run(self, depths: Iterable[float]) -> tuple[str, ...]:
        """The state after each scroll depth of a trace, beginning at rest."""
        state, states = "rest", []
        for depth in depths:
            state = next((t.next for t in self.table if t.fires(state, depth)), state)
            states.append(state)
        return tuple(states)


def plan_header(behaviour: str) -> HeaderPlan:
    """The header for a behaviour: ``static``, ``stick`` or ``shrink``."""
    return HeaderPlan(behaviour, SHRINK if behaviour == "shrink" else ())
