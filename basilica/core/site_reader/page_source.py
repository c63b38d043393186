"""A page as it is written: its tags with their attributes, and the place of each, in line and column."""

from __future__ import annotations

import bisect
import html
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from functools import cached_property

from basilica.core.shared.html_scanner import RAW_TEXT, Piece, attributes, scan
from basilica.core.shared.output_file import File
from basilica.core.shared.page_encoding import ascii_like, encoding_of


@dataclass(frozen=True, slots=True)
class Tag:
    """An opening or a closing tag: its name in lower case, its attributes (none for a closing one), and where it begins
    and ends in the bytes of the page."""

    name: str
    opens: bool
    attributes: Mapping[str, str]
    start: int
    end: int


class PageSource:
    """A page from the bytes of its file."""

    def __init__(self, file: File) -> None:
        self.file = file.path
        self.data, self.encoding, self.charset = ascii_like(file.data)
        self.says_charset = encoding_of(file.data)[1]

    @cached_property
    def pieces(self) -> list[Piece]:
        """Its tags, comments and declarations."""
        return list(scan(self.data))

    @cached_property
    def tags(self) -> list[Tag]:
        """Its tags, as one reads."""
        return [
            Tag(
                piece.name.decode("latin-1"),
                piece.kind == "open",
                self._attributes(piece) if piece.kind == "open" else {},
                piece.start,
                piece.end,
            )
            for piece in self.pieces
            if piece.kind in ("open", "close")
        ]

    def _attributes(self, piece: Piece) -> dict[str, str]:
        found: dict[str, str] = {}
        for one in attributes(self.data, piece):
            found.setdefault(one.name.decode("latin-1"), html.unescape(self.text(one.value_start, one.value_end)))
        return found

    def text(self, start: int, end: int) -> str:
        """What stands between two places, letter for letter."""
        return self.data[start:end].decode(self.encoding, "replace")

    def words(self, start: int, end: int) -> str:
        """What is read between two places, with single spaces."""
        return " ".join(html.unescape(self.text(*span)) for span in self.texts(start, end))

    def texts(self, start: int = 0, end: int | None = None) -> Iterator[tuple[int, int]]:
        """Where text stands that is read: between tags, and not in a script, a style or a comment."""
        end = len(self.data) if end is None else end
        first = bisect.bisect_left(self.pieces, start, key=lambda piece: piece.start)
        at, skips = start, False
        for piece in self.pieces[first:]:
            if piece.start >= end:
                break
            if piece.start > at and not skips and self.data[at : piece.start].strip():
                yield at, piece.start
            skips = piece.kind == "open" and piece.name in _UNREAD
            at = piece.end
        if at < end and not skips and self.data[at:end].strip():
            yield at, end

    @cached_property
    def _lines(self) -> list[int]:
        found = [0]
        at = self.data.find(b"\n")
        while at >= 0:
            found.append(at + 1)
            at = self.data.find(b"\n", at + 1)
        return found

    def place(self, at: int) -> tuple[int, int]:
        """The line and the column of an offset, both from 1, the column in characters."""
        line = bisect.bisect_right(self._lines, at)
        return line, len(self.text(self._lines[line - 1], at)) + 1


_UNREAD = RAW_TEXT - {b"title", b"textarea"}
