"""Tables of data: one page for each row of a file, with sections where these are asked for."""

from __future__ import annotations

import csv
import html
import io
import json
import re
import typing
from collections import Counter
from dataclasses import dataclass, field, replace
from functools import lru_cache
from typing import NamedTuple

from basilica.core.language.sections.page_words import TABLE
from basilica.core.map.document import Node, Scalar
from basilica.core.map.map_files import Files
from basilica.core.map.site import site_rules
from basilica.core.map.site.field_reader import UNSEEN, Context, keys_of, prose_of, text_of
from basilica.core.map.site.ids import id_from
from basilica.core.map.site.model import Page, PageOptions, RowPlace, TableSource
from basilica.core.map.site.part_reader import Names
from basilica.core.map.site.shared_values import PageExtras
from basilica.core.rules import limits
from basilica.core.shared.markdown import Content

Row = dict[str, str]

COLUMN = re.compile(r"\{([^{}\n]{1,60})\}")
"""The name of a column in a pattern, in whose place its cell stands."""
LETTER = "letter"
"""In place of columns: a section for each first letter of a title."""


class NumberedRow(NamedTuple):
    """The cells of a row by column; its ``number``, from 1 and without the names of the columns; and the ``line`` on
    which it begins, from 1 (0 where the file is not one of lines)."""

    cells: Row
    number: int
    line: int


@dataclass(slots=True)
class TableResult:
    """What a table makes: pages in map order, their texts and the places of their rows by key. ``top`` are the keys
    right below its page, and ``source`` is what the map says of the table; None where it makes nothing."""

    source: TableSource | None = None
    pages: dict[str, Page] = field(default_factory=dict)
    texts: dict[str, Content] = field(default_factory=dict)
    rows: dict[str, RowPlace] = field(default_factory=dict)
    top: list[str] = field(default_factory=list)


@lru_cache(maxsize=16)
def rows_of(files: Files, name: str) -> tuple[tuple[NumberedRow, ...], str]:
    """The rows of a table, and why it cannot be read (empty where it can)."""
    text = files.text(name)
    if not files.is_text(name):
        return (), "it is not UTF-8"
    if name.endswith(".json"):
        return _json_rows(text)
    try:
        reader = csv.reader(io.StringIO(text, newline=""), delimiter=delimiter_of(text), strict=True)
        begins, lines = 1, []
        for cells in reader:
            if any(cell.strip() for cell in cells):
                lines.append((cells, begins))
            begins = reader.line_num + 1
    except csv.Error as error:
        return (), f"line {reader.line_num}: {error}"
    if not lines:
        return (), "it is empty"
    names = [" ".join(cell.split()) for cell in lines[0][0]]
    return tuple(
        NumberedRow(dict(zip(names, (cell.strip() for cell in cells), strict=False)), number, line)
        for number, (cells, line) in enumerate(lines[1:], 1)
    ), ""


def delimiter_of(text: str) -> str:
    """What is between the cells of a table: what its first line has most of, a comma, a semicolon or a tabulator."""
    return max(",;\t", key=text.lstrip("\r\n").partition("\n")[0].count)


def _json_rows(text: str) -> tuple[tuple[NumberedRow, ...], str]:
    try:
        data = json.loads(text)
    except (ValueError, RecursionError) as error:
        return (), str(error)
    if not isinstance(data, list) or not all(isinstance(row, dict) for row in data):
        return (), "it is not a list of rows, each with keys"
    rows = []
    for number, row in enumerate(data, 1):
        cells = {str(k): "" if v is None else str(v) for k, v in row.items() if not isinstance(v, dict | list)}
        rows.append(NumberedRow(cells, number, 0))
    return tuple(rows), ""


OF_ROWS = ("title", "label", "description", "path", "keywords")
"""The words of a page that a table can say row by row."""
_PROSE = ("title", "label", "description", "keywords", "section")


