"""Setting regions into the bytes of a page, between the marks for them."""

from __future__ import annotations

import codecs
import re
from collections.abc import Mapping
from dataclasses import dataclass

from basilica.core.shared.html_scanner import Piece, scan

REGIONS = {
    "head": "The style sheet, the script and the canonical address, in the head.",
    "data": "The breadcrumbs as schema.org data, in the head.",
    "header": "The skip link, the row above, the header with the main menu.",
    "breadcrumbs": "The breadcrumbs.",
    "section": "The menus of the section.",
    "page-end": "The list of pages under this one, and the pages before and after.",
    "footer": "The footer with its menus.",
}
"""What can stand between marks, `<!-- basilica: header -->` and `<!-- /basilica: header -->`, by name; ``menu NAME`` is
any one menu."""

_MARK = re.compile(rb"(/?)\s*basilica:\s*([a-z0-9 -]+?)\s*")
_CHARSET = re.compile(rb"""<meta[^>]+charset\s*=\s*["']?\s*([A-Za-z0-9_:.-]+)""", re.IGNORECASE)
_PLACES = {
    "head": ("close", b"head"),
    "data": ("close", b"head"),
    "header": ("open", b"body"),
    "page-end": ("close", b"main"),
}
"""Before or behind which tag a region is placed; the footer before the end of the body, others behind the header."""


_RENAMED = {"closing": "page-end"}


class CannotInlay(Exception):
    """A page that is left as it is; the message says why, and where."""


@dataclass(frozen=True, slots=True)
class Inlaid:
    """A page after it: its bytes, the regions that are other now, and those for which it has no marks."""

    data: bytes
    changed: tuple[str, ...]
    without: tuple[str, ...]


def inlay(data: bytes, regions: Mapping[str, str], place: bool = False) -> Inlaid:
    """Set ``regions``, by name, between the marks of a page; with ``place``, marks that it lacks are put where they
    belong first. Nothing outside the marks is touched. Raises ``CannotInlay``."""
    if data[:2] in (codecs.BOM_UTF16_LE, codecs.BOM_UTF16_BE) or b"\0" in data[:1024]:
        raise CannotInlay("It is UTF-16 or no text. Save it as UTF-8.")
    charset, newline = _charset(data), b"\r\n" if data.count(b"\r\n") * 2 > data.count(b"\n") else b"\n"
    if place:
        data = _placed(data, regions, newline)
    pieces = list(scan(data))
    found = _marks(data, pieces)
    unknown = next((name for name in found if name not in regions and name not in REGIONS), None)
    if unknown is not None:
        line = _line(data, found[unknown][0])
        if unknown in _RENAMED:
            raise CannotInlay(
                f"Line {line}: `{unknown}` is called `{_RENAMED[unknown]}` now. Write that in both marks."
            )
        raise CannotInlay(f"Line {line}: there is no region `{unknown}`. Known are {', '.join(regions)}.")
    changed, made, at = [], [], 0
    for name, (start, end) in sorted(found.items(), key=lambda mark: mark[1]):
        text = regions.get(name, "").strip("\n")
        written = _encoded(text, charset, name == "data").replace(b"\n", newline)
        inside = newline + written + newline if written else newline
        if data[start:end] != inside:
            changed.append(name)
        made += [data[at:start], inside]
        at = end
    without = tuple(name for name, text in regions.items() if text and name in REGIONS and name not in found)
    return Inlaid(b"".join([*made, data[at:]]), tuple(changed), without)


