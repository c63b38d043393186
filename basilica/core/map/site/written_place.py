"""Where a page is written: in the map itself, in a file that it includes, or in a table."""

from __future__ import annotations

from typing import NamedTuple

from basilica.core.map.site.model import Site


class WrittenPlace(NamedTuple):
    """A place outside the text of the map: its ``file``, the ``line`` from 1 (0 where the file is not one of lines),
    and the number of the ``row`` of a table from 1 (0 where it is none). ``is_section`` is whether the
    page is a section that a table makes, of several rows."""

    file: str
    line: int
    row: int = 0
    is_section: bool = False

    @property
    def sentence(self) -> str:
        """What the page is, for messages: "is row 3 of the table tables/mills.csv (line 4)"."""
        line = f" (line {self.line})" if self.line else ""
        if self.is_section:
            return f"is made from the table {self.file}"
        return f"is row {self.row} of the table {self.file}{line}" if self.row else f"is written in {self.file}{line}"


def written_elsewhere(site: Site, key: str) -> WrittenPlace | None:
    """The place of a page that is not written in the text of the map itself; None if it is there."""
    page = site.pages[key]
    if key in site.rows:
        file, row, line = site.rows[key]
        return WrittenPlace(file, line, row)
    if page.options.from_table:
        below = next((site.rows[child] for child in page.children if child in site.rows), None)
        return WrittenPlace(below.file if below else "", 0, is_section=True)
    if site.lines.elsewhere(page.at):
        place = site.lines.place(page.at)
        return WrittenPlace(place.file, place.line)
    return None


def not_here(site: Site, key: str) -> str:
    """Why a page cannot be edited in the map, without the full stop; empty if it can."""
    place = written_elsewhere(site, key)
    return f"{site.pages[key].label} {place.sentence}. Edit it there" if place is not None else ""


def not_below(site: Site, key: str) -> str:
    """Why no page can be added under a page in the map: an included file has those. Empty if one can be."""
    page = site.pages[key]
    first = site.pages[page.children[0]] if page.children else None
    if first is None or first.options.from_table or site.lines.elsewhere(page.at) or not site.lines.elsewhere(first.at):
        return ""
    return f"The pages under {page.label} are in {site.lines.place(first.at).file}. Edit them there"
