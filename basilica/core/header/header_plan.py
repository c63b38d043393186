"""The headers of a site: the one of most pages, and those of the pages that have another."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property
from types import MappingProxyType
from typing import TYPE_CHECKING

from basilica.core.header.breakpoints import bar_fits_from, row_fits_from
from basilica.core.header.header_end import end_selectors
from basilica.core.header.header_settings import Settings, Windows, layers_of, settle
from basilica.core.header.state_machine import Table, table_of
from basilica.core.language.sections.part_words import IDENTITY
from basilica.core.map.site.model import Header, Site

if TYPE_CHECKING:
    from basilica.core.navigation.menus import MenuPlan

NO_SLOTS: Mapping[str, Iterable[str]] = MappingProxyType({})
ROW = 44
"""The height of the row above the header where it stays, CSS px."""


@dataclass(frozen=True)
class BreakpointVariant:
    """What holds in a range of windows. ``row`` is the height of the row above the bar where that sticks as well, in
    CSS px, else 0."""

    windows: Windows
    settings: Settings
    row: int = 0

    @cached_property
    def table(self) -> Table:
        """What it does; empty where style alone does it."""
        return table_of(self.settings)


@dataclass(frozen=True)
class HeaderPlan:
    """One header of a site. ``name`` is empty for that of most pages; the ``cells`` together are all windows, narrow
    ones first; ``layers`` are what the map says, from the outside in."""

    name: str
    cells: tuple[BreakpointVariant, ...]
    layers: tuple[Header, ...] = field(compare=False)
    ends_at: tuple[str, ...] = ()
    """What pushes it out of the window, as CSS selectors; none where it ends with the page or its content."""

    @property
    def sticks(self) -> bool:
        """Whether it stays in some windows."""
        return any(cell.settings.sticks for cell in self.cells)

    @property
    def scripted(self) -> bool:
        """Whether it needs script."""
        return any(cell.table for cell in self.cells) or (self.sticks and bool(self.ends_at))

    def cell(self, width: float, height: float) -> BreakpointVariant:
        """What holds in a window of this size."""
        return next(cell for cell in self.cells if cell.windows.has(width, height))

    @property
    def settled(self) -> tuple[tuple[Windows, Settings], ...]:
        """The settings for each range of windows."""
        return tuple((cell.windows, cell.settings) for cell in self.cells)

    @property
    def plain(self) -> Settings:
        """The settings in the widest and highest windows."""
        return self.cells[-1].settings

    def place(self, *words: str) -> int:
        """The offset in the map of the innermost of some words (such as ``mobile.height``), or of the header."""
        for layer in reversed(self.layers):
            for word in words:
                if word in layer.places:
                    return layer.places[word]
        return next((layer.places[""] for layer in reversed(self.layers) if "" in layer.places), 0)


def plan_headers(
    site: Site, menus: Mapping[str, MenuPlan], beside: float = 0, in_slots: Mapping[str, Iterable[str]] = NO_SLOTS
) -> tuple[tuple[HeaderPlan, ...], Mapping[str, int]]:
    """The headers of a site, the one of most pages first; and for each page that has another, its place among them.
    ``beside`` is the width, CSS px, of what stands in the row above beside its menus; ``in_slots`` are the parts of
    each slot, on any page."""
    main = menus["main"]
    row = row_fits_from((menu for menu in menus.values() if menu.place == "utility"), site.theme, beside)

    labels = {name: menu.label for name, menu in menus.items()}
    ends = end_selectors(str(dict(site.header.own).get("until", "page")), site, in_slots, labels)
    identity = site.parts.get(IDENTITY)
    line = identity.value("line") if identity else ""

    def plan(name: str, layers: tuple[Header, ...]) -> HeaderPlan:
        cells = [
            BreakpointVariant(windows, settings)
            for windows, settings in settle(layers, site.theme.align, ROW if row else 0)
        ]
        if line and not cells[-1].settings.tagline:
            cells = [replace(cell, settings=replace(cell.settings, tagline=line)) for cell in cells]
        if row:
            cells = [part for cell in cells for part in _with_row(cell, row)]
        if main.entries and main.settings.fold == "never":
            # A menu of several lines is as high as they are, and would take the screen.
            fits = bar_fits_from(main, site, cells[-1].settings, in_slots.get("bar", ()))
            cells = [part for cell in cells for part in _static_below(cell, fits)]
        return HeaderPlan(name, tuple(cells), layers, ends)

    headers = [plan("", (site.header,))]
    which: dict[str, int] = {}
    known: dict[tuple[Header, ...], int] = {}
    for key, layers in layers_of(site).items():
        if layers not in known:
            made = plan(_name_of(key, {header.name for header in headers}), layers)
            same = next((i for i, header in enumerate(headers) if header.cells == made.cells), None)
            if same is None:
                headers.append(made)
            known[layers] = len(headers) - 1 if same is None else same
        if known[layers]:
            which[key] = known[layers]
    return tuple(headers), which


def _name_of(key: str, taken: Collection[str]) -> str:
    """What a header is called that begins on a page: as the page is, by the end of its key where that is enough."""
    name = key.rpartition("/")[2]
    return name if name not in taken else key.replace("/", "-")


def _parts(cell: BreakpointVariant, width: int) -> tuple[BreakpointVariant | None, BreakpointVariant | None]:
    """The narrower and the wider part of a cell, cut at a width; one of them may be missing."""
    windows = cell.windows
    if width <= windows.width_from:
        return None, cell
    if windows.width_below and width >= windows.width_below:
        return cell, None
    return (
        replace(cell, windows=replace(windows, width_below=width)),
        replace(cell, windows=replace(windows, width_from=width)),
    )


def _with_row(cell: BreakpointVariant, fits: int) -> list[BreakpointVariant]:
    if cell.settings.top_row == "scrolls" or not cell.settings.sticks:
        return [cell]
    below, above = _parts(cell, fits)
    # Where the row has no room it scrolls away; a fixed bar would lie over it.
    scrolls = replace(cell.settings, top_row="scrolls", layout="sticky")
    cells = [replace(below, settings=scrolls)] if below else []
    return [*cells, replace(above, row=ROW)] if above else cells


def _static_below(cell: BreakpointVariant, fits: int) -> list[BreakpointVariant]:
    if not cell.settings.sticks:
        return [cell]
    below, above = _parts(cell, fits)
    cells = [replace(below, settings=replace(below.settings, behaviour="static"), row=0)] if below else []
    return [*cells, above] if above else cells
