"""What the header does, as one table.

**Theory.** A header is in one of four states, and at rest when a page opens:

- ``rest``: at the top of the page, at its full height.
- ``over``: at its full height over content. Only where it then looks different, as with a shadow.
- ``small``: at its small height.
- ``hidden``: moved up by its own height.

Two names stand for the state that a header's settings make of it: ``full`` is ``over`` where the header has that
state, and else ``rest``; ``shown`` is ``small`` where it has that one, and else ``full``.

The only thing that happens to a header is that the page is scrolled: ``down``, ``up``, or in either way (``any``). A
line of the table is read so: *in this state, when the page is scrolled in this way and every guard holds, go to that
state*. A guard compares a measure with 0 or with a length of the settings, both in CSS px. There are three measures:

- ``depth``: how far the page is scrolled, never below 0 nor past its end, however far a rubber band pulls it;
- ``fall``: how far it was scrolled down since it last turned; 0 while it goes up;
- ``rise``: how far it was scrolled up since it last turned; 0 while it goes down.

The last column says which headers have the line. After each scroll lines are followed until none fits, in each state
the first that does. Two lines never chase each other: `back` is at most `threshold`, so no depth is past both.

The simulation, the script that runs in the browser, the drawing and the documentation all come from this table.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import NamedTuple

from basilica.core.header.header_settings import Settings

REST, OVER, SMALL, HIDDEN = STATES = ("rest", "over", "small", "hidden")
ANY, DOWN, UP = "any", "down", "up"
MEASURES = ("depth", "fall", "rise")

FULL, SHOWN = "full", "shown"

TRANSITIONS = (
    # in     when  and                                                           to       headers that
    (REST,   ANY,  (("depth", ">", "0"),),                                       OVER,    "over"),
    (OVER,   ANY,  (("depth", "≤", "0"),),                                       REST,    "over"),
    (FULL,   ANY,  (("depth", ">", "threshold"),),                               SMALL,   "shrink"),
    (SMALL,  ANY,  (("depth", "≤", "back"),),                                    FULL,    "shrink"),
    (SHOWN,  DOWN, (("depth", ">", "threshold"), ("fall", ">", "hides-after")),  HIDDEN,  "hide"),
    (HIDDEN, ANY,  (("depth", "≤", "back"),),                                    FULL,    "hide"),
    (HIDDEN, UP,   (("rise", ">", "returns-after"),),                            SHOWN,   "hide"),
)  # fmt: skip
"""Every line that a header can have: those of headers that are different over content, that shrink, and that hide."""


class Guard(NamedTuple):
    """Holds where a measure is more than ``px``, or (not ``over``) at most that."""

    measure: str
    over: bool
    px: int

    def __str__(self) -> str:
        return f"{self.measure} {'>' if self.over else '≤'} {self.px} px"


class Transition(NamedTuple):
    """One line of the table of one header, with its own states and lengths put in."""

    state: str
    event: str
    guards: tuple[Guard, ...]
    next: str


Table = tuple[Transition, ...]


def table_of(settings: Settings) -> Table:
    """The table of a header; empty where style alone does what is wanted."""
    over = settings.over
    has = {"over": over, "shrink": settings.shrinks, "hide": settings.hides}
    full = OVER if over else REST
    states = {FULL: full, SHOWN: SMALL if has["shrink"] else full}
    lengths = {
        "0": 0,
        "threshold": settings.threshold,
        "back": settings.back,
        "hides-after": settings.hides_after,
        "returns-after": settings.returns_after,
    }
    return tuple(
        Transition(
            states.get(state, state),
            event,
            tuple(Guard(measure, sign == ">", lengths[length]) for measure, sign, length in guards),
            states.get(following, following),
        )
        for state, event, guards, following, needed in TRANSITIONS
        if has[needed]
    )


@dataclass(slots=True)
class Machine:
    """A header on its way through its table. It begins at rest, wherever the page stands."""

    table: Table
    state: str = REST
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
        wrong_way = UP if self.down else DOWN
        for row in self.table:
            fits = row.state == self.state and row.event != wrong_way
            if fits and all((measures[m] > px) == over for m, over, px in row.guards):
                return row
        return None
