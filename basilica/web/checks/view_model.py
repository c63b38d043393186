"""What is behind a tile of the mosaic, a whole column of it, or a page: as values, for whatever shows them."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from selectolax.lexbor import LexborHTMLParser

from basilica.core.diff.line_differences import DiffLine, differences
from basilica.core.drawing import Drawing
from basilica.core.findings import Check, CheckResults, Violation
from basilica.core.findings.check import nav_named
from basilica.core.findings.mosaic import Column, Mosaic, MosaicRow, State
from basilica.core.findings.on_site.heavy import weight_of
from basilica.core.language.sections.part_words import MENU_PART
from basilica.core.outputs.static_site import Renderer
from basilica.core.plan import Plan
from basilica.core.plan.content_links import Body
from basilica.core.rules.rule import Level

_PIECE = 20_000
"""Characters of a piece of HTML that are shown."""

Spot = tuple[str, int]
"""A CSS selector, and the how-manieth that it meets, from 0."""


@dataclass(frozen=True, slots=True)
class Fault:
    """One thing that is off at a tile. ``file`` is empty for the map; ``here`` and ``wanted`` are pieces of HTML, and
    ``lines`` are the two held against each other."""

    check: Check
    level: Level
    reason: str
    message: str
    remedy: str
    file: str
    line: int
    column: int
    spot: Spot | None
    here: str
    wanted: str
    lines: tuple[DiffLine, ...]


@dataclass(frozen=True, slots=True)
class Tile:
    """What is behind a tile: the state, what is off, and what stands there."""

    row: MosaicRow
    column: Column
    state: State
    faults: tuple[Fault, ...]
    piece: str
    spot: Spot | None


@dataclass(frozen=True, slots=True)
class Ways:
    """How one gets to a page: the shortest way from home, by rows and both ends in it, and the pages that have links to
    it and those to which it has links."""

    clicks: int | None
    way: tuple[MosaicRow, ...]
    linked_from: tuple[MosaicRow, ...]
    leads_to: tuple[MosaicRow, ...]
    weight: int
    """Bytes of what the page shares with others: menus, header, footer, styles and scripts."""


def tile(mosaic: Mosaic, files: Mapping[str, bytes], row: MosaicRow, column: Column, renderer: Renderer | None) -> Tile:
    """A tile. ``files`` are those that were read; ``renderer`` says what was expected, where there is a map."""
    data = files.get(row.file, b"")
    spot, found_in = _spot_of(mosaic, row, column), mosaic.found_in(column.name)

    def there(violation: Violation) -> bytes:
        return files.get(violation.page.file, b"") if violation.page is not None else data

    faults = tuple(
        _fault(mosaic, found_in, check, violation, there(violation), column, row, renderer)
        for check, violation in mosaic.at(row.name, column.name)
    )
    return Tile(row, column, mosaic.state(row, column.name), faults, piece_at(data, spot) if spot else "", spot)


def source_line(text: str, fault: Fault) -> str:
    """The line of the map from which something comes; empty where it is another file's."""
    lines = text.splitlines()
    return lines[fault.line - 1].strip()[:300] if not fault.file and 0 < fault.line <= len(lines) else ""


def of_site(mosaic: Mosaic) -> tuple[Fault, ...]:
    """What belongs to no single page."""
    return tuple(
        _fault(mosaic, found_in, check, violation, b"", None, None, None)
        for found_in, check, violation in mosaic.of_site
    )


def ways(mosaic: Mosaic, row: MosaicRow) -> Ways:
    """How one gets to a page, and where it leads."""
    built = mosaic.results.built
    by_file = {each.file: each for each in mosaic.rows if each.file}

    def rows(files: tuple[str, ...]) -> tuple[MosaicRow, ...]:
        return tuple(by_file[file] for file in files if file in by_file)

    way = built.way_to(row.file)
    leads = built.leads_to(row.file)
    return Ways(
        len(way) - 1 if way else None,
        rows(way),
        rows(built.linked_from(row.file)),
        tuple(each for each in mosaic.rows if each.file in leads),
        weight_of(built, built.by_file[row.file]) if row.file in built.by_file else 0,
    )


def piece_at(data: bytes, spot: Spot) -> str:
    """The HTML at a place of a page; empty where there is nothing."""
    if not data:
        return ""
    selector, number = spot
    found = LexborHTMLParser(data).css(selector)
    html = found[number].html if number < len(found) else None
    return (html or "")[:_PIECE]


def silencing(plan: Plan | None, row: MosaicRow | None, check: Check) -> str:
    """The text of the map that lets a check be, on one page or on the whole site."""
    if plan is not None and row is not None and row.name in plan.site.pages:
        return f'{plan.site.pages[row.name].id}:\n  ignore:\n    {check.code}: "the reason"\n'
    return f'checks:\n  levels:\n    {check.code}:\n      level: ignore\n      reason: "the reason"\n'


def _spot_of(mosaic: Mosaic, row: MosaicRow, column: Column) -> Spot | None:
    """Where a shared part stands on a page."""
    plan = mosaic.results.built.plan
    if plan is None or not column.is_part or mosaic.state(row, column.name) is State.ABSENT:
        return None
    if column.name.startswith(MENU_PART):
        name = plan.menus[column.name.removeprefix(MENU_PART)].label
    elif column.name == "breadcrumbs":
        name = plan.site.phrases["breadcrumb"]
    elif column.language:
        return None
    else:
        return column.name, 0
    return nav_named(name)


def _fault(
    mosaic: Mosaic,
    found_in: CheckResults,
    check: Check,
    violation: Violation,
    data: bytes,
    column: Column | None,
    row: MosaicRow | None,
    renderer: Renderer | None,
) -> Fault:
    finding = found_in.finding(check, violation)
    here = piece_at(data, violation.spot) if violation.spot is not None else ""
    wanted = ""
    if column is not None and row is not None and column.is_part and renderer is not None:
        part = _spot_of(mosaic, row, column)
        here = here or (piece_at(data, part) if part is not None else "")
        wanted = _expected(renderer, row, part)
    lines = differences(here, wanted) if here and wanted else ()
    return Fault(
        check,
        finding.level,
        finding.reason,
        finding.message,
        finding.remedy,
        finding.file,
        finding.line,
        finding.column,
        violation.spot,
        here,
        wanted,
        lines,
    )


def _expected(renderer: Renderer, row: MosaicRow, spot: Spot | None) -> str:
    """A shared part as the map makes it, on the page without its own text, which could break it."""
    if spot is None or row.name not in renderer.pages:
        return ""
    return piece_at(renderer.page(row.name, Body("", False)), spot)


def stops_of(rows: tuple[MosaicRow, ...], drawing: Drawing) -> tuple[tuple[float, float], ...]:
    """Where the pages of a way stand on the plan, without those that it folds away."""
    boxes = {cell.page: cell for cell in drawing.cells} | {node.key: node for node in drawing.nodes}
    found = (boxes.get(row.name) for row in rows)
    return tuple((box.x + box.width / 2, box.y + box.height / 2) for box in found if box is not None)
