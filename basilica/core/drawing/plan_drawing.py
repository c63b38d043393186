"""The plan as a mason draws it: the main menu is the beam, pages hang from it, and what no menu holds stands apart.

Every page of the tree stands in the drawing once. A top-level page hangs below the entry or group of the main menu
that has it; deeper pages stand below their parent, indented. Where a menu puts a deeper page somewhere else, a tie
leads to it. Top-level pages of other menus stand in bays of their own, and pages in no menu in a last one.
"""

from __future__ import annotations

from collections.abc import Container
from dataclasses import dataclass
from functools import lru_cache
from typing import NamedTuple

from basilica.core.map.site import EntryKind
from basilica.core.plan import MenuPlan, Plan
from basilica.core.shared.text_metrics import text_width, wrap

MARGIN = 12
GAP = 6
COLUMN_LEAST, COLUMN_MOST = 58, 176
BAY_COLUMN = 124
"""Pages in bays have more room: there is nothing above them to stand in line with."""
BEAM_TOP, BEAM_HEIGHT = 24, 40
ROW_GAP = 4
HEIGHTS = (28, 28, 40, 54)
"""Height of a page by how many lines its label takes."""
INDENT, INDENTS = 7, 5
TEXT = 12.5
PAD, LINE = 5, 15
BAY_HEAD = 26
FOLD_SIGN = 14
"""Room for the sign that pages are under a page."""
FOLDED_FROM = 150
"""A site with more pages is drawn folded at first."""
BAY_ROWS = 8
"""A bay becomes wider, by a column, past so many rows."""


class Written(NamedTuple):
    """A text, and where its line begins (or ends, where it is set to the right)."""

    x: int
    y: int
    text: str


@dataclass(frozen=True, slots=True)
class Box:
    """A rectangle with lines of text in it."""

    x: int
    y: int
    width: int
    height: int
    lines: tuple[str, ...]
    label: str

    def _written(self, alone: int, first: int) -> tuple[Written, ...]:
        top = alone if len(self.lines) == 1 else first
        return tuple(Written(self.x + PAD, self.y + top + LINE * at, line) for at, line in enumerate(self.lines))


@dataclass(frozen=True, slots=True)
class Cell(Box):
    """A top-level entry of the main menu, on the beam."""

    number: int
    kind: EntryKind
    page: str | None

    @property
    def written(self) -> tuple[Written, ...]:
        """Its label, line by line."""
        return self._written(25, 17)

    @property
    def sign(self) -> str:
        """What tells an outside link and a group apart, as the ``d`` of a path; empty for others."""
        right = self.x + self.width - 12
        if self.kind == "outside":
            return f"M{right} {self.y + 15}l7-7m-5 0h5v5"
        return f"M{right} {self.y + 10}l3.5 3.5l3.5-3.5" if self.kind == "group" else ""

    @property
    def sign_text(self) -> Written | None:
        """The sign of an anchor."""
        return Written(self.x + self.width - 13, self.y + 14, "#") if self.kind == "anchor" else None

    @property
    def mark(self) -> str:
        """What is gold below it while it is current, as the ``d`` of a path."""
        return f"M{self.x} {self.y + self.height}h{self.width}v4h-{self.width}z"


@dataclass(frozen=True, slots=True)
class Node(Box):
    """A page. ``cell`` is the number of the beam's entry that is current, or leads to what is current, on that page."""

    key: str
    parent: str | None
    cell: int | None
    stem: tuple[int, int] | None
    """Where the line from what it hangs below begins; None where it stands free."""
    below: int = 0
    """How many pages are under it, at any depth."""
    folded: bool = False
    """Whether these are left out of the drawing."""
    kind: str = ""
    """`section`, `backend` or `draft`; empty for a plain page."""

    @property
    def written(self) -> tuple[Written, ...]:
        """Its label, line by line."""
        return self._written(18, 16)

    @property
    def stem_path(self) -> str:
        """The line from what it hangs below, as the ``d`` of a path; empty where it stands free."""
        return f"M{self.stem[0]} {self.stem[1]}V{self.y + self.height // 2}H{self.x}" if self.stem else ""

    @property
    def fold(self) -> str:
        """What shows that pages are folded under it, as the ``d`` of a path."""
        return f"M{self.x + 4} {self.y + self.height}h{self.width - 8}v3h-{self.width - 8}z"

    @property
    def count(self) -> Written:
        """How many pages are folded under it; its place is where the text ends."""
        return Written(self.x + self.width - 4, self.y + 12, str(self.below))

    @property
    def mark(self) -> str:
        """What is gold at its corner while it is chosen, as the ``d`` of a path."""
        return f"M{self.x + self.width} {self.y}h-9l9 9z"


@dataclass(frozen=True, slots=True)
class Connector:
    """A thin line from the beam to a page that a menu puts somewhere else than the tree."""

    x1: int
    y1: int
    x2: int
    y2: int
    key: str

    @property
    def path(self) -> str:
        """The line, as the ``d`` of a path."""
        return f"M{self.x1} {self.y1}C{self.x1} {self.y1 + 30} {self.x2 + 30} {self.y2} {self.x2} {self.y2}"


