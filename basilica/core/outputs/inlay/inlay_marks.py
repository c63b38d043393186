"""Setting regions into the bytes of a page, between the marks for them."""

from __future__ import annotations

import codecs
import hashlib
import re
from collections.abc import Collection, Iterable, Iterator, Mapping
from dataclasses import dataclass
from functools import lru_cache
from types import MappingProxyType

from basilica.core.outputs.inlay.marked_regions import CONTENT, REGIONS
from basilica.core.outputs.inlay.page_head import Span, in_head, with_head
from basilica.core.shared.conservation import account
from basilica.core.shared.html_scanner import Piece, Replacement, replaced, scan
from basilica.core.shared.moved_links import say_the_same
from basilica.core.shared.page_encoding import encoding_of

_MARK = re.compile(rb"(/?)\s*basilica:\s*([a-z0-9 -]+?)\s*")
_NAMED = re.compile(rb"<!--\s*basilica:\s*([a-z0-9 -]+?)\s*-->")
_BEFORE = {"head": (b"head",), "data": (b"head",), "page-end": (b"main",), "footer": (b"body", b"html")}
"""Before which closing tag a region is placed, the first of them that there is; others stand below the header."""
_LOOKED_AT = frozenset([b"html", b"head", b"body", b"main", b"title", b"base", b"meta", b"link"])
_RAW = re.compile(rb"<(script|style|textarea|title|xmp|iframe|noembed|noframes)\b", re.IGNORECASE)
_EXACT = ("head", "data", "title", "description", "canonical")
"""What is written just as the map has it; of all else what says the same stays as somebody wrote it."""
_SAID_BY = {"canonical": '<link rel="canonical"', "hreflang": '<link rel="alternate" hreflang='}
"""By what a page may say in its head itself, how the lines begin that say it in what is set in."""
_RENAMED = {"closing": "page-end"}


class CannotInlay(Exception):
    """A page that is left as it is; the message says why, and where."""


@dataclass(frozen=True, slots=True)
class Inlaid:
    """A page after it: its bytes, the regions that are other now, those for which it has no marks, and the ``names`` of
    all that it has."""

    data: bytes
    changed: tuple[str, ...]
    without: tuple[str, ...]
    names: frozenset[str]


def names_in(data: bytes) -> frozenset[str]:
    """The names in what looks like a mark that begins a region, found without reading the page as such."""
    return frozenset(name.decode() for name in _NAMED.findall(data)) if b"basilica:" in data else frozenset()


@dataclass(frozen=True, slots=True)
class PutIn:
    """A region for a page that lacks it: where, in the bytes of its file, and what stands around it there."""

    at: int
    before: bytes
    region: str
    after: bytes


def with_marks(data: bytes, spans: Iterable[tuple[int, int, str]], new: Iterable[PutIn] = ()) -> bytes:
    """A page with marks set around pieces of it: each from its first byte to the one behind its last, by name; and with
    ``new`` pieces that have marks, and nothing between them yet."""
    changes = [(start, end, _marked(name, data[start:end])) for start, end, name in spans]
    changes += [(one.at, one.at, one.before + _marked(one.region, b"") + one.after) for one in new]
    return replaced(data, sorted(changes))


def _marked(name: str, inside: bytes) -> bytes:
    mark = name.encode()
    return b"".join([b"<!-- basilica: ", mark, b" -->", inside, b"<!-- /basilica: ", mark, b" -->"])


def outside_marks(data: bytes) -> bytes:
    """What stands outside the marked regions of a page, but for what is its own between marks for content. Raises
    ``CannotInlay``."""
    found = regions_in(data, list(scan(data)))
    return replaced(data, sorted((start, end, b"") for name, (start, end) in found.items() if name != CONTENT))


def without_marks(data: bytes) -> bytes:
    """A page without its marks, with what stands between them."""
    marks = (piece for piece in scan(data) if piece.kind == "comment" and _MARK.fullmatch(piece.name))
    return replaced(data, ((mark.start, mark.end, b"") for mark in marks))


