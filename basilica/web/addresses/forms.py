"""What the Addresses workspace is asked and told."""

from __future__ import annotations

from dataclasses import dataclass
from urllib.parse import urlencode

from flask import request
from flask_wtf.file import FileField

from basilica.core.plan.route_table import RouteRow
from basilica.web.forms import BasilicaForm, Button, OneLine, Revision, Text, Values

COLUMNS = ("path", "file", "label", "menus", "kind", "was")


@dataclass(frozen=True, slots=True)
class RoutesQuery:
    """Words that a row must have, the column by which rows are sorted (empty: as in the map), and the first row."""

    words: str
    sort: str
    down: bool
    start: int

    @classmethod
    def now(cls) -> RoutesQuery:
        """As the address says."""
        args = request.args
        sort = args.get("sort", "")
        start = max(0, args.get("from", 0, type=int) or 0)
        known = sort if sort in COLUMNS else ""
        return cls(args.get("q", "").strip()[:200], known, args.get("down") == "yes", start)

    def query(self, **changed: str) -> str:
        """The same for an address, with some of it changed."""
        known = {
            "q": self.words,
            "sort": self.sort,
            "down": "yes" if self.down else "",
            "from": str(self.start) if self.start else "",
        }
        return "?" + urlencode({name: value for name, value in {**known, **changed}.items() if value})

    def chosen(self, rows: list[RouteRow]) -> list[RouteRow]:
        """The rows that are asked for, in order."""
        words = self.words.casefold().split()
        found = [row for row in rows if all(word in _text(row) for word in words)] if words else rows
        if not self.sort:
            return found[::-1] if self.down else found
        return sorted(found, key=lambda row: str(row[self.sort]).casefold(), reverse=self.down)  # type: ignore[literal-required]


def _text(row: RouteRow) -> str:
    texts = row["path"], row["file"], row["key"], row["title"], row["label"], row["kind"], *row["menus"]
    return " ".join((*texts, *row["also"], *row["was"])).casefold()


class OldList(BasilicaForm):
    """The addresses of an old site: as a text, or as a file."""

    list = Text(default="")
    file = FileField()


class Taking(BasilicaForm):
    """Old addresses that are written into the map: ``take`` has the numbers of those that are chosen, among the
    ``address`` and, in the same order, the ``to`` that came with them."""

    revision = Revision(default=-1)
    take = Values(default=list)
    address = Values(default=list)
    to = Values(default=list)


class Style(BasilicaForm):
    """Another style of addresses."""

    revision = Revision(default=-1)
    urls = OneLine(default="")
    keep = Button()
