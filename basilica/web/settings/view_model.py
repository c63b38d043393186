"""What follows from settings: how well colours can be told apart."""

from __future__ import annotations

from typing import NamedTuple

from basilica.core.plan import Plan
from basilica.core.shared.theme import ENOUGH, OWN_PAIRS, PAIRS, contrast


class ContrastRow(NamedTuple):
    """Two colours of the theme that lie upon each other, and how well they can be told apart (WCAG 2.2, 1.4.3)."""

    what: str
    ground: str
    colours: tuple[str, str]
    ratio: float

    @property
    def is_enough(self) -> bool:
        """Whether text in these can be read."""
        return self.ratio >= ENOUGH


def contrasts(plan: Plan) -> list[ContrastRow]:
    """Every pair of colours in which text stands."""
    colours = plan.site.theme.all_colours()
    return [
        ContrastRow(one, other, (colours[one], colours[other]), contrast(colours[one], colours[other]))
        for one, other in (*PAIRS, *(pair for pair in OWN_PAIRS if pair[1] in colours))
    ]
