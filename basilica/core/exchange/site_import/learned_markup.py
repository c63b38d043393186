"""How a site writes the entries of its menus and breadcrumbs, learned from its pages: so they can go on being written
that way, letter for letter."""

from __future__ import annotations

import html
import re
from collections import Counter, defaultdict
from collections.abc import Callable, Iterable, Iterator, Mapping
from dataclasses import dataclass
from itertools import pairwise

from basilica.core.exchange.site_import.found_menus import FoundEntry, all_entries
from basilica.core.exchange.site_import.old_page import OldPage
from basilica.core.exchange.site_import.source_tree import Element
from basilica.core.map.site.shared_values import EntryMarkup
from basilica.core.shared.html_scanner import Piece, attributes
from basilica.core.shared.moved_links import evened

Role = Callable[[FoundEntry], str]
"""What an entry is on a page: `entry`, `current`, `section`, `holds` or `group`."""

_LISTS = ("ul", "ol", "menu")
_ROOM = re.compile(r"\{\w*\}")
_BELOW = re.compile(r"\s*\{below\}\s*")
_ROOMS = frozenset(["{address}", "{label}", "{below}"])
_SHARE = 0.5
"""On so many of the pages the usual entry must be written in one way for that to be the way."""


@dataclass(frozen=True, slots=True)
class WrittenEntries:
    """The entries as they stand on one page: where the first begins and the last ends, in the bytes of the page; how
    each is written, with what it is; what stands between them, and around those under one."""

    start: int
    end: int
    entries: tuple[tuple[str, str], ...]
    between: tuple[str, ...]
    below: tuple[str, ...]


class _Unlike(Exception):
    """Entries whose markup follows no pattern."""


def written_on(page: OldPage, element: Element, entries: Iterable[FoundEntry], role: Role) -> WrittenEntries | None:
    """How the entries in ``element`` are written; None where they follow no pattern."""
    entries = tuple(entries)
    links = [one.element for one in entries if one.element is not None]
    lists = [one for one in element.walk() if one.tag in _LISTS]
    outer = next((one for one in lists if all(map(one.holds, links))), element)
    found: list[tuple[str, str]] = []
    between: list[str] = []
    below: list[str] = []
    try:
        spans = _items(page, outer, entries, role, found, between, below)
    except _Unlike:
        return None
    return WrittenEntries(spans[0][0], spans[-1][1], tuple(found), tuple(between), tuple(below))


def learned(pages: Mapping[str, WrittenEntries]) -> EntryMarkup | None:
    """The one way in which most pages write their entries; None where there is none."""
    by_role: dict[str, Counter[str]] = defaultdict(Counter)
    with_more: dict[tuple[str, str], Counter[str]] = defaultdict(Counter)
    written: dict[tuple[str, str], Counter[str]] = defaultdict(Counter)
    gaps: Counter[str] = Counter()
    around: Counter[str] = Counter()
    for one in pages.values():
        for role, pattern in one.entries:
            alone = evened(_BELOW.sub("", pattern).encode()).decode()
            by_role[role][alone] += 1
            written[role, alone][pattern] += 1
            if "{below}" in pattern:
                with_more[role, alone][pattern] += 1
        gaps.update(one.between)
        around.update(one.below)
    if not by_role["entry"]:
        return None
    usual = {role: count.most_common(1)[0] for role, count in by_role.items() if count}
    entry, often = usual["entry"]
    if often < _SHARE * by_role["entry"].total():
        return None

    def whole(role: str, pattern: str) -> str:
        """The pattern with room for entries under it, where there are some: without them it is the same as one."""
        return (with_more[role, pattern] or written[role, pattern]).most_common(1)[0][0]

    given = {role: pattern for role, (pattern, _) in usual.items() if role != "entry"}
    if given.get("holds") == entry:
        with_more["entry", entry] += with_more["holds", entry]
        del given["holds"]
    if given.get("section") == given.get("current"):
        given.pop("section", None)
    return EntryMarkup(
        entry=whole("entry", entry),
        between=gaps.most_common(1)[0][0] if gaps else "\n",
        below=around.most_common(1)[0][0] if around else "",
        **{role: whole(role, pattern) for role, pattern in given.items()},
    )


def _items(
    page: OldPage,
    outer: Element,
    entries: tuple[FoundEntry, ...],
    role: Role,
    found: list[tuple[str, str]],
    between: list[str],
    below: list[str],
) -> list[tuple[int, int]]:
    """The spans of the entries of one list. What is learned goes into the lists."""
    spans = list(_spans(page, outer, entries))
    if not spans:
        raise _Unlike
    for entry, (start, end) in zip(entries, spans, strict=True):
        room = None
        if entry.items:
            first = entry.items[0].element
            inner = next((one for one in _lists_in(outer, start, end) if first is not None and one.holds(first)), None)
            if inner is None:
                raise _Unlike
            inside = _items(page, inner, entry.items, role, found, between, below)
            room = inner.start, inner.end
            pattern = _text(page, inner.start, inside[0][0]) + "{entries}" + _text(page, inside[-1][1], inner.end)
            below.append(_checked(pattern, frozenset(["{entries}"])))
        found.append((role(entry), _pattern(page, entry, start, end, room)))
    between += [_checked(_text(page, one[1], two[0]), frozenset()) for one, two in pairwise(spans)]
    return spans


