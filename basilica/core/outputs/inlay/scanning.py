"""The tags and comments of a page, by their places in its bytes.

Only what is needed to tell a mark from a text that looks like one: comments, tags with their attributes, and elements
whose text is no markup (HTML, 13.2.5). Every charset that a page may have is ASCII in these places, but UTF-16.
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from typing import NamedTuple

_NEXT = re.compile(rb"<(?:!--|[!?/]?[A-Za-z]|[!?/])")
_NAME = re.compile(rb"</?([A-Za-z][^\s/>]*)")
_SPACE = re.compile(rb"[\s/]*")
_ATTRIBUTE = re.compile(rb"=?[^\s/>=]*\s*")
_VALUE = re.compile(rb"=\s*")
_UNQUOTED = re.compile(rb"[^\s>]*")
_COMMENT_END = re.compile(rb"--!?>")
_RAW = frozenset([b"script", b"style", b"textarea", b"title", b"xmp", b"iframe", b"noembed", b"noframes"])


class Piece(NamedTuple):
    """A tag or a comment: its ``kind`` (``comment``, ``open``, ``close``), its name in lower case or a comment's text,
    and where it begins and ends."""

    kind: str
    name: bytes
    start: int
    end: int


def scan(data: bytes) -> Iterator[Piece]:
    """The tags and comments of a page, in their order."""
    at = 0
    while found := _NEXT.search(data, at):
        start = found.start()
        if found[0] == b"<!--":
            if data[start + 4 : start + 5] == b">" or data[start + 4 : start + 6] == b"->":
                at = data.index(b">", start) + 1  # an empty comment, cut short
                continue
            ends = _COMMENT_END.search(data, start + 4)
            at = ends.end() if ends else len(data)
            yield Piece("comment", data[start + 4 : ends.start() if ends else len(data)].strip(), start, at)
            continue
        named = _NAME.match(data, start)
        if not named:
            closes = data.find(b">", start)
            at = closes + 1 if closes >= 0 else len(data)
            continue
        at = _tag_end(data, named.end())
        name, kind = named[1].lower(), "close" if data[start + 1 : start + 2] == b"/" else "open"
        yield Piece(kind, name, start, at)
        if kind == "open" and name in _RAW:
            closes_raw = re.compile(rb"</" + re.escape(name) + rb"[\s/>]", re.IGNORECASE).search(data, at)
            at = closes_raw.start() if closes_raw else len(data)


def _tag_end(data: bytes, at: int) -> int:
    """Where a tag ends whose attributes begin at a place; a ``>`` inside quotes does not end it."""
    while True:
        at = _SPACE.match(data, at).end()  # type: ignore[union-attr]
        if data[at : at + 1] in (b">", b""):
            return min(at + 1, len(data))
        at = _ATTRIBUTE.match(data, at).end()  # type: ignore[union-attr]
        value = _VALUE.match(data, at)
        if not value:
            continue
        at = value.end()
        quote = data[at : at + 1]
        if quote in (b'"', b"'"):
            closes = data.find(quote, at + 1)
            at = closes + 1 if closes >= 0 else len(data)
        else:
            at = _UNQUOTED.match(data, at).end()  # type: ignore[union-attr]
