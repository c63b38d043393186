"""Two texts line by line: what stayed, what went, what came."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from difflib import SequenceMatcher

from basilica.core.diff.merge import LARGE

AROUND = 3
"""Lines that stayed, shown around those that did not."""


@dataclass(frozen=True, slots=True)
class DiffLine:
    """A line: ``kind`` is ``same``, ``gone``, ``come`` or ``skipped`` (for lines left out); numbers count from 1."""

    kind: str
    old: int | None
    new: int | None
    text: str


def differences(old: str, new: str) -> tuple[DiffLine, ...]:
    """The rows of a comparison; none for equal texts."""
    before, after = old.splitlines(), new.splitlines()
    matcher = SequenceMatcher(None, before, after, autojunk=max(len(before), len(after)) > LARGE)
    groups = list(matcher.get_grouped_opcodes(AROUND))
    rows: list[DiffLine] = []
    at = 0
    for group in groups:
        if group[0][1] > at:
            rows.append(_skipped(group[0][1] - at))
        for tag, a, b, c, d in group:
            rows.extend(_rows(tag == "equal", before[a:b], after[c:d], a, c))
        at = group[-1][2]
    if groups and at < len(before):
        rows.append(_skipped(len(before) - at))
    return tuple(rows)


def _skipped(count: int) -> DiffLine:
    return DiffLine("skipped", None, None, f"{count} unchanged line{'' if count == 1 else 's'}")


def _rows(equal: bool, before: list[str], after: list[str], a: int, c: int) -> Iterator[DiffLine]:
    if equal:
        for offset, line in enumerate(before):
            yield DiffLine("same", a + offset + 1, c + offset + 1, line)
        return
    for offset, line in enumerate(before):
        yield DiffLine("gone", a + offset + 1, None, line)
    for offset, line in enumerate(after):
        yield DiffLine("come", None, c + offset + 1, line)
