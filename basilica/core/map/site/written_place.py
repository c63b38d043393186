"""Where a page is written: in the map itself, in a file that it includes, or in a table."""

from __future__ import annotations

from typing import NamedTuple

from basilica.core.map.site.model import Site, TableSource
from basilica.core.map.site.table_reader import OF_ROWS

ROW_ACTS = ("name", "rename", "delete")
"""The acts that can be done to a table's row, where its cells say what they change."""


class WrittenPlace(NamedTuple):
    """A place outside the text of the map: its ``file``, the ``line`` from 1 (0 where the file is not one of lines),
    and the number of the ``row`` of a table from 1 (0 where it is none). ``is_section`` is whether the page is a
    section that a table makes, of several rows; ``is_shared`` whether several pages include the file, or have the
    table, so that an edit there is one of all of them. ``words`` are those of a row's page that its cells say, so that
    they can be edited there."""

    file: str
    line: int
    row: int = 0
    is_section: bool = False
    is_shared: bool = False
    words: tuple[str, ...] = ()

    @property
    def can_be_edited(self) -> bool:
        """Whether every edit of the page can change the file."""
        return not (self.row or self.is_section or self.is_shared)

    @property
    def sentence(self) -> str:
        """What the page is, for messages: "is row 3 of the table tables/mills.csv (line 4)"."""
        line = f" (line {self.line})" if self.line else ""
        if self.is_section:
            return f"is made from the table {self.file}"
        several = ", which several pages {}" if self.is_shared else ""
        if self.row:
            return f"is row {self.row} of the table {self.file}{line}{several.format('have')}"
        several = several.format("include")
        return f"is written in {self.file}{line}{several}"


def written_elsewhere(site: Site, key: str) -> WrittenPlace | None:
    """The place of a page that is not written in the text of the map itself; None if it is there."""
    page = site.pages[key]
    if key in site.rows:
        file, row, line = site.rows[key]
        is_shared = sum(table.file == file for table in site.tables.values()) > 1
        words = () if is_shared else table_of(site, key).words
        return WrittenPlace(file, line, row, is_shared=is_shared, words=words)
    if page.options.from_table:
        below = next((site.rows[child] for child in page.children if child in site.rows), None)
        return WrittenPlace(below.file if below else "", 0, is_section=True)
    return _included(site, key)


def table_of(site: Site, key: str) -> TableSource:
    """The table of whose rows a page is made."""
    above = site.pages[key].parent
    while above is not None and above not in site.tables:
        above = site.pages[above].parent
    return site.tables[above or ""]


def _included(site: Site, key: str) -> WrittenPlace | None:
    """The place of a page in an included file; None if it is in none."""
    at = site.pages[key].at
    if not site.lines.elsewhere(at):
        return None
    place = site.lines.place(at)
    times = sum(file == place.file for _, file, _ in site.lines.others)
    return WrittenPlace(place.file, place.line, is_shared=times > 1)


def not_here(site: Site, key: str, word: str = "") -> str:
    """Why a page, or a ``word`` of it, cannot be edited, without the full stop; empty if it can."""
    place = written_elsewhere(site, key)
    if place is None or place.can_be_edited or word in place.words:
        return ""
    what = f"; its {word} is not that of one cell" if word in OF_ROWS and place.row and not place.is_shared else ""
    return f"{site.pages[key].label} {place.sentence}{what}. Edit it there"


def cannot(site: Site, key: str, act: str) -> str:
    """Why an act cannot be done to a page where it is written, without the full stop; empty if it can. A
    table's row takes ``ROW_ACTS`` alone."""
    place = written_elsewhere(site, key)
    if place is not None and place.words and act in ROW_ACTS:
        name = "label" if site.pages[key].own_label else "title"
        return "" if act == "delete" else not_here(site, key, name if act == "name" else "path")
    return not_here(site, key)


def not_below(site: Site, key: str) -> str:
    """Why no page can be added under a page: a file that several pages include has those. Empty if one can be."""
    page = site.pages[key]
    own = [child for child in page.children if not site.pages[child].options.from_table]
    place = _included(site, own[0]) if own else None
    if place is None or place.can_be_edited or not_here(site, key):
        return ""
    return f"The pages under {page.label} are in {place.file}, which several pages include. Edit them there"
