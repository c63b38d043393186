"""The tags, attributes and comments of a page, by their places in its bytes.

Only what is needed to tell markup from text that looks like it: comments, tags with their attributes, and elements
whose text is no markup (HTML, 13.2.5). Every charset that a page may have is ASCII in these places, but UTF-16.
"""

from __future__ import annotations

import re
from collections.abc import Collection, Iterable, Iterator
from functools import lru_cache
from typing import NamedTuple

_NEXT = re.compile(rb"<(?:!--|[!?/]?[A-Za-z]|[!?/])")
_NAME = re.compile(rb"</?([A-Za-z][^\s/>]*)")
_PLAIN_TAG = re.compile(
    rb"<(/?)([A-Za-z][A-Za-z0-9]*)"
    rb"(?:\s+[A-Za-z_:][A-Za-z0-9_:.-]*(?:=(?:\"[^\"]*\"|'[^']*'|[A-Za-z0-9_./:#?&;%+~,()-]*[A-Za-z0-9_.:#?&;%+~,()-]))?)*\s*/?>"
)
"""Nearly all tags: what they say ends where this does, by the same rules."""
_PLAIN_NEXT = re.compile(rb"[^<]*" + _PLAIN_TAG.pattern)
_PLAIN_ATTRIBUTE = re.compile(
    rb"\s+([A-Za-z_:][A-Za-z0-9_:.-]*)(?:=(?:\"([^\"]*)\"|'([^']*)'|([A-Za-z0-9_./:#?&;%+~,()-]+)))?"
)
_SPACE = re.compile(rb"[\s/]*")
_ATTRIBUTE = re.compile(rb"=?[^\s/>=]*\s*")
_VALUE = re.compile(rb"=\s*")
_UNQUOTED = re.compile(rb"[^\s>]*")
_COMMENT_END = re.compile(rb"--!?>")
RAW_TEXT = frozenset([b"script", b"style", b"textarea", b"title", b"xmp", b"iframe", b"noembed", b"noframes"])


class Piece(NamedTuple):
    """A tag or a comment: its ``kind`` (``comment``, ``open``, ``close``, or ``other`` for declarations and processing
    instructions), its name in lower case or a comment's text, and where it begins and ends."""

    kind: str
    name: bytes
    start: int
    end: int


def scan(data: bytes, names: Collection[bytes] | None = None) -> Iterator[Piece]:
    """The tags, comments and declarations of a page, in their order; of the tags, with ``names`` those alone."""
    at = 0
    made, match = tuple.__new__, _PLAIN_NEXT.match
    skipped = None if names is None else _others(frozenset(names)).match
    while True:
        if skipped is not None:
            at = skipped(data, at).end()  # type: ignore[union-attr]
        while plain := match(data, at):
            slash, name = plain.groups()
            name = name.lower()
            at = plain.end()
            if skipped is None or name in names:  # type: ignore[operator]
                yield made(Piece, ("close" if slash else "open", name, plain.start(1) - 1, at))
            if name in RAW_TEXT and not slash:
                at = _raw_end(data, name, at)
            if skipped is not None:
                at = skipped(data, at).end()  # type: ignore[union-attr]
        found = _NEXT.search(data, at)
        if found is None:
            return
        piece = _odd_piece(data, found)
        at = piece.end
        if piece.kind not in ("open", "close") or names is None or piece.name in names:
            yield piece
        if piece.kind == "open" and piece.name in RAW_TEXT:
            at = _raw_end(data, piece.name, at)


def _odd_piece(data: bytes, found: re.Match[bytes]) -> Piece:
    """A comment, a declaration, or a tag that is not plain, of which the beginning was ``found``."""
    start = found.start()
    if found[0] == b"<!--":
        if data[start + 4 : start + 5] == b">" or data[start + 4 : start + 6] == b"->":
            return Piece("other", b"", start, data.index(b">", start) + 1)  # an empty comment, cut short
        ends = _COMMENT_END.search(data, start + 4)
        text = data[start + 4 : ends.start() if ends else len(data)].strip()
        return Piece("comment", text, start, ends.end() if ends else len(data))
    named = _NAME.match(data, start)
    if not named:
        closes = data.find(b">", start)
        return Piece("other", b"", start, closes + 1 if closes >= 0 else len(data))
    kind = "close" if data[start + 1 : start + 2] == b"/" else "open"
    return Piece(kind, named[1].lower(), start, _tag_end(data, named.end()))


