"""Tags that do not belong together: elements that are not closed, and closing tags of none."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterable, Iterator
from typing import NamedTuple

from basilica.core.shared.html_scanner import Piece

_VOID = frozenset(
    b"area base basefont bgsound br col embed frame hr img input keygen link meta param source track wbr".split()
)
_OPTIONAL = frozenset(
    b"html head body p li dt dd rt rp option optgroup colgroup caption thead tbody tfoot tr td th".split()
)
"""Elements whose closing tag may be left out (HTML, 13.1.2.4)."""
_FOREIGN = (b"svg", b"math")


class Unbalanced(NamedTuple):
    """A tag that has no other: its piece of the markup, and what is said of it behind “has”."""

    tag: Piece
    words: str


def unbalanced(data: bytes, pieces: Iterable[Piece]) -> Iterator[Unbalanced]:
    """Every such tag of some markup, given with its pieces (HTML, 13.1.2)."""
    opened: list[Piece] = []
    counts: Counter[bytes] = Counter()
    closed_early: Counter[bytes] = Counter()
    foreign = 0
    for tag in pieces:
        if tag.kind not in ("open", "close") or tag.name in _VOID:
            continue
        name = tag.name
        if tag.kind == "open":
            if foreign and data[tag.end - 2 : tag.end] == b"/>":
                continue
            foreign += name in _FOREIGN
            opened.append(tag)
            counts[name] += 1
        elif counts[name]:
            while (last := opened.pop()).name != name:
                counts[last.name] -= 1
                closed_early[last.name] += 1
                foreign -= last.name in _FOREIGN
                if last.name not in _OPTIONAL:
                    yield Unbalanced(last, f"`<{_said(last)}>`, still open at `</{_said(tag)}>`")
            counts[name] -= 1
            foreign -= name in _FOREIGN
        elif closed_early[name]:
            closed_early[name] -= 1  # what closed it early is the fault
        elif name not in _OPTIONAL or name == b"p":
            yield Unbalanced(tag, f"`</{_said(tag)}>`, and no `<{_said(tag)}>` is open there")
    for left in opened:
        if left.name not in _OPTIONAL:
            yield Unbalanced(left, f"`<{_said(left)}>`, which is never closed")


def line_of_tag(source: str, tag: Piece) -> int:
    """The first line of a template, from 1, in which such a tag is written; 0 where none is."""
    written = re.compile(f"<{'/' if tag.kind == 'close' else ''}{re.escape(_said(tag))}\\b", re.IGNORECASE)
    found = written.search(source)
    return source.count("\n", 0, found.start()) + 1 if found else 0


def _said(tag: Piece) -> str:
    return tag.name.decode("latin-1")
