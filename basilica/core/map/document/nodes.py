"""The nodes of a read map. Every node holds the offset, in characters, at which it starts."""

from __future__ import annotations

import re
from bisect import bisect_right
from dataclasses import dataclass, field
from itertools import accumulate
from typing import NamedTuple

from basilica.core.rules.place import Place


class Scalar(NamedTuple):
    """A text. ``quoted`` tells ``""`` (an empty text) from nothing at all; ``end`` is the offset behind it."""

    value: str
    start: int
    quoted: bool = False
    end: int = -1

    @property
    def is_nothing(self) -> bool:
        """Whether the place after the colon or dash was left empty."""
        return not self.value and not self.quoted


class Sequence(NamedTuple):
    """A list of nodes. ``end`` is the offset behind its bracket; -1 for a list without brackets."""

    items: tuple[Node, ...]
    start: int
    end: int = -1


class Mapping(NamedTuple):
    """Keys with their values, in the order of the text; no key stands twice. ``end`` as for lists."""

    pairs: tuple[tuple[Scalar, Node], ...]
    start: int
    end: int = -1


Node = Scalar | Sequence | Mapping

_LINE_END = re.compile(r"\r\n|\n|\r")


@dataclass(frozen=True, slots=True)
class Lines:
    """Where the lines of a text begin, as editors count them: after ``\\n``, ``\\r\\n`` or ``\\r``."""

    starts: tuple[int, ...]
    others: tuple[tuple[int, str, Lines], ...] = ()
    """Other files of the same map: the offset at which each begins, its name, and its lines."""

    @classmethod
    def of(cls, text: str) -> Lines:
        """The lines of ``text``."""
        if "\r" not in text:
            return cls((0, *accumulate(len(line) + 1 for line in text.split("\n")[:-1])))
        return cls((0, *(match.end() for match in _LINE_END.finditer(text))))

    def elsewhere(self, offset: int) -> bool:
        """Whether an offset lies in another file than the map's first one."""
        return bool(self.others) and offset >= self.others[0][0]

    def place(self, offset: int) -> Place:
        """The place of a character offset."""
        for begins, file, lines in reversed(self.others):
            if offset >= begins:
                return lines.place(offset - begins)._replace(file=file)
        line = bisect_right(self.starts, offset)
        return Place(line, offset - self.starts[line - 1] + 1)


@dataclass(frozen=True, slots=True)
class Document:
    """A read text. ``complete`` is False where reading stopped before the end; ``root`` is None when nothing
    could be made of it."""

    root: Node | None
    lines: Lines = field(compare=False, repr=False)
    complete: bool = True