@lru_cache(maxsize=16)
def _others(names: frozenset[bytes]) -> re.Pattern[bytes]:
    """What reads all plain tags up to one of some names, or one whose text is no markup."""
    known = b"|".join(re.escape(name) for name in sorted(names | RAW_TEXT))
    tag = _PLAIN_TAG.pattern.replace(rb"(/?)(", rb"/?(?!(?:" + known + rb")[\s/>])(?:", 1)
    return re.compile(rb"(?:[^<]*" + tag + rb")*+", re.IGNORECASE)


def _raw_end(data: bytes, name: bytes, at: int) -> int:
    """Where the text of an element ends whose text is no markup."""
    closes = re.compile(rb"</" + re.escape(name) + rb"[\s/>]", re.IGNORECASE).search(data, at)
    return closes.start() if closes else len(data)


class Attribute(NamedTuple):
    """An attribute of a tag: its name in lower case, where it begins, and the offsets of its value without quotes;
    ``end`` is the offset behind the closing quote. An attribute without a value has an empty one behind its name."""

    name: bytes
    start: int
    value_start: int
    value_end: int
    end: int


def attributes(data: bytes, piece: Piece) -> list[Attribute]:
    """The attributes of an opening tag, in their order."""
    plain = _PLAIN_TAG.fullmatch(data, piece.start, piece.end)
    if plain:
        return [_plain_attribute(one) for one in _PLAIN_ATTRIBUTE.finditer(data, plain.end(2), piece.end)]
    found: list[Attribute] = []
    _tag_end(data[piece.start : piece.end], 1 + len(piece.name), found)
    return [Attribute(one.name, *(piece.start + offset for offset in one[1:])) for one in found]


def _plain_attribute(found: re.Match[bytes]) -> Attribute:
    which = found.lastindex or 1
    start, end = found.span(which) if which > 1 else (found.end(1), found.end(1))
    return Attribute(found[1].lower(), found.start(1), start, end, found.end())


def _tag_end(data: bytes, at: int, found: list[Attribute] | None = None) -> int:
    """Where a tag ends whose attributes begin at a place; a ``>`` inside quotes does not end it. The attributes go
    into ``found``."""
    while True:
        at = _SPACE.match(data, at).end()  # type: ignore[union-attr]
        if data[at : at + 1] in (b">", b""):
            return min(at + 1, len(data))
        start = at
        at = _ATTRIBUTE.match(data, at).end()  # type: ignore[union-attr]
        name = data[start:at].rstrip().lower() if found is not None else b""
        value = _VALUE.match(data, at)
        if not value:
            if found is not None:
                found.append(Attribute(name, start, at, at, at))
            continue
        at = value_start = value.end()
        quote = data[at : at + 1]
        if quote in (b'"', b"'"):
            closes = data.find(quote, at + 1)
            at = closes + 1 if closes >= 0 else len(data)
            value_start, value_end = value_start + 1, closes if closes >= 0 else len(data)
        else:
            at = value_end = _UNQUOTED.match(data, at).end()  # type: ignore[union-attr]
        if found is not None:
            found.append(Attribute(name, start, value_start, value_end, at))


Replacement = tuple[int, int, bytes]
"""Where something stands, and what comes in its place."""


def replaced(data: bytes, replacements: Iterable[Replacement]) -> bytes:
    """Some bytes with other pieces in them; the replacements stand in their order, and apart from each other."""
    pieces: list[bytes] = []
    done = 0
    for start, end, text in replacements:
        pieces += (data[done:start], text)
        done = end
    return b"".join((*pieces, data[done:]))
