"""In which parts two states of a page differ, told from the pages themselves: whoever made either of them."""

from __future__ import annotations

from basilica.core.shared.html_scanner import Piece, attributes, scan

_ELEMENTS = {b"head": "head", b"header": "header", b"nav": "menu", b"main": "body", b"footer": "footer"}
_CRUMBS = (b"breadcrumb", b"crumbs")
OTHER = "page"
"""What stands in none of the parts."""


def differing_parts(one: bytes, two: bytes) -> tuple[str, ...]:
    """The parts in which two pages differ, in the order of a page: `head`, `header`, `menu`, `breadcrumbs`, `body`,
    `footer`, and `page` for what is in none of these."""
    ours, theirs = _parts(one), _parts(two)
    order = ("head", "header", "menu", "breadcrumbs", "body", "footer", OTHER)
    return tuple(name for name in order if ours.get(name, b"") != theirs.get(name, b""))


def _parts(data: bytes) -> dict[str, bytes]:
    """The bytes of each part: a menu in the header is no part of that, but all else is of what it stands in."""
    found: dict[str, bytes] = {}
    open_now: list[tuple[bytes, str]] = []
    done = 0

    def take(end: int) -> None:
        nonlocal done
        name = open_now[-1][1] if open_now else OTHER
        found[name] = found.get(name, b"") + data[done:end]
        done = end

    for piece in scan(data, frozenset(_ELEMENTS)):
        if piece.kind == "open":
            above = open_now[-1][1] if open_now else OTHER
            name = above if above not in (OTHER, "header") else _ELEMENTS[piece.name]
            if name == "menu" and _is_breadcrumbs(data, piece):
                name = "breadcrumbs"
            take(piece.start)
            open_now.append((piece.name, name))
        elif piece.kind == "close" and any(tag == piece.name for tag, _ in open_now):
            take(piece.end)
            while open_now.pop()[0] != piece.name:
                pass
    take(len(data))
    return found


def _is_breadcrumbs(data: bytes, piece: Piece) -> bool:
    said = (data[one.value_start : one.value_end].lower() for one in attributes(data, piece))
    return any(word in value for value in said for word in _CRUMBS)