class TableReader:
    """Makes the pages of one table after another."""

    def __init__(self, names: Names, context: Context) -> None:
        self._names = names
        self._context = context

    def read(self, node: Node, parent: Page, taken: set[str], room: int) -> TableResult:
        """The pages that ``table:`` makes under a page. ``taken`` are the ids of pages that are there already, ``room``
        how many more pages the map can have."""
        where = f"`table` of the page `{parent.key}`"
        if isinstance(node, Scalar) and not node.is_nothing:
            keys: dict[str, tuple[Scalar, Node]] = {"file": (node, node)}
        else:
            keys = keys_of(node, TABLE, where, self._context)
        texts = {
            word: (prose_of if word in _PROSE else text_of)(value, f"`{word}` of {where}", self._context) or ""
            for word, (_, value) in keys.items()
        }
        at = {word: value.start for word, (_, value) in keys.items()}
        name = self._file(texts.get("file", ""), at.get("file", node.start), where, "file" in keys)
        if name is None:
            return TableResult()
        rows, reason = rows_of(self._context.files, name)
        if reason:
            self._context.say(site_rules.TABLE_UNREAD, at["file"], f"The table {name} cannot be read: {reason}.")
            return TableResult()
        rows = self._seen(rows, name, at["file"])
        columns = set().union(*(row.cells for row in rows)) if rows else set()
        for word in ("path", "title", "label", "description", "section", "keywords"):
            self._look_at_columns(word, texts.get(word, ""), at.get(word, 0), columns, name)
        if len(rows) > room:
            message = f"The table {name} has {len(rows):,} rows, and the map can have {room:,} pages more."
            self._context.say(site_rules.TOO_MANY_PAGES, at["file"], message)
            rows = rows[: max(room, 0)]
        template = self._template(texts.get("text", ""), at.get("text", 0))
        extra = PageExtras()
        if "layout" in keys:
            extra = PageExtras(layout=self._names.layout(keys["layout"][1], where))
        if template is not None and _weight(template.text, rows) > limits.TABLE_CHARACTERS:
            message = f"The table {name} would make more than {limits.TABLE_CHARACTERS:,} characters of text."
            self._context.say(site_rules.TABLE_TOO_LARGE, at["file"], message)
            template = None
        return _Maker(name, parent, texts, template, extra, node.start, taken).make(rows)

    def _seen(self, rows: tuple[NumberedRow, ...], name: str, at: int) -> tuple[NumberedRow, ...]:
        """The rows without characters that pages cannot contain; where there are some, it is said of the first."""
        unseen = [
            (row.number, column, found)
            for row in rows
            for column, cell in row.cells.items()
            if (found := UNSEEN.search(column + cell))
        ]
        if not unseen:
            return rows
        (number, column, found), others = unseen[0], len(unseen) - 1
        more = f" {others} other {'cell has' if others == 1 else 'cells have'} one, too." if others else ""
        self._context.say(
            site_rules.BAD_VALUE,
            at,
            f"Row {number} of the table {name} has the invisible character U+{ord(found.group()):04X} in the column "
            f"`{UNSEEN.sub('', column)[:60]}`.{more}",
            "Remove it; pages cannot contain it.",
        )
        return tuple(
            row._replace(cells={UNSEEN.sub("", column): UNSEEN.sub("", cell) for column, cell in row.cells.items()})
            for row in rows
        )

    def _file(self, text: str, at: int, where: str, given: bool) -> str | None:
        known = self._context.files.under("tables")
        name = text.strip().removeprefix("tables/")
        if name in known and name.endswith((".csv", ".json", ".tsv")):
            return f"tables/{name}"
        near = self._context.nearest(name, known) if name else None
        self._context.say(
            site_rules.UNKNOWN_FILE if given else site_rules.MISSING_KEY,
            at,
            f"There is no table `{name[:80]}` in the folder `tables`." if given else f"{where} names no file.",
            f"Did you mean `{near}`?" if near else "Put a file there that ends with .csv or .json, and name it here.",
        )
        return None

    def _template(self, text: str, at: int) -> Content | None:
        name = text.strip().removeprefix("tables/")
        if not name:
            return None
        if name in self._context.files.under("tables") and name.endswith((".md", ".html")):
            return Content(f"tables/{name}", self._context.files.text(f"tables/{name}"))
        message = f"There is no text `{name[:80]}` in the folder `tables`."
        self._context.say(site_rules.UNKNOWN_FILE, at, message, "Put a file there that ends with .md or .html.")
        return None

    def _look_at_columns(self, word: str, pattern: str, at: int, columns: set[str], name: str) -> None:
        for column in COLUMN.findall(pattern):
            if column not in columns:
                near = self._context.nearest(column, columns)
                self._context.say(
                    site_rules.UNKNOWN_COLUMN,
                    at,
                    f"The table {name} has no column `{column[:60]}`, which `{word}` asks for.",
                    f"Did you mean `{near}`?" if near else "It has " + ", ".join(sorted(columns)[:12]) + ".",
                )


