"""What the header does, as one table: in a state, when scrolling makes every guard true, it goes to the next state.

The simulation, the script that runs in the browser and the picture in the documentation all come from it. The states:

- ``rest``: at the top of the page, at its full height.
- ``over``: at its full height over content. Only where it then looks different, as with a shadow.
- ``small``: at its small height.
- ``hidden``: moved up by its own height.

A guard measures one of three things, in CSS px: ``depth``, how far the page is scrolled, never below 0 nor past its
end, however far a rubber band pulls it; ``fall`` and ``rise``, how far it was scrolled down or up since it last turned.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import NamedTuple

from basilica.core.header.header_settings import Settings

STATES = ("rest", "over", "small", "hidden")
MEASURES = ("depth", "fall", "rise")


class Guard(NamedTuple):
    """Holds where a measure is more than ``px``, or (not ``over``) at most that."""

    measure: str
    over: bool
    px: int

    def __str__(self) -> str:
        return f"{self.measure} {'>' if self.over else '≤'} {self.px} px"


class Transition(NamedTuple):
    """One line of the table."""

    state: str
    guards: tuple[Guard, ...]
    next: str


Table = tuple[Transition, ...]


def table_of(settings: Settings) -> Table:
    """The table of a header; empty where style alone does what is wanted."""
    over = settings.shadow == "scrolled" and settings.sticks
    full = "over" if over else "rest"
    """The state in which it stands at its full height once the page is scrolled."""
    away = Guard("depth", True, settings.depth)
    at_rest = Guard("depth", False, settings.back)
    rows: list[Transition] = []
    if over:
        rows += [
            Transition("rest", (Guard("depth", True, 0),), "over"),
            Transition("over", (Guard("depth", False, 0),), "rest"),
        ]
    if settings.shrinks:
        rows += [Transition(full, (away,), "small"), Transition("small", (at_rest,), full)]
    if settings.retreats:
        shown = "small" if settings.shrinks else full
        falls = Guard("fall", True, settings.hides_after)
        rows += [
            Transition(shown, (away, falls), "hidden"),
            Transition("hidden", (at_rest,), full),
            Transition("hidden", (Guard("rise", True, settings.returns_after),), shown),
        ]
    return tuple(rows)


@dataclass(slots=True)
class Machine:
    """A header on its way through its table. It begins at rest, wherever the page stands."""

    table: Table
    state: str = "rest"
    last: float = 0
    turn: float = 0
    down: bool = True

    def start(self, scrolled: float, end: float) -> str:
        """The first look, at a page that is scrolled already; gives the state."""
        self.last = self.turn = min(max(scrolled, 0), max(end, 0))
        return self.look(scrolled, end)

    def look(self, scrolled: float, end: float) -> str:
        """One look at a page that is scrolled so far, of at most ``end``; gives the state."""
        depth = min(max(scrolled, 0), max(end, 0))
        if depth != self.last and (depth > self.last) != self.down:
            self.down, self.turn = not self.down, self.last
        self.last = depth
        way = abs(depth - self.turn)
        measures = {"depth": depth, "fall": way if self.down else 0, "rise": 0 if self.down else way}
        row: Transition | None
        while row := self._row(measures):
            self.state = row.next
        return self.state

    def _row(self, measures: dict[str, float]) -> Transition | None:
        for row in self.table:
            if row.state == self.state and all((measures[m] > px) == over for m, over, px in row.guards):
                return row
        return None
