"""Links that are written from where a page stands, as a page in another folder writes them."""

from __future__ import annotations

import posixpath
import re
from collections.abc import Iterator
from urllib.parse import quote, unquote, urlsplit

from basilica.core.shared.html_scanner import Attribute, Piece, Replacement, attributes, replaced, scan

_BOXES = rb"(?:ul|ol|li|dl|dd|dt|nav|div|p|table|tbody|tr|td|th|menu)"
_SPACES = re.compile(rb"\s+")
_OPENS = re.compile(rb"(<" + _BOXES + rb"(?:\s[^<>]*)?>) ", re.IGNORECASE)
_CLOSES = re.compile(rb" (</" + _BOXES + rb">)", re.IGNORECASE)
_ADDRESSES = frozenset([b"href", b"src", b"action", b"background", b"poster", b"data"])


def moved_links(model: bytes, pieces: list[Piece], source: str, target: str) -> Iterator[Replacement]:
    """Links that are written from where the model stands, as they are written from another folder."""
    here, there = posixpath.dirname(source), posixpath.dirname(target)
    if here == there:
        return
    for one, path, behind in _relative(model, pieces):
        led = posixpath.relpath(posixpath.join("/", here, path), "/" + there)
        led += "/" if path.endswith("/") and not led.endswith("/") else ""
        yield one.value_start, one.value_end, (quote(led, safe="/%~!$&'()*+,;=:@") + behind).encode("latin-1")


def say_the_same(one: bytes, two: bytes, file: str) -> bool:
    """Whether two pieces of a page differ in nothing but how their links are spelled, and how they are indented: from a
    page in `visit`, `../visit/a.htm` and `a.htm` lead to the same place, and `/visit/index.html` to `/visit/`. ``file``
    is that of the page, and empty where links do not depend on it."""
    if one == two:
        return True
    if one.count(b"<") != two.count(b"<"):
        return False
    return evened(_spelled_out(one, file)) == evened(_spelled_out(two, file))


def evened(data: bytes) -> bytes:
    """A piece of a page with single spaces, and none where they are not drawn: at the ends of items and boxes. Text in
    which every space counts is left as it is."""
    if b"<pre" in data or b"<textarea" in data:
        return data
    return _CLOSES.sub(rb"\1", _OPENS.sub(rb"\1", _SPACES.sub(b" ", data))).strip()


def _spelled_out(data: bytes, file: str) -> bytes:
    """A piece of a page with every link within the site from the root, and in the same quotes."""
    changes: list[Replacement] = []
    for one, path, behind in _within(data, list(scan(data))):
        led = path
        if file and not path.startswith("/"):
            led = posixpath.normpath(posixpath.join("/", posixpath.dirname(file), unquote(path, "latin-1")))
            led += "/" if path.endswith("/") else ""
        if led.endswith("/index.html"):
            led = led.removesuffix("index.html")
        is_quoted = one.end > one.value_end
        spelled = (led + behind).encode("latin-1", "replace")
        changes.append((one.value_start - is_quoted, one.end, spelled))
    return replaced(data, changes)


def _relative(data: bytes, pieces: list[Piece]) -> Iterator[tuple[Attribute, str, str]]:
    """The links that are relative to a page: the attribute, the path, and what stands behind that."""
    return (found for found in _within(data, pieces) if not found[1].startswith("/"))


def _within(data: bytes, pieces: list[Piece]) -> Iterator[tuple[Attribute, str, str]]:
    """The same of all links that name no host."""
    for piece in pieces:
        if piece.kind != "open" or piece.name == b"base":
            continue
        for one in attributes(data, piece):
            link = data[one.value_start : one.value_end].decode("latin-1").strip()
            if one.name not in _ADDRESSES or not link or link.startswith(("//", "#", "?")):
                continue
            try:
                parts = urlsplit(link)
            except ValueError:
                continue
            if not parts.scheme and not parts.netloc and parts.path:
                yield one, parts.path, link[len(parts.path) :]