def _marks(data: bytes, pieces: list[Piece]) -> dict[str, tuple[int, int]]:
    """Where each region begins and ends, between its marks."""
    found: dict[str, tuple[int, int]] = {}
    opened: tuple[str, Piece] | None = None
    for piece in pieces:
        mark = _MARK.fullmatch(piece.name) if piece.kind == "comment" else None
        if not mark:
            continue
        name, line = mark[2].decode(), _line(data, piece.start)
        if not mark[1]:
            if opened:
                raise CannotInlay(f"Line {line}: `{name}` begins inside `{opened[0]}`. Close that first.")
            if name in found:
                raise CannotInlay(f"Line {line}: `{name}` has marks already. Take one pair out.")
            opened = name, piece
        elif not opened or opened[0] != name:
            raise CannotInlay(f"Line {line}: `{name}` is closed and was not opened. Mend its marks.")
        else:
            found[name] = opened[1].end, piece.start
            opened = None
    if opened:
        line = _line(data, opened[1].start)
        raise CannotInlay(
            f"Line {line}: `{opened[0]}` is not closed. Write `<!-- /basilica: {opened[0]} -->` behind it."
        )
    return found


def _placed(data: bytes, regions: Mapping[str, str], newline: bytes) -> bytes:
    """The page with marks for the regions that it lacks and that have something in them."""
    pieces = list(scan(data))
    here = _marks(data, pieces)
    wanted = [name for name in REGIONS if regions.get(name) and name not in here]
    marks = {name: _pair(name, newline) for name in wanted}
    placed = []
    for name in ("page-end", "footer", "head", "data", "header"):
        if name not in marks:
            continue
        pieces = list(scan(data))
        kind, tag = _PLACES.get(name, ("close", b"body"))
        ends = [piece for piece in pieces if piece.kind == kind and piece.name == tag]
        if not ends and name == "page-end":
            continue  # many pages have no `main`; it can be given marks by hand
        if not ends:
            raise CannotInlay(
                f"There is no `<{'/' if kind == 'close' else ''}{tag.decode()}>`, so `{name}` has no place."
            )
        spot = ends[0].end if kind == "open" else ends[-1].start
        text = marks[name]
        if name == "header":  # what comes below it in the same place
            text += b"".join(marks[below] for below in ("breadcrumbs", "section") if below in marks)
            text = newline + text.removesuffix(newline)
        data = data[:spot] + text + data[spot:]
        placed.append(name)
    after = _marks(data, list(scan(data)))
    lost = next((name for name in placed if name not in after), None)
    if lost is not None:
        raise CannotInlay(f"The marks for `{lost}` would stand inside a tag or a comment that is not closed. Close it.")
    for name in ("breadcrumbs", "section"):
        if name in marks and name not in after:
            # The header had its marks: the others come behind these.
            spot = data.index(b"-->", after["header"][1]) + 3
            data = data[:spot] + newline + marks[name].removesuffix(newline) + data[spot:]
            after = _marks(data, list(scan(data)))
    return data


def _pair(name: str, newline: bytes) -> bytes:
    mark = name.encode()
    return b"<!-- basilica: " + mark + b" -->" + newline + b"<!-- /basilica: " + mark + b" -->" + newline


def _charset(data: bytes) -> str:
    if data.startswith(codecs.BOM_UTF8):
        return "utf-8"
    found = _CHARSET.search(data[:2048])
    try:
        return codecs.lookup(found[1].decode()).name if found else "utf-8"
    except LookupError:
        return "ascii"


def _encoded(text: str, charset: str, in_script: bool) -> bytes:
    """Text in a page's charset; what that lacks is written as references, or within data as escapes."""
    if not in_script:
        return text.encode(charset, "xmlcharrefreplace")
    return "".join(c if _has(charset, c) else "".join(f"\\u{unit:04x}" for unit in _utf16(c)) for c in text).encode(
        charset
    )


def _has(charset: str, character: str) -> bool:
    try:
        character.encode(charset)
    except UnicodeEncodeError:
        return False
    return True


def _utf16(character: str) -> list[int]:
    data = character.encode("utf-16-be")
    return [int.from_bytes(data[at : at + 2], "big") for at in range(0, len(data), 2)]


def _line(data: bytes, at: int) -> int:
    return data.count(b"\n", 0, at) + 1
