"""Links that are written from where a page stands, as a page in another folder writes them."""

from __future__ import annotations

import posixpath
from collections.abc import Iterator
from urllib.parse import quote, unquote, urlsplit

from basilica.core.shared.html_scanner import Attribute, Piece, attributes, scan

_ADDRESSES = frozenset([b"href", b"src", b"action", b"background", b"poster", b"data"])


def moved_links(model: bytes, pieces: list[Piece], source: str, target: str) -> Iterator[tuple[int, int, bytes]]:
    """Links that are written from where the model stands, as they are written from another folder."""
    here, there = posixpath.dirname(source), posixpath.dirname(target)
    if here == there:
        return
    for one, path, behind in _relative(model, pieces):
        led = posixpath.relpath(posixpath.join("/", here, path), "/" + there)
        led += "/" if path.endswith("/") and not led.endswith("/") else ""
        yield one.value_start, one.value_end, (quote(led, safe="/%~!$&'()*+,;=:@") + behind).encode("latin-1")


def say_the_same(one: bytes, two: bytes, file: str) -> bool:
    """Whether two pieces of the page ``file`` differ in nothing but how their links are spelled: `../visit/a.htm` and
    `a.htm` lead from a page in `visit` to the same place."""
    return _spelled_out(one, file) == _spelled_out(two, file)


def _spelled_out(data: bytes, file: str) -> bytes:
    """A piece of a page with every relative link from the root, and in the same quotes."""
    made, at = [], 0
    for one, path, behind in _relative(data, list(scan(data))):
        led = posixpath.normpath(posixpath.join("/", posixpath.dirname(file), unquote(path, "latin-1")))
        led += "/" if path.endswith("/") else ""
        made += [data[at : one.value_start].rstrip(b"\"'"), led.encode("latin-1", "replace"), behind.encode("latin-1")]
        at = one.end
    return b"".join([*made, data[at:]])


def _relative(data: bytes, pieces: list[Piece]) -> Iterator[tuple[Attribute, str, str]]:
    """The links that are relative to a page: the attribute, the path, and what stands behind that."""
    for piece in pieces:
        if piece.kind != "open" or piece.name == b"base":
            continue
        for one in attributes(data, piece):
            link = data[one.value_start : one.value_end].decode("latin-1").strip()
            if one.name not in _ADDRESSES or not link or link.startswith(("/", "#", "?")):
                continue
            try:
                parts = urlsplit(link)
            except ValueError:
                continue
            if not parts.scheme and not parts.netloc and parts.path:
                yield one, parts.path, link[len(parts.path) :]