@dataclass(frozen=True, slots=True)
class MenuColumn:
    """The ground on which the top-level pages of one menu, or of none, stand."""

    x: int
    y: int
    width: int
    height: int
    label: str
    apart: bool

    @property
    def name(self) -> Written:
        """Its label."""
        return Written(self.x + 7, self.y + 18, self.label)


@dataclass(frozen=True, slots=True)
class Drawing:
    """The whole drawing."""

    width: int
    height: int
    cells: tuple[Cell, ...]
    nodes: tuple[Node, ...]
    connectors: tuple[Connector, ...]
    menu_columns: tuple[MenuColumn, ...]

    @property
    def beam_width(self) -> int:
        """How wide the ground of the main menu is, from 6 px on."""
        return self.width - 12


def draw(plan: Plan, width: int = 640, folded: Container[str] = ()) -> Drawing:
    """Lay a plan out for a view ``width`` px wide. The drawing is wider where columns would become too narrow. What
    is under a page in ``folded`` is left out."""
    return _PlanLayout(plan, width, folded).drawing()


def folds(plan: Plan, turned: Container[str] = (), chosen: str | None = None) -> frozenset[str]:
    """The pages that are folded: in a large site all that have pages under them, in a small one none, but for those
    that were ``turned``; never one above the chosen page."""
    large = len(plan.site.pages) > FOLDED_FROM
    above = plan.site.ancestors(chosen) if chosen is not None and chosen in plan.site.pages else ()
    return frozenset(
        key for key, page in plan.site.pages.items() if page.children and (key in turned) != large and key not in above
    )


