"""Two texts that came from one: what each changed is put together where the changes do not meet."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from difflib import SequenceMatcher

from basilica.core.shared.conservation import account

LARGE = 2_000
"""Lines from which on the most common ones are not looked for by themselves, which would take time squared."""


@dataclass(frozen=True, slots=True)
class MergeConflict:
    """A place that both changed, each in another way: its line in the merged text, and what each has there."""

    line: int
    mine: tuple[str, ...]
    theirs: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Merged:
    """The texts put together. Where both changed the same lines, ``mine`` stands in ``text``."""

    text: str
    collisions: tuple[MergeConflict, ...]
    taken: int
    """How many of their changes are in ``text``."""

    @property
    def theirs_lost(self) -> tuple[str, ...]:
        """The lines of theirs that are not in ``text``, as ``mine`` has others in their place."""
        theirs = (line for each in self.collisions for line in each.theirs)
        mine = (line for each in self.collisions for line in each.mine)
        return tuple(line.strip() for line in account(theirs, mine).lost if line.strip())


def merge(base: str, mine: str, theirs: str) -> Merged:
    """Put together what ``mine`` and ``theirs`` each changed in ``base``, line by line. Whether the last line ends
    with a line break is merged by itself: a line behind a last one without a break does not change that one."""
    line_break = "\r\n" if "\r\n" in base else "\n"
    was, one, other = (_is_ended(text) for text in (base, mine, theirs))
    ended = other if one == was else one if other == was else True in (one, other)
    merged = _merge_lines(*(text + line_break if _is_ended(text) is False else text for text in (base, mine, theirs)))
    return merged if ended is not False else replace(merged, text=merged.text.removesuffix(line_break))


def merges_by_itself(merged: Merged, mine: str, theirs: str, stops: Callable[[str], bool]) -> bool:
    """Whether nobody need be asked: the changes do not meet, and together they do not stop a build that each alone did
    not stop. ``stops`` says whether a text does."""
    return not merged.collisions and (stops(mine) or stops(theirs) or not stops(merged.text))


def _is_ended(text: str) -> bool | None:
    """Whether the last line of a text ends with a line break; None for a text without lines."""
    last = text.splitlines(keepends=True)[-1:]
    return last != text.splitlines()[-1:] if last else None


def _merge_lines(base: str, mine: str, theirs: str) -> Merged:
    old, one, other = (text.splitlines(keepends=True) for text in (base, mine, theirs))
    ours, yours = _changes(old, one), _changes(old, other)
    out: list[str] = []
    collisions: list[MergeConflict] = []
    at = taken = 0
    while ours or yours:
        begin = min(changes[0][0] for changes in (ours, yours) if changes)
        # All changes that meet, directly or through one another, are one place.
        end = begin
        here: list[Change] = []
        there: list[Change] = []
        while True:
            for changes, met in ((ours, here), (yours, there)):
                while changes and (changes[0][0] < end or changes[0][0] == begin or changes[0][0] == end == begin):
                    met.append(changes.pop(0))
                    end = max(end, met[-1][1])
            if not any(changes and changes[0][0] < end for changes in (ours, yours)):
                break
        out += old[at:begin]
        at = end
        mine_now, theirs_now = _applied(old, begin, end, here), _applied(old, begin, end, there)
        if here and there and mine_now != theirs_now:
            collisions.append(MergeConflict(len(out) + 1, tuple(mine_now), tuple(theirs_now)))
            out += mine_now
        elif here:
            out += mine_now
        else:
            out += theirs_now
            taken += 1
    out += old[at:]
    return Merged("".join(out), tuple(collisions), taken)


Change = tuple[int, int, list[str]]
"""Lines of the older text, from and to, and what stands in their place."""


def _changes(old: list[str], new: list[str]) -> list[Change]:
    matcher = SequenceMatcher(None, old, new, autojunk=max(len(old), len(new)) > LARGE)
    return [(a, b, new[c:d]) for tag, a, b, c, d in matcher.get_opcodes() if tag != "equal"]


def _applied(old: list[str], begin: int, end: int, changes: list[Change]) -> list[str]:
    out: list[str] = []
    at = begin
    for start, stop, lines in changes:
        out += old[at:start] + lines
        at = stop
    return out + old[at:end]
