"""Rows of tables: what a page says in one cell is written there, and a page that is deleted takes its row along."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping
from itertools import accumulate

from basilica.core.edits.source_patcher import NotHere
from basilica.core.edits.table_text import TableText
from basilica.core.map.map_files import Files
from basilica.core.map.site import Site
from basilica.core.map.site.model import RowPlace
from basilica.core.map.site.table_reader import Row, column_of, rows_of
from basilica.core.map.site.written_place import table_of, written_elsewhere


class RowEditor:
    """Changes the tables among the ``files`` of a map: their text, and apart from it their rows, so that both can be
    held against each other. Raises ``NotHere`` for what is not in a cell of its own."""

    def __init__(self, files: Files) -> None:
        self._files = files
        self._texts: dict[str, TableText] = {}
        self._rows: dict[str, list[Row | None]] = {}
        """By table the rows by number, less one; None where it was removed."""

    @property
    def has_changes(self) -> bool:
        """Whether a table is another now."""
        return bool(self._texts)

    def set_word(self, site: Site, key: str, word: str, value: str) -> str:
        """Write a word of a row's page into its cell. Return why that was refused, without full stop; empty where it
        was done."""
        place, column = written_elsewhere(site, key), column_of(table_of(site, key).patterns, word)
        if place is None or word not in place.words or column is None:
            raise NotHere
        if word == "title" and not value:
            return f"Row {place.row} of the table {place.file} needs a title"
        if not value.startswith(column.before) or not value[len(column.before) :].endswith(column.after):
            pattern = f"{column.before}{{{column.name}}}{column.after}"
            return f"In the table {place.file} the {word} is `{pattern}`, which `{value[:80]}` does not fit"
        row = self._open(place.file)[place.row - 1]
        if row is None:
            raise NotHere
        name = column.name or next(name for name, cell in row.items() if cell)
        cell = value[len(column.before) : len(value) - len(column.after)]
        row[name] = cell.strip()
        self._texts[place.file].set_cell(self._number(place.file, place.row), name, row[name])
        return ""

    def cut(self, site: Site, key: str) -> None:
        """Remove the row of a page."""
        place = written_elsewhere(site, key)
        if place is None or not place.words:
            raise NotHere
        rows = self._open(place.file)
        self._texts[place.file].cut_row(self._number(place.file, place.row))
        rows[place.row - 1] = None

    def changed_files(self) -> dict[str, bytes]:
        """The tables that are others now, by name."""
        return {name: table.data for name, table in self._texts.items() if table.data != self._files[name]}

    def agrees(self, files: Files) -> bool:
        """Whether the tables among ``files`` have every cell of every row as it should be."""
        return all(
            [_said(row.cells) for row in rows_of(files, name)[0]] == [_said(row) for row in rows if row is not None]
            for name, rows in self._rows.items()
        )

    def keys(self, before: Mapping[str, RowPlace], after: Mapping[str, RowPlace]) -> dict[str, str]:
        """By the key of a row's page the one that it has once the tables are read again; without those that are gone.
        A table that makes pages at several places is not changed here, so that a row is one page."""
        now: defaultdict[tuple[str, int], list[str]] = defaultdict(list)
        for key, (file, number, _) in after.items():
            now[file, number].append(key)
        numbers = {name: [*accumulate(row is not None for row in rows)] for name, rows in self._rows.items()}
        found = {}
        for key, (file, number, _) in before.items():
            rows = self._rows.get(file)
            if rows is not None and rows[number - 1] is None:
                continue
            there = now[file, numbers[file][number - 1] if rows is not None else number]
            if there:
                found[key] = there.pop(0)
        return found

    def _open(self, name: str) -> list[Row | None]:
        if name not in self._texts:
            if name not in self._files:
                raise NotHere
            self._texts[name] = TableText(name, self._files[name])
            self._rows[name] = [dict(row.cells) for row in rows_of(self._files, name)[0]]
        return self._rows[name]

    def _number(self, name: str, number: int) -> int:
        """The number that a row has now."""
        gone = self._rows.get(name, ())[: number - 1]
        return number - sum(row is None for row in gone)


def _said(row: Row) -> Row:
    """The cells in which something is: a short row has none at its end."""
    return {name: cell for name, cell in row.items() if cell}