def _lists_in(outer: Element, start: int, end: int) -> Iterator[Element]:
    return (one for one in outer.walk() if one.tag in _LISTS and start < one.start and one.end < end)


def _spans(page: OldPage, outer: Element, entries: tuple[FoundEntry, ...]) -> Iterator[tuple[int, int]]:
    """Where each entry begins and ends: its item, or the largest element that holds it and no other."""
    elements = [entry.element for entry in entries]
    at = outer.inner
    for number, entry in enumerate(entries):
        element = entry.element
        if element is None:
            raise _Unlike
        if element is outer:  # words between links
            others = (one.start for one in elements[number + 1 :] if one is not None and one is not outer)
            span = _words(page, entry.label, at, next(others, outer.inner_end))
        else:
            while element.parent is not None and element.parent is not outer and element.parent.start >= outer.inner:
                element = element.parent
            if any(one is not entry.element and one is not None and element.holds(one) for one in elements):
                raise _Unlike
            # An item that is not closed reaches up to the next one.
            span = element.start, element.start + len(page.data[element.start : element.end].rstrip())
        if span[0] < at:
            raise _Unlike
        at = span[1]
        yield span


def _words(page: OldPage, label: str, start: int, end: int) -> tuple[int, int]:
    """Where the words of an entry stand."""
    pieces = (re.escape(html.escape(word, quote=False)) for word in label.split())
    found = re.compile(rb"\s+".join(piece.encode(page.encoding, "replace") for piece in pieces)).search(
        page.data, start, end
    )
    if found is None:
        raise _Unlike
    return found.span()


def _pattern(page: OldPage, entry: FoundEntry, start: int, end: int, below: tuple[int, int] | None) -> str:
    """An entry with room for where it leads, what it is called, and what is under it."""
    cuts: list[tuple[int, int, str]] = []
    element = entry.element
    before = below[0] if below else end
    if element is not None and element.tag == "a" and entry.target is not None:
        piece = Piece("open", b"a", element.start, element.inner)
        href = next((one for one in attributes(page.data, piece) if one.name == b"href"), None)
        if href is None:
            raise _Unlike
        is_quoted = href.end > href.value_end
        cuts.append((href.value_start, href.value_end, "{address}" if is_quoted else '"{address}"'))
        try:
            words = _words(page, entry.label, element.inner, element.inner_end)
        except _Unlike:
            if any(one.tag == "img" for one in element.walk()):
                raise
            words = element.inner, element.inner_end  # words with markup of their own
        cuts.append((*words, "{label}"))
    else:
        cuts.append((*_words(page, entry.label, start, before), "{label}"))
    if below:
        cuts.append((*below, "{below}"))
    made, at = [], start
    for first, last, room in sorted(cuts):
        if first < at or last > end:
            raise _Unlike
        made += [_text(page, at, first), room]
        at = last
    pattern = "".join([*made, _text(page, at, end)])
    return _checked(pattern, _ROOMS)


def _checked(pattern: str, rooms: frozenset[str]) -> str:
    if not rooms.issuperset(_ROOM.findall(pattern)) or "<!--" in pattern:
        raise _Unlike
    return pattern


def _text(page: OldPage, start: int, end: int) -> str:
    return page.data[start:end].decode(page.encoding, "replace").replace("\r\n", "\n")


def roles(file: str, entries: Iterable[FoundEntry], way: Iterable[str]) -> Role:
    """What each entry is on the page ``file``: ``way`` are the page and those above it, the nearest first, each with
    the one that it names in its place. The entry of the first of them that has one is the current one."""
    entries = tuple(entries)
    by_file: dict[str, set[str]] = defaultdict(set)
    for entry in all_entries(entries):
        if entry.target is not None and entry.target.file and not entry.target.fragment:
            by_file[entry.target.file].add(entry.label)
    current = next((one for one in way if one in by_file), None)
    labels = by_file[current] if current is not None else set()

    def holds(entry: FoundEntry) -> bool:
        return any(one.label in labels for one in all_entries(entry.items))

    def role(entry: FoundEntry) -> str:
        if entry.label in labels:
            return "current" if current == file else "section"
        if entry.target is None:
            return "group"
        return "holds" if holds(entry) else "entry"

    return role
