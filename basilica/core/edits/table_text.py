"""The text of a table, in which a cell is written or a row removed; every other byte stays as it is."""

from __future__ import annotations

import csv
import io
import json
import re
from typing import Any, NamedTuple

from basilica.core.edits.source_patcher import NotHere
from basilica.core.map.site.table_reader import delimiter_of

_BOM = "\ufeff"
_SPACE = re.compile(r"[ \t\r\n]*")


class _Span(NamedTuple):
    """Where something is: from ``start`` to before ``end``, in characters."""

    start: int
    end: int


class TableText:
    """A table named ``name``, with its rows numbered from 1. Raises ``NotHere`` for one that cannot be read, and for a
    row or a column that it does not have."""

    def __init__(self, name: str, data: bytes) -> None:
        self._is_json = name.endswith(".json")
        try:
            text = data.decode()
        except UnicodeDecodeError as error:
            raise NotHere from error
        self._mark, self._text = (_BOM, text[1:]) if text.startswith(_BOM) else ("", text)

    @property
    def data(self) -> bytes:
        """The bytes of the table."""
        return (self._mark + self._text).encode()

    def set_cell(self, number: int, column: str, value: str) -> None:
        """Write the cell of a column, in the row of a number."""
        if self._is_json:
            self._set_member(number, column, value)
            return
        delimiter, (names, *rows) = delimiter_of(self._text), _records(self._text)
        at = [index for index, span in enumerate(names) if " ".join(_cell(self._text, span).split()) == column]
        if not at or not 0 < number <= len(rows):
            raise NotHere
        cells, index = rows[number - 1], at[-1]  # of two columns by one name the last is read
        if index < len(cells):
            span = cells[index]
            quoted = self._text.startswith('"', span.start)
            self._replace(span, _quoted(value, delimiter, quoted))
        else:
            missing = delimiter * (index - len(cells) + 1)
            self._replace(_Span(cells[-1].end, cells[-1].end), missing + _quoted(value, delimiter, False))

    def cut_row(self, number: int) -> None:
        """Remove the row of a number, with its line."""
        if self._is_json:
            items = _items(self._text)
            if not 0 < number <= len(items):
                raise NotHere
            if number > 1:  # with the comma before it
                self._replace(_Span(items[number - 2].end, items[number - 1].end), "")
            else:
                end = items[1].start if len(items) > 1 else items[0].end
                self._replace(_Span(items[0].start, end), "")
            return
        rows = _records(self._text)[1:]
        if not 0 < number <= len(rows):
            raise NotHere
        start, end = rows[number - 1][0].start, rows[number - 1][-1].end
        line_end = re.compile(r"\r\n|\n|\r|\Z").match(self._text, end)
        assert line_end is not None
        if line_end[0] or not start:
            self._replace(_Span(start, line_end.end()), "")
            return
        before = re.compile(r"(?:\r\n|\n|\r)\Z").search(self._text, 0, start)  # the last line has no end of its own
        self._replace(_Span(before.start() if before else start, end), "")

    def _set_member(self, number: int, column: str, value: str) -> None:
        items = _items(self._text)
        if not 0 < number <= len(items):
            raise NotHere
        members = _members(self._text, items[number - 1].start)
        found = [span for name, span in members if name == column]
        written = json.dumps(value, ensure_ascii=False)
        if found:
            old = json.loads(self._text[found[-1].start : found[-1].end])
            if isinstance(old, dict | list):
                raise NotHere  # no cell can say this
            is_number = isinstance(old, int | float) and not isinstance(old, bool)
            self._replace(found[-1], value if is_number and _is_number(value) else written)
        elif members:
            end = members[-1][1].end
            self._replace(_Span(end, end), f", {json.dumps(column, ensure_ascii=False)}: {written}")
        else:
            at = items[number - 1].start + 1
            self._replace(_Span(at, at), f"{json.dumps(column, ensure_ascii=False)}: {written}")

    def _replace(self, span: _Span, text: str) -> None:
        self._text = self._text[: span.start] + text + self._text[span.end :]


def _is_number(text: str) -> bool:
    try:
        return str(json.loads(text)) == text and not isinstance(json.loads(text), bool | str)
    except ValueError:
        return False


# Comma-separated values, as RFC 4180 has them


def _records(text: str) -> list[list[_Span]]:
    """The places of the cells of each row that says anything, the names of the columns first."""
    delimiter, at, found = delimiter_of(text), 0, []
    ends = re.compile(rf"{re.escape(delimiter)}|\r\n|\n|\r|\Z")
    cells: list[_Span] = []
    while at <= len(text):
        start = at
        if text.startswith('"', at):
            at += 1
            while not (text.startswith('"', at) and not text.startswith('""', at)):
                at += 2 if text.startswith('""', at) else 1
                if at >= len(text):
                    raise NotHere
            at += 1
        end = ends.search(text, at)
        assert end is not None
        cells.append(_Span(start, end.start()))
        at = end.end()
        if end[0] != delimiter:
            if any(_cell(text, span).strip() for span in cells):
                found.append(cells)
            cells = []
            if not end[0]:
                break
    if not found:
        raise NotHere
    return found


def _cell(text: str, span: _Span) -> str:
    """What a cell says."""
    written = text[span.start : span.end]
    if not written.startswith('"'):
        return written
    return next(csv.reader(io.StringIO(written, newline=""), strict=True))[0]


def _quoted(value: str, delimiter: str, quoted: bool) -> str:
    """A cell as it is written: in quotes where it had them, or needs them."""
    needs = quoted or any(character in value for character in (delimiter, '"', "\r", "\n"))
    return '"' + value.replace('"', '""') + '"' if needs else value


# JSON, as RFC 8259 has it


def _space(text: str, at: int) -> int:
    found = _SPACE.match(text, at)
    assert found is not None
    return found.end()


def _value(text: str, at: int) -> tuple[Any, int]:
    """The value at a place, and where it ends."""
    try:
        return json.JSONDecoder().raw_decode(text, at)
    except (ValueError, RecursionError) as error:
        raise NotHere from error


def _items(text: str) -> list[_Span]:
    """The places of the rows."""
    at, found = _space(text, _space(text, 0) + 1), []
    while not text.startswith("]", at):
        _, end = _value(text, at)
        found.append(_Span(at, end))
        at = _space(text, end)
        if text.startswith(",", at):
            at = _space(text, at + 1)
        elif at >= len(text):
            raise NotHere
    return found


def _members(text: str, at: int) -> list[tuple[str, _Span]]:
    """The names and the places of the values of the row that begins at ``at``."""
    at, found = _space(text, at + 1), []
    while not text.startswith("}", at):
        name, end = _value(text, at)
        at = _space(text, _space(text, end) + 1)
        _, end = _value(text, at)
        found.append((name, _Span(at, end)))
        at = _space(text, end)
        if text.startswith(",", at):
            at = _space(text, at + 1)
    return found
