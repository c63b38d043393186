"""A list of a site that was changed → what changes in the site: the pages and entries that differ, and nothing else."""

from __future__ import annotations

from bisect import bisect_left
from collections import defaultdict
from collections.abc import Callable, Collection, Hashable, Iterable, Iterator, Sequence
from dataclasses import dataclass, field

from rapidfuzz import fuzz

from basilica.core.exchange.list_items import Item, ItemKind

MAIN = "main"
_MOST_COMPARED = 1_000_000
"""So many pairs of labels are compared for their likeness; of longer lists none."""
_LIKE = 70
"""From which likeness, of 100, a label is taken for another that was changed."""


@dataclass(eq=False, slots=True)
class Line:
    """A line of a list with its place: in a ``menu`` (None: in none), below the line ``above`` it, and below the
    ``page`` above that. ``old`` is the line that it was in the list of the site as it is; ``order`` its number."""

    item: Item
    menu: str | None
    above: Line | None
    page: Line | None
    order: int
    is_page: bool
    old: Line | None = None

    @property
    def label(self) -> str:
        """Its label."""
        return self.item.label

    @property
    def is_reference(self) -> bool:
        """Whether it is one more entry of a page, by the label of that."""
        return self.item.kind is ItemKind.PAGE and not self.is_page


@dataclass(slots=True)
class ListDifferences:
    """What a list says otherwise than the site: pages and entries by their lines. Old lines have `item.key`."""

    lines: list[Line] = field(default_factory=list)
    added: list[Line] = field(default_factory=list)
    moved: list[Line] = field(default_factory=list)
    renamed: list[Line] = field(default_factory=list)
    led: list[Line] = field(default_factory=list)
    """Those with another address."""
    gone: list[Line] = field(default_factory=list)
    """Old lines that the list does not have; of pages that go with one above them, that one alone."""


def list_differences(old_items: Iterable[Item], new_items: Iterable[Item]) -> ListDifferences:
    """What a list says otherwise than that of the site. A line is the one of before by its place and label, by its
    address, by its label, or by the likeness of the label and of what is below it."""
    old = [*_lines(old_items, frozenset())]
    new = [*_lines(new_items, {(line.menu, line.label.casefold()) for line in old if line.is_reference})]
    _match(old, new)
    found = ListDifferences(new, [line for line in new if line.old is None])
    found.moved = _moved(new)
    for line in new:
        was = line.old.item if line.old is not None else line.item
        if was.label != line.label:
            found.renamed.append(line)
        if was.address != line.item.address and line.item.address is not None:
            found.led.append(line)
    kept = {line.old for line in new}
    gone = [line for line in old if line not in kept]
    found.gone = [line for line in gone if not line.is_page or line.page is None or line.page in kept]
    return found


def _lines(items: Iterable[Item], references: Collection[tuple[str | None, str]]) -> Iterator[Line]:
    """The lines of a list. ``references`` are those, by menu and label, that were entries of a page before; its label
    may be another now."""
    pages: set[str] = set()
    order = 0

    def walk(items: Iterable[Item], menu: str | None, above: Line | None, page: Line | None) -> Iterator[Line]:
        nonlocal order
        for item in items:
            label = item.label.casefold()
            known = label in pages or (menu, label) in references
            other = menu not in (MAIN, None) and item.address is None and known
            is_page = item.kind is ItemKind.PAGE and (bool(item.key) or not other or bool(item.items))
            line = Line(item, menu, above, page, order, is_page)
            order += 1
            if is_page:
                pages.add(label)
            yield line
            yield from walk(item.items, menu, line, line if is_page else page)

    tops: dict[str | None, list[Item]] = defaultdict(list)
    for item in items:
        if item.kind is ItemKind.MENU:
            tops[item.label] += item.items
        elif item.kind is ItemKind.APART:
            tops[None] += item.items
        else:
            tops[MAIN].append(item)
    for menu in sorted(tops, key=lambda name: (name != MAIN, name is not None)):  # references are known by then
        yield from walk(tops[menu], menu, None, None)


