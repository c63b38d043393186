"""What pages share, met again: the same HTML but for the marks in menus, so that it is read once for all of them.

In menus that all pages have, each page marks its own entry. Without these marks the HTML is the same; where it stands
in the bytes of a page it is cut out before the page is read, and the marks are read from the bytes.
"""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Iterator, Mapping
from typing import NamedTuple

from basilica.core.site_reader.built_page import Marks, Region

_CURRENT, _PATH = b' aria-current="', b" data-path"
_LEAST = 1_000
"""Bytes of the HTML for which it is worth while."""
_MOST = 32
"""Regions that are looked for in each page."""
PLACE = "data-shared-region"
"""Marks the place in which a region stood that was cut out."""


class RemovedMark(NamedTuple):
    """A mark in some HTML without its marks: where it stood, its length there, and its ``aria-current`` (None: the mark
    of the path)."""

    at: int
    length: int
    current: str | None


class Cut(NamedTuple):
    """A page's bytes without what it shares, and that: the regions by the number of their place, with the marks."""

    data: bytes
    regions: tuple[tuple[Region, Mapping[int, Marks], int], ...] = ()


class _Known(NamedTuple):
    html: bytes
    region: Region
    items: list[int]
    """Where each `li` begins."""
    owners: list[tuple[int, int] | None]
    """For each `li`, the number of the menu and of the entry that it is; None for one that is none."""


class SharedRegions:
    """The regions that were met so far."""

    def __init__(self) -> None:
        self._known: dict[bytes, _Known] = {}

    def add(self, html: bytes, region: Region, owners: list[tuple[int, int] | None]) -> None:
        """Take in a region that was read from HTML without marks; ``owners`` are those of its `li`, as one reads."""
        items = list(_items_in(html))
        if len(html) >= _LEAST and len(items) == len(owners) and len(self._known) < _MOST:
            self._known[html] = _Known(html, region, items, owners)

    def cut(self, data: bytes) -> Cut:
        """The bytes of a page without the regions that are known."""
        if not self._known or PLACE.encode() in data:
            return Cut(data)
        plain, marks = without_marks(data)
        found: list[tuple[int, int, _Known, dict[int, Marks], int]] = []
        for known in self._known.values():
            start = plain.find(known.html)
            if start < 0 or any(start < end and start + len(known.html) > begin for begin, end, *_ in found):
                continue
            inside = [mark for mark in marks if start < mark.at < start + len(known.html)]
            said = _said(known, [mark._replace(at=mark.at - start) for mark in inside])
            if said is not None:
                found.append((start, start + len(known.html), known, said, sum(mark.length for mark in inside)))
        pieces: list[bytes] = []
        regions: list[tuple[Region, Mapping[int, Marks], int]] = []
        done = 0
        for start, end, known, said, length in sorted(found, key=lambda one: one[0]):
            pieces.append(data[done : _before(start, marks)])
            tag = known.region.tag
            pieces.append(f'<{tag} {PLACE}="{len(regions)}"></{tag}>'.encode())
            regions.append((known.region, said, length))
            done = _before(end, marks)
        return Cut(b"".join([*pieces, data[done:]]), tuple(regions)) if regions else Cut(data)


def without_marks(data: bytes) -> tuple[bytes, list[RemovedMark]]:
    """HTML without the marks of menus, and these in the order in which they stood."""
    spans = sorted([*_spans(data, _CURRENT), *_spans(data, _PATH)])
    pieces, marks, done, at = [], [], 0, 0
    for start, end, current in spans:
        pieces.append(data[done:start])
        at += start - done
        marks.append(RemovedMark(at, end - start, current))
        done = end
    return (b"".join([*pieces, data[done:]]), marks) if marks else (data, [])


def _spans(data: bytes, begins: bytes) -> Iterator[tuple[int, int, str | None]]:
    at = data.find(begins)
    while at >= 0:
        end = at + len(begins)
        if begins is _CURRENT:
            close = data.find(b'"', end, end + 20)
            if close >= 0:
                yield at, close + 1, data[end:close].decode("ascii", "replace")
                end = close + 1
        elif data[end : end + 1] in (b" ", b">"):
            yield at, end, None
        at = data.find(begins, end)


def _before(at: int, marks: list[RemovedMark]) -> int:
    """Where a place in HTML without marks stands in the same with them."""
    return at + sum(mark.length for mark in marks if mark.at < at)


def _items_in(html: bytes) -> Iterator[int]:
    at = html.find(b"<li")
    while at >= 0:
        if html[at + 3 : at + 4] in (b" ", b">"):
            yield at
        at = html.find(b"<li", at + 3)


def _said(known: _Known, marks: list[RemovedMark]) -> dict[int, Marks] | None:
    """What the marks in a known region say, by menu; None where one of them stands outside the entries of menus."""
    said: dict[int, tuple[dict[int, str], list[int]]] = {index: ({}, []) for index in range(len(known.region.navs))}
    for mark in marks:
        item = bisect_right(known.items, mark.at) - 1
        owner = known.owners[item] if item >= 0 else None
        if owner is None:
            return None
        current, path = said[owner[0]]
        if mark.current is None:
            path.append(owner[1])
        else:
            current.setdefault(owner[1], mark.current)
    return {index: Marks(tuple(current.items()), tuple(path)) for index, (current, path) in said.items()}
