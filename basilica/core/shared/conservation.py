"""Conservation: whatever goes into an act comes out kept, changed as asked, or dropped by name and agreed to.

Edits, imports, inlays, publishes and merges call ``account``: what was there, what is there now, and what the person
agreed to drop. Whatever the account does not cover is lost, and an act that loses something is refused.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Hashable, Iterable
from dataclasses import dataclass
from typing import Generic, TypeVar

Thing = TypeVar("Thing", bound=Hashable)


@dataclass(frozen=True, slots=True)
class Account(Generic[Thing]):
    """What an act did with the things that went into it; each is counted as often as it was there."""

    remaining: Counter[Thing]
    dropped: Counter[Thing]
    """Gone, and agreed to."""
    lost: Counter[Thing]
    """Gone, and agreed to by nobody."""

    def __add__(self, other: Account[Thing]) -> Account[Thing]:
        """The account of what both are about."""
        return Account(self.remaining + other.remaining, self.dropped + other.dropped, self.lost + other.lost)

    @property
    def holds(self) -> bool:
        """Whether nothing is lost."""
        return not self.lost

    def losses(self, most: int = 5) -> list[Thing]:
        """The things that are lost, each once, in the order in which they went in; ``most`` at a time."""
        return list(self.lost)[:most]


def nothing(_: object) -> bool:
    """The agreement of an act that may drop nothing."""
    return False


def account(
    before: Iterable[Thing], after: Iterable[Thing], agreed: Callable[[Thing], bool] = nothing
) -> Account[Thing]:
    """The account of an act: the things ``before`` it, those ``after`` it, and which of them it was ``agreed`` to drop.
    New things are not listed."""
    there, now = Counter(before), Counter(after)
    gone = there - now
    lost = Counter({thing: count for thing, count in gone.items() if not agreed(thing)})
    return Account(there - gone, gone - lost, lost)
