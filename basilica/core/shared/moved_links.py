"""Links that are written from where a page stands, as a page in another folder writes them."""

from __future__ import annotations

import posixpath
from collections.abc import Iterator
from urllib.parse import quote, urlsplit

from basilica.core.shared.html_scanner import Piece, attributes

_ADDRESSES = frozenset([b"href", b"src", b"action", b"background", b"poster", b"data"])


def moved_links(model: bytes, pieces: list[Piece], source: str, target: str) -> Iterator[tuple[int, int, bytes]]:
    """Links that are written from where the model stands, as they are written from another folder."""
    here, there = posixpath.dirname(source), posixpath.dirname(target)
    if here == there:
        return
    for piece in pieces:
        if piece.kind != "open" or piece.name == b"base":
            continue
        for one in attributes(model, piece):
            link = model[one.value_start : one.value_end].decode("latin-1").strip()
            if one.name not in _ADDRESSES or not link or link.startswith(("/", "#", "?")):
                continue
            try:
                parts = urlsplit(link)
            except ValueError:
                continue
            if parts.scheme or parts.netloc or not parts.path:
                continue
            led = posixpath.relpath(posixpath.join("/", here, parts.path), "/" + there)
            led += "/" if parts.path.endswith("/") and not led.endswith("/") else ""
            behind = link[len(parts.path) :]
            yield one.value_start, one.value_end, (quote(led, safe="/%~!$&'()*+,;=:@") + behind).encode("latin-1")
