"""What the head of a page that exists says already: its title, description, canonical address and translations, which
are never doubled, and replaced where the map asks for it."""

from __future__ import annotations

import html
from collections.abc import Iterable, Iterator, Mapping

from basilica.core.shared.html_scanner import Piece, attributes

Span = tuple[int, int]
"""Where a piece of a page begins and ends, in bytes."""


def in_head(data: bytes, pieces: Iterable[Piece], marked: Iterable[Span]) -> dict[str, Span]:
    """By name, what the head of a page says outside its marked regions: the span of the title's text, and of the whole
    element of the others."""
    marked = tuple(marked)
    found: dict[str, Span] = {}
    opened: Piece | None = None
    for piece in pieces:
        if (piece.kind, piece.name) in _ENDS:
            break
        if any(start <= piece.start < end for start, end in marked):
            continue
        if piece.name == b"title" and piece.kind == "open":
            opened = piece
        elif piece.name == b"title" and piece.kind == "close" and opened is not None:
            found.setdefault("title", (opened.end, piece.start))
        elif piece.name == b"base" and any(one.name == b"href" for one in attributes(data, piece)):
            found.setdefault("base", (piece.start, piece.end))
        elif piece.kind == "open" and piece.name in (b"meta", b"link"):
            for name in _KNOWN.intersection(said_of(data, piece)):
                found.setdefault(name, (piece.start, piece.end))
    return found


_KNOWN = frozenset(["description", "canonical", "hreflang"])
_ENDS = (("close", b"head"), ("open", b"body"))


def said_of(data: bytes, piece: Piece) -> list[str]:
    """What a `meta` or a `link` is about: its names and properties, or its relations, in lower case; and `hreflang` for
    a link to a translation."""
    values = {
        one.name: data[one.value_start : one.value_end].decode("latin-1").lower() for one in attributes(data, piece)
    }
    if piece.name == b"meta":
        return [values[name].strip() for name in (b"name", b"property") if name in values]
    relations = values.get(b"rel", "").split()
    return [*relations, *(["hreflang"] if "alternate" in relations and b"hreflang" in values else [])]


def with_head(
    data: bytes, own: Mapping[str, Span], wanted: Mapping[str, bytes]
) -> Iterator[tuple[int, int, str, bytes]]:
    """What is replaced in a head, as spans with their name and what stands there from then on. ``wanted`` are the
    texts by name; one that is there says the same stays as it is written."""
    for name, text in wanted.items():
        if name not in own or not text:
            continue
        start, end = own[name]
        if name == "title":
            inner, inner_end = start, end
        else:
            piece = Piece("open", b"meta" if name == "description" else b"link", start, end)
            which = b"content" if name == "description" else b"href"
            value = next((one for one in attributes(data, piece) if one.name == which), None)
            if value is None:
                continue
            inner, inner_end = value.value_start, value.value_end
            if data[inner - 1 : inner] not in (b'"', b"'"):
                text = b'"' + text + b'"'
        if not _same(data[inner:inner_end], text):
            yield inner, inner_end, name, text


def _same(one: bytes, two: bytes) -> bool:
    """Whether two texts of a page say the same, however they are written."""
    read = (html.unescape(each.decode("latin-1")).strip().strip("\"'") for each in (one, two))
    return len({" ".join(each.split()) for each in read}) == 1