def inlay(
    data: bytes,
    regions: Mapping[str, str],
    place: bool = False,
    known: Collection[str] = (),
    head: Mapping[str, str] = MappingProxyType({}),
    file: str = "",
) -> Inlaid:
    """Set ``regions``, by name, between the marks of a page; with ``place``, marks that it lacks are put where they
    belong first. Nothing outside the marks is touched, but what ``head`` replaces: by `title`, `description` and
    `canonical`, the text of it. ``known`` are names that other pages may have. ``file`` is where the page stands, if
    links in the regions are relative to that: a region that differs in how they are spelled alone stays as it is.
    Raises ``CannotInlay``."""
    if data[:2] in (codecs.BOM_UTF16_LE, codecs.BOM_UTF16_BE) or b"\0" in data[:1024]:
        raise CannotInlay("It is UTF-16 or no text. Save it as UTF-8.")
    charset, newline = encoding_of(data)[0], _newline(data)
    pieces = list(scan(data, _LOOKED_AT))
    if place:
        data, pieces = _placed(data, pieces, regions, newline)
    found = regions_in(data, pieces)
    _refuse_unknown(data, found, {*regions, *known, *REGIONS, CONTENT})
    own = in_head(data, pieces, found.values())
    if file and "base" in own:
        raise CannotInlay(
            "It has `<base>`, which changes where relative links lead. Remove it, or use `links: root` in the map."
        )
    changed: list[str] = []
    changes: list[Replacement] = []
    of_head = with_head(data, own, {name: _encoded(text, charset, False) for name, text in head.items()})
    for start, end, what, text in sorted(
        [*((*found[name], name, None) for name in found if name != CONTENT), *of_head], key=lambda one: one[:2]
    ):
        if text is None:
            text = _inside(what, regions.get(what, ""), own, charset, newline)
        if data[start:end] != text:
            if what not in _EXACT and say_the_same(data[start:end], text, file):
                continue
            changed.append(what)
            changes.append((start, end, text))
    without = tuple(name for name in REGIONS if regions.get(name) and name not in found)
    return Inlaid(replaced(data, changes), tuple(changed), without, frozenset(found))


def inside_digests(data: bytes) -> dict[str, str]:
    """By region, the SHA-256 of what a page has between its marks, but for content, which is people's own. Raises
    ``CannotInlay``."""
    found = regions_in(data, list(scan(data)))
    return {
        name: hashlib.sha256(data[start:end]).hexdigest() for name, (start, end) in found.items() if name != CONTENT
    }


def changed_since(data: bytes, after: bytes, written: Mapping[str, str]) -> tuple[str, ...]:
    """The regions of a page that would be other ``after`` an inlay, and that somebody changed between their marks since
    they were ``written`` (by region, the digest of what was). Regions that were never written from here are not known
    to be changed."""
    now, then = inside_digests(data), inside_digests(after)

    def is_ours(region: tuple[str, str]) -> bool:
        return written.get(region[0], region[1]) == region[1]

    return tuple(name for name, _ in account(now.items(), then.items(), is_ours).lost)


def has_set_in(data: bytes, regions: Mapping[str, str]) -> bool:
    """Whether a page has just these regions between its marks: told by looking for them, without reading the page.
    False also where that cannot be told so."""
    more = data.count(b"basilica:") - 2 * len(regions)
    if more and (more != 2 or data.count(b"basilica: content -->") != 2):
        return False
    charset, newline = encoding_of(data)[0], _newline(data)
    for name, text in regions.items():
        inside = _inside(name, text, {}, charset, newline)
        at = data.find(_marked(name, inside))
        if at < 0 or data.rfind(b"<!--", 0, at) > data.rfind(b"-->", 0, at):
            return False
    for raw in _RAW.finditer(data):
        closes = data.find(b"</" + raw[1], raw.end())
        if data.find(b"basilica:", raw.end(), closes if closes >= 0 else len(data)) >= 0:
            return False
    return "head" not in regions or all(
        data.count(word) == sum(text.count(word.decode()) for text in regions.values())
        for word in (b"canonical", b"hreflang")
    )


def _newline(data: bytes) -> bytes:
    return b"\r\n" if b"\r" in data and data.count(b"\r\n") * 2 > data.count(b"\n") else b"\n"


def _inside(name: str, text: str, own: Mapping[str, Span], charset: str, newline: bytes) -> bytes:
    """What stands between the marks of a region, in the bytes of a page."""
    is_within = bool(text) and not text.endswith("\n")
    text = text.strip("\n")
    if name == "head":  # what the page says itself is not said twice
        doubled = tuple(begins for said, begins in _SAID_BY.items() if said in own)
        text = "\n".join(line for line in text.split("\n") if not line.startswith(doubled))
    written = _encoded(text, charset, name == "data").replace(b"\n", newline)
    if is_within or (not written and name not in REGIONS):
        return written
    return newline + written + newline if written else newline


def _refuse_unknown(data: bytes, found: Mapping[str, Span], known: Collection[str]) -> None:
    unknown = next((name for name in found if name not in known), None)
    if unknown is None:
        return
    line = _line(data, found[unknown][0])
    if unknown in _RENAMED:
        raise CannotInlay(f"Line {line}: `{unknown}` is called `{_RENAMED[unknown]}` now. Write that in both marks.")
    words = ", ".join(sorted(known))
    raise CannotInlay(f"Line {line}: there is no region `{unknown}`. Known are {words}.")


