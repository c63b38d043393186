"""A table of comma-separated values (RFC 4180) ↔ items. Its first line names the columns, in any order."""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Iterable, Iterator
from dataclasses import replace

from basilica.core.exchange import list_rules
from basilica.core.exchange.list_items import Item, ItemKind, ListLine, with_depth
from basilica.core.exchange.list_reader import items_of
from basilica.core.map.document import document_rules
from basilica.core.rules import limits
from basilica.core.rules.finding import Finding, Findings
from basilica.core.rules.place import START, Place

_FORMULA = re.compile(r"'*[=+@\t\r-]")
"""What programs for tables take for the beginning of a formula, behind apostrophes too."""
COLUMNS = ("level", "label", "kind", "address")
_ALSO = {"title": "label", "name": "label", "page": "label", "url": "address", "path": "address", "depth": "level"}


def read_table(text: str) -> tuple[tuple[Item, ...], tuple[Finding, ...]]:
    """The items of a table, and what could not be taken of it, by line.

    ``label`` is needed; ``level`` counts from 1, or ``parent`` names the label that a row stands under; ``kind`` is
    page, group, link, entry, menu or apart, and is seen from the rest where it is left out.
    """
    findings = Findings()
    if len(text) > limits.TEXT_BYTES:
        findings.add(
            document_rules.TOO_LARGE,
            START,
            f"The table has more than {limits.TEXT_BYTES:,} characters.",
            "Shorten it.",
        )
        return (), findings.done()
    first = text.lstrip("\ufeff").lstrip("\r\n").partition("\n")[0]
    delimiter = max(",;\t", key=first.count)
    reader = csv.reader(io.StringIO(text.lstrip("\ufeff"), newline=""), delimiter=delimiter)
    try:
        rows = [(reader.line_num, row) for row in reader if any(cell.strip() for cell in row)]
    except csv.Error as error:
        findings.add(
            list_rules.LIST_LINE, Place(reader.line_num, 1), f"The table cannot be read: {error}.", "Fix its quotes."
        )
        return (), findings.done()
    if not rows:
        return (), findings.done()
    names = [" ".join(cell.split()).casefold() for cell in rows[0][1]]
    columns = {_ALSO.get(name, name): index for index, name in reversed(list(enumerate(names)))}
    if "label" not in columns:
        message = "No column is called `label`."
        findings.add(list_rules.LIST_LINE, START, message, f"Name the columns in the first line: {', '.join(COLUMNS)}.")
        return (), findings.done()
    lines: list[ListLine] = []
    first_at: dict[str, int] = {}
    under: dict[int, list[int]] = {}
    for number, row in rows[1 : limits.PAGES + 1]:
        line, parent = _line(number, row, columns, findings)
        if parent and parent.casefold() not in first_at:
            message = f"There is no row `{parent[:60]}` above this one."
            findings.add(list_rules.LIST_LINE, Place(number, 1), message, "Put the row of the parent first.")
        under.setdefault(first_at.get(parent.casefold(), -1), []).append(len(lines))
        first_at.setdefault(line.label.casefold(), len(lines))
        lines.append(line)
    if "level" not in columns:
        lines = list(_placed(lines, under, -1, 1))
    return items_of(lines, findings), findings.done()


def _placed(lines: list[ListLine], under: dict[int, list[int]], parent: int, level: int) -> Iterator[ListLine]:
    """Rows that name their parents, in the order in which they stand below these."""
    for index in under.get(parent, ()):
        yield replace(lines[index], indent=level)
        yield from _placed(lines, under, index, min(level + 1, limits.LEVELS + 1))


def _line(number: int, row: list[str], columns: dict[str, int], findings: Findings) -> tuple[ListLine, str]:
    """A row as a line, and the label of the row that it says it stands under."""

    def cell(name: str) -> str:
        index = columns.get(name)
        return " ".join(row[index].split()) if index is not None and index < len(row) else ""

    level, kind = cell("level"), cell("kind").casefold()
    indent = 1
    if level:
        indent = int(level) if level.isascii() and level.isdigit() and len(level) < 4 else 1
        if str(indent) != level.lstrip("0"):
            findings.add(
                list_rules.LIST_LINE, Place(number, 1), f"`{level[:20]}` is not a level.", "Write 1, 2, 3 and so on."
            )
    known = ItemKind(kind) if kind in tuple(ItemKind) else None
    if kind and known is None:
        message = f"`{kind[:20]}` is not a kind."
        findings.add(
            list_rules.LIST_LINE, Place(number, 1), message, f"Write one of {', '.join(ItemKind)}, or leave it empty."
        )
    label, address, parent = (_plain(cell(name)) for name in ("label", "address", "parent"))
    return ListLine(number, indent, label, address or None, known), parent


def write_table(items: Iterable[Item]) -> str:
    """Items as a table. Reading it gives the same items."""
    target = io.StringIO()
    writer = csv.writer(target)
    writer.writerow(COLUMNS)
    for item, depth in with_depth(items):
        writer.writerow((depth + 1, _inert(item.label), item.kind, _inert(item.address or "")))
    return target.getvalue()


def _inert(text: str) -> str:
    """A cell that no program for tables takes for a formula: an apostrophe stands before it, as is common practice."""
    return f"'{text}" if _FORMULA.match(text) else text


def _plain(text: str) -> str:
    """The same without that apostrophe."""
    return text[1:] if text.startswith("'") and _FORMULA.match(text) else text


def looks_like_table(text: str) -> bool:
    """Whether a text is a table, as its first line tells: several columns, one of them for the label."""
    first = text.lstrip("\ufeff\r\n ").partition("\n")[0].casefold()
    names = {cell.strip(' "\r') for cell in first.replace(";", ",").replace("\t", ",").split(",")}
    return len(names) > 1 and any(_ALSO.get(name, name) == "label" for name in names)