class _Maker:
    def __init__(
        self, name: str, parent: Page, texts: Row, template: Content | None, extra: PageExtras, at: int, taken: set[str]
    ) -> None:
        self.name = name
        self.parent = parent
        self.texts = texts
        self.template = template
        self.own = PageOptions(from_table=True, extra=extra)
        self.at = at
        self.ids: dict[str | None, set[str]] = {None: set(taken)}
        self.made = TableResult(TableSource(name, texts, tuple(word for word in OF_ROWS if column_of(texts, word))))

    def make(self, rows: tuple[NumberedRow, ...]) -> TableResult:
        """A page for each row; sections first come first, those by letter in the order of letters."""
        pattern = self.texts.get("section", "")
        titled = [(row, self._title(row.cells)) for row in rows]
        titled = [(row, title) for row, title in titled if title]
        if not pattern:
            for row, title in titled:
                self._page(row, title, None)
            return self.made
        sections: dict[str, list[tuple[NumberedRow, str]]] = {}
        for row, title in titled:
            name = _letter(title) if pattern == LETTER else _filled(pattern, row.cells)
            sections.setdefault(name or "–", []).append((row, title))
        for name in sorted(sections) if pattern == LETTER else sections:
            section = self._section(name)
            for row, title in sections[name]:
                self._page(row, title, section)
        return self.made

    def _title(self, row: Row) -> str:
        text = _filled(self.texts.get("title", ""), row) or next((cell for cell in row.values() if cell), "")
        return " ".join(text.split())[: limits.LABEL_CHARACTERS]

    def _section(self, name: str) -> str:
        title = " ".join(name.split())[: limits.LABEL_CHARACTERS]
        page_id = id_from(title, self.ids[None])
        self.ids[None].add(page_id)
        key = f"{self.parent.key}/{page_id}"
        self._add(
            Page(key, page_id, title, title, None, None, self.parent.key, (), self.at, self.at, set_options=self.own)
        )
        self.made.top.append(key)
        return key

    def _page(self, numbered: NumberedRow, title: str, section: str | None) -> None:
        row = numbered.cells
        above = section or self.parent.key
        path = _filled(self.texts.get("path", ""), row)
        taken = self.ids.setdefault(section, set())
        page_id = id_from(path.rstrip("/").rpartition("/")[2] or title, taken)
        taken.add(page_id)
        key = f"{above}/{page_id}"
        label = " ".join(_filled(self.texts.get("label", ""), row).split())[: limits.LABEL_CHARACTERS]
        description = " ".join(_filled(self.texts.get("description", ""), row).split()) or None
        own = self.own
        keywords = " ".join(_filled(self.texts.get("keywords", ""), row).split())
        if keywords:
            own = replace(own, extra=replace(own.extra, keywords=keywords[: limits.LABEL_CHARACTERS]))
        given = path if path and path != page_id else None
        page = Page(key, page_id, title, label or title, description, given, above, (), self.at, self.at)
        self._add(page._replace(set_options=own, own_label=bool(label)))
        self.made.rows[key] = RowPlace(self.name, numbered.number, numbered.line)
        if section is None:
            self.made.top.append(key)
        else:
            over = self.made.pages[section]
            self.made.pages[section] = over._replace(children=(*over.children, key))
        if self.template is not None:
            escaped = {column: html.escape(cell, quote=False) for column, cell in row.items()}
            self.made.texts[key] = Content(self.template.name, _filled(self.template.text, escaped, keep=True))

    def _add(self, page: Page) -> None:
        self.made.pages[page.key] = page


class OneColumn(NamedTuple):
    """A pattern with one column in it: its name, and the text before and after its cell."""

    name: str
    before: str
    after: str


def one_column(pattern: str) -> OneColumn | None:
    """The column of a pattern; None where it has none, or several."""
    found = list(COLUMN.finditer(pattern))
    if len(found) != 1:
        return None
    return OneColumn(found[0][1], pattern[: found[0].start()], pattern[found[0].end() :])


def column_of(patterns: typing.Mapping[str, str], word: str) -> OneColumn | None:
    """The column whose cell says a word of a row's page, by the patterns of its table; its name is empty for the first
    that has something. None where no cell says it, or several together."""
    pattern = patterns.get(word, "")
    return one_column(pattern) if pattern or word != "title" else OneColumn("", "", "")


def _weight(template: str, rows: tuple[NumberedRow, ...]) -> int:
    """How many characters a text for each row has."""
    times = Counter(COLUMN.findall(template))
    return sum(len(template) + sum(n * len(row.cells.get(column, "")) for column, n in times.items()) for row in rows)


def _letter(title: str) -> str:
    first = next((character for character in title if character.isalnum()), "")
    return first.upper() if first.isalpha() else "0–9"


def _filled(pattern: str, row: Row, keep: bool = False) -> str:
    """A pattern with the cells of a row in place of `{column}`; ``keep`` leaves a column that is not there as it is."""
    return COLUMN.sub(lambda match: row.get(match[1], match[0] if keep else ""), pattern).strip("\n")