def regions_in(data: bytes, pieces: list[Piece]) -> dict[str, Span]:
    """Where each region begins and ends, between its marks. Raises ``CannotInlay`` for marks that are wrong."""
    found: dict[str, tuple[int, int]] = {}
    opened: tuple[str, Piece] | None = None
    for piece in pieces:
        mark = _MARK.fullmatch(piece.name) if piece.kind == "comment" else None
        if not mark:
            continue
        name = mark[2].decode()
        if not mark[1]:
            if opened:
                raise CannotInlay(
                    f"Line {_line(data, piece.start)}: `{name}` begins inside `{opened[0]}`. Close that first."
                )
            if name in found:
                raise CannotInlay(f"Line {_line(data, piece.start)}: `{name}` has marks already. Remove one pair.")
            opened = name, piece
        elif not opened or opened[0] != name:
            raise CannotInlay(
                f"Line {_line(data, piece.start)}: `{name}` is closed but was never opened. Fix its marks."
            )
        else:
            found[name] = opened[1].end, piece.start
            opened = None
    if opened:
        line = _line(data, opened[1].start)
        raise CannotInlay(
            f"Line {line}: `{opened[0]}` is not closed. Write `<!-- /basilica: {opened[0]} -->` behind it."
        )
    return found


def _placed(data: bytes, pieces: list[Piece], regions: Mapping[str, str], newline: bytes) -> tuple[bytes, list[Piece]]:
    """The page with marks for the regions that it lacks and that have something in them, and the pieces of it."""
    here = regions_in(data, pieces)
    has_menu = any(name.partition(" ")[0] in ("list", "entries", "menu") and name.endswith(" main") for name in here)
    wanted = [name for name in REGIONS if regions.get(name) and name not in here]
    marks = {name: _pair(name, newline) for name in wanted if name != "header" or not has_menu}
    spots: dict[int, list[bytes]] = {}
    header = next((piece.end for piece in pieces if piece.kind == "open" and piece.name == b"body"), None)
    if "header" in here:
        header = data.index(b"-->", here["header"][1]) + 3
    for name in marks:
        if name in ("header", "breadcrumbs", "section"):
            if header is None:
                raise CannotInlay(f"There is no `<body>`, so `{name}` has no place.")
            spot = header
        else:
            ends = [piece.start for tag in _BEFORE[name] for piece in pieces if piece[:2] == ("close", tag)][-1:]
            if not ends and name == "page-end":
                continue  # many pages have no `main`; it can be given marks by hand
            if not ends and name != "footer":
                raise CannotInlay(f"There is no `</head>`, so `{name}` has no place.")
            spot = ends[0] if ends else len(data)
        spots.setdefault(spot, []).append(marks[name])
    texts = [
        (spot, newline + b"".join(marks).removesuffix(newline) if spot == header else b"".join(marks))
        for spot, marks in sorted(spots.items())
    ]
    placed = replaced(data, ((spot, spot, text) for spot, text in texts))
    if not spots or len(data) not in spots:
        return placed, list(_moved(pieces, texts))
    pieces = list(scan(placed, _LOOKED_AT))  # what is open at the end of a page goes on behind it
    after = regions_in(placed, pieces)
    lost = next((name for name in marks if name not in after and name != "page-end"), None)
    if lost is not None:
        raise CannotInlay(f"The marks for `{lost}` would be inside a tag or a comment that is not closed. Close it.")
    return placed, pieces


def _moved(pieces: Iterable[Piece], texts: Iterable[tuple[int, bytes]]) -> Iterator[Piece]:
    """The pieces of a page in which texts are set, and those of these, where tags begin or end: there text is text."""
    rest, more, made = iter(pieces), 0, tuple.__new__
    following = next(rest, None)
    for spot, text in texts:
        while following is not None and following[2] < spot:
            yield made(Piece, (following[0], following[1], following[2] + more, following[3] + more))
            following = next(rest, None)
        at = spot + more
        yield from (made(Piece, (one[0], one[1], one[2] + at, one[3] + at)) for one in _pieces_of(text))
        more += len(text)
    while following is not None:
        yield made(Piece, (following[0], following[1], following[2] + more, following[3] + more))
        following = next(rest, None)


@lru_cache(maxsize=64)
def _pieces_of(text: bytes) -> tuple[Piece, ...]:
    """The pieces of a text that is set into many pages."""
    return tuple(scan(text))


def _pair(name: str, newline: bytes) -> bytes:
    mark = name.encode()
    return b"<!-- basilica: " + mark + b" -->" + newline + b"<!-- /basilica: " + mark + b" -->" + newline


def _encoded(text: str, charset: str, in_script: bool) -> bytes:
    """Text in a page's charset; what that lacks is written as references, or within data as escapes."""
    if not in_script:
        return text.encode(charset, "xmlcharrefreplace")
    try:
        return text.encode(charset)
    except UnicodeEncodeError:
        pass
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