def _match(old: Sequence[Line], new: Sequence[Line]) -> None:
    free = dict.fromkeys(old)

    def pair(line: Line, was: Line) -> None:
        line.old = was
        del free[was]

    def by(name: Callable[[Line], Hashable | None], alone: bool = False) -> None:
        """Pair lines that have the same name; ``alone`` where there is one of each only."""
        there, wanted = _grouped(free, name), _grouped((line for line in new if line.old is None), name)
        for value, lines in wanted.items():
            known = there.get(value, [])
            if known and not (alone and (len(known) > 1 or len(lines) > 1)):
                for line, was in zip(lines, known, strict=False):
                    pair(line, was)

    by(_path)
    by(lambda line: (_sort(line), line.item.address) if line.item.address else None, alone=True)
    by(lambda line: (_sort(line), line.label.casefold()), alone=True)
    below: dict[Line | None, list[Line]] = defaultdict(list)
    for line in new:
        below[line.above].append(line)
    if len(free) * sum(line.old is None for line in new) > _MOST_COMPARED:
        return
    for line in new:
        if line.old is not None or line.is_reference:
            continue
        above = line.page.old if line.page is not None else None
        if line.page is not None and above is None:
            continue
        near = [was for was in free if was.page is above and (was.is_page, was.menu) == (line.is_page, line.menu)]
        near = [was for was in near if was.item.kind is line.item.kind]
        scored = [(_likeness(line, was, below[line]), -was.order, was) for was in near]
        if scored and max(scored)[0] >= _LIKE:
            pair(line, max(scored)[2])


def _likeness(line: Line, was: Line, below: Sequence[Line]) -> float:
    """How likely a line is another that was renamed: by its label, and by the lines that are below both."""
    same = sum(each.old is not None and each.old.above is was for each in below)
    return float(fuzz.ratio(line.label.casefold(), was.label.casefold())) + (100 * same / len(below) if below else 0)


def _sort(line: Line) -> Hashable:
    """What kind of line it is, and in which menu; a page may change that."""
    return "page" if line.is_page else (line.item.kind, line.menu)


def _path(line: Line) -> Hashable:
    above = _path(line.above) if line.above is not None and not line.is_page else None
    if line.is_page:
        above = _path(line.page) if line.page is not None else None
    return above, _sort(line), line.label.casefold(), None if line.is_page else line.item.address


def _grouped(lines: Iterable[Line], name: Callable[[Line], Hashable | None]) -> dict[Hashable, list[Line]]:
    found: dict[Hashable, list[Line]] = defaultdict(list)
    for line in lines:
        value = name(line)
        if value is not None:
            found[value].append(line)
    return found


def _moved(new: Sequence[Line]) -> list[Line]:
    """The lines that are elsewhere than they were: below another line, or not in the order of those that stay."""
    moved, staying = [], defaultdict(list)
    for line in new:
        was = line.old
        if was is None:
            continue
        page = line.page.old if line.page is not None else None
        above = line.above.old if line.above is not None else None
        goes_along = line.is_page and line.page is not None and was.page is page  # into another menu, with its page
        is_below_new = any(each is not None and each.old is None for each in (line.page, line.above))
        if is_below_new or was.page is not page or was.above is not above or not (was.menu == line.menu or goes_along):
            moved.append(line)
        else:
            staying[line.above, line.menu].append(line)
    for lines in staying.values():
        kept = {lines[at] for at in _longest_rise([line.old.order for line in lines if line.old is not None])}
        moved += [line for line in lines if line not in kept]
    return sorted(moved, key=lambda line: line.order)


def _longest_rise(numbers: Sequence[int]) -> list[int]:
    """The places of the longest run of numbers, with gaps, in which each is larger than the one before."""
    tails: list[int] = []
    at_tail: list[int] = []
    before: list[int | None] = []
    for at, number in enumerate(numbers):
        place = bisect_left(tails, number)
        before.append(at_tail[place - 1] if place else None)
        tails[place : place + 1] = [number]
        at_tail[place : place + 1] = [at]
    found: list[int] = []
    at_now = at_tail[-1] if at_tail else None
    while at_now is not None:
        found.append(at_now)
        at_now = before[at_now]
    return found[::-1]