class _PlanLayout:
    def __init__(self, plan: Plan, width: int, folded: Container[str]) -> None:
        self.folded = folded
        self.below: dict[str, int] = {}
        for key, page in reversed(list(plan.site.pages.items())):
            self.below[key] = sum([1 + self.below[child] for child in page.children]) if page.children else 0
        self.plan = plan
        self.site = plan.site
        self.main = plan.menus["main"]
        self.widths = self._widths(width)
        self.width = max(width, 2 * MARGIN + sum(self.widths) + (len(self.widths) - 1) * GAP)
        self.nodes: list[Node] = []
        self.placed: set[str] = set()
        self.columns: dict[str, int] = {}
        self.tops = {number: self._top_of(self.main, number) for number in range(len(self.main.entries))}

    def _widths(self, width: int) -> list[int]:
        """The width of each column: what its words need, and of what is left over in the view an equal share. Where one
        must scroll far anyway, each label has one line, as far as that is no wider than in bays."""
        needs = [self._needed(number) for number in self.main.top] or [COLUMN_LEAST]
        spare = width - 2 * MARGIN - sum(needs) - (len(needs) - 1) * GAP
        if self.main.top and spare < -width / 4:
            on_one = (min(BAY_COLUMN, self._needed(number, on_one=True)) for number in self.main.top)
            return [*map(max, needs, on_one)]
        growing = len(needs)
        widths = [*needs]
        for place in sorted(range(len(needs)), key=lambda place: -needs[place]):  # those that can grow least come first
            more = max(0, min(COLUMN_MOST - needs[place], spare // growing))
            widths[place] += more
            spare -= more
            growing -= 1
        return widths

    def _needed(self, number: int, on_one: bool = False) -> int:
        """The width in which every label of a column stands on its lines, or on one alone."""
        entry = self.main.entries[number]
        needed = _room_for(entry.label, 1 if on_one else 2) + (0 if entry.kind is EntryKind.PAGE else 10)
        waiting = self._hanging(number)
        while waiting and needed < COLUMN_MOST:
            page = self.site.pages[key := waiting.pop()]
            folded = key in self.folded and bool(page.children)
            inset = min(page.depth, INDENTS) * INDENT + (FOLD_SIGN if folded else 0)
            needed = max(needed, _room_for(page.label, 1 if on_one else 3) + inset)
            waiting += () if folded else page.children
        return max(COLUMN_LEAST, min(COLUMN_MOST, needed))

    @staticmethod
    def _top_of(menu: MenuPlan, number: int) -> int:
        above = menu.above(number)
        return above[0] if above else number

    def drawing(self) -> Drawing:
        cells = tuple(self._cell(position, number) for position, number in enumerate(self.main.top))
        below = BEAM_TOP + BEAM_HEIGHT
        floor = below
        for cell in cells:
            y = below + 16
            for key in self._hanging(cell.number):
                if key in self.placed:
                    continue  # it stands in the menu twice
                y = self._tree(key, cell.x, y, cell.width, (cell.x + 4, below))
            floor = max(floor, y)
        menu_columns, bottom = self._menu_columns(floor + 16)
        return Drawing(self.width, bottom + MARGIN, cells, tuple(self.nodes), self._connectors(cells), menu_columns)

    def _cell(self, position: int, number: int) -> Cell:
        entry = self.main.entries[number]
        sign = 0 if entry.kind is EntryKind.PAGE else 10
        width = self.widths[position]
        lines = wrap(entry.label, width - 2 * PAD - sign, TEXT, 2)
        x = MARGIN + sum(self.widths[:position]) + position * GAP
        return Cell(x, BEAM_TOP, width, BEAM_HEIGHT, lines, entry.label, number, entry.kind, entry.page)

    def _hanging(self, number: int) -> list[str]:
        """The top-level pages that stand in the menu at or below an entry of the beam, in the menu's order."""
        entry = self.main.entries[number]
        found = []
        if entry.kind is EntryKind.PAGE and entry.page is not None and self.site.pages[entry.page].parent is None:
            found.append(entry.page)
        for item in entry.items:
            found.extend(self._hanging(item))
        return found

    def _tree(self, key: str, x: int, y: int, room: int, stem: tuple[int, int] | None) -> int:
        """Place a page and those under it from ``y`` down in a column ``room`` wide; returns the next free ``y``."""
        page = self.site.pages[key]
        self.placed.add(key)
        self.columns[key] = x
        folded = key in self.folded and bool(page.children)
        inset = min(page.depth, INDENTS) * INDENT
        width = room - inset
        lines = wrap(page.label, width - 2 * PAD - (FOLD_SIGN if folded else 0), TEXT, 3)
        height = HEIGHTS[len(lines)]
        mark = self.main.mark(self.site, key)
        cell = self.tops[mark.entry] if mark else None
        self.nodes.append(
            Node(
                *(x + inset, y, width, height, lines, page.label, key, page.parent, cell, stem, self.below[key]),
                folded=folded,
                kind="draft" if key in self.plan.drafts else page.options.kind if page.options.kind != "page" else "",
            )
        )
        foot = (x + inset + 4, y + height)
        y += height + ROW_GAP
        for child in () if folded else page.children:
            y = self._tree(child, x, y, room, foot)
        return y

    def _menu_columns(self, top: int) -> tuple[tuple[MenuColumn, ...], int]:
        """A bay for each other menu with top-level pages that do not hang from the beam, and one for the rest."""
        groups: list[tuple[str, list[str], bool]] = []
        for name, menu in self.plan.menus.items():
            if name != "main":
                keys = [key for key in menu.page_entries if self.site.pages[key].parent is None]
                groups.append((f"{menu.label} menu", [key for key in keys if key not in self.placed], False))
                self.placed.update(keys)
        groups.append(("In no menu", [key for key in self.site.top if key not in self.placed], True))
        menu_columns: list[MenuColumn] = []
        x, y, low = MARGIN, top, top
        for label, keys, apart in groups:
            if not keys:
                continue
            most = max(1, (self.width - 2 * MARGIN + GAP) // (BAY_COLUMN + GAP))
            columns = min(most, -(-sum(self._rows(key) for key in keys) // BAY_ROWS))
            wide = columns * (BAY_COLUMN + GAP) + GAP
            if x > MARGIN and x + wide > self.width:
                x, y = MARGIN, low + GAP
            bottom = self._fill(keys, columns, x + GAP, y + BAY_HEAD)
            menu_columns.append(MenuColumn(x, y, wide, bottom - y, label, apart))
            x += wide + GAP
            low = max(low, bottom)
        return tuple(menu_columns), low

    def _rows(self, key: str) -> int:
        if key in self.folded:
            return 1
        return 1 + sum(self._rows(child) for child in self.site.pages[key].children)

    def _fill(self, keys: list[str], columns: int, left: int, top: int) -> int:
        """Stand pages in so many columns of about the same height; returns where the lowest ends."""
        share = -(-sum(self._rows(key) for key in keys) // columns)
        x, y, rows, low = left, top, 0, top
        for key in keys:
            if rows >= share:
                x, y, rows = x + BAY_COLUMN + GAP, top, 0
            y = self._tree(key, x, y, BAY_COLUMN, None)
            rows += self._rows(key)
            low = max(low, y)
        return low + GAP

    def _connectors(self, cells: tuple[Cell, ...]) -> tuple[Connector, ...]:
        """Ties to deeper pages that stand in the main menu elsewhere than below their own parent's entry."""
        where = {node.key: node for node in self.nodes}
        column = {cell.number: cell for cell in cells}
        connectors = []
        for key, (number, *_) in self.main.page_entries.items():
            node = where.get(key)
            if node is None:
                continue  # it is folded away
            cell = column[self.tops[number]]
            if self.site.pages[key].parent is None or self.columns[key] == cell.x:
                continue
            x = cell.x + cell.width // 2
            connectors.append(Connector(x, cell.y + cell.height, node.x + node.width, node.y + node.height // 2, key))
        return tuple(connectors)


@lru_cache(maxsize=8192)
def _room_for(label: str, lines: int) -> int:
    """The least width of a box that holds a label whole in so many lines, or the most that a column has."""
    words = label[:400].split()
    room = max((text_width(word, TEXT) for word in words), default=0)
    while room < COLUMN_MOST and " ".join(wrap(label, room, TEXT, lines)) != " ".join(words):
        room += 6
    return round(room) + 2 * PAD + 1
