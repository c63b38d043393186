"""What the Checks workspace is asked and told."""

from __future__ import annotations

from dataclasses import dataclass
from urllib.parse import urlencode

from flask import request

from basilica.core.findings.mosaic import MosaicRow
from basilica.web.forms import BasilicaForm, Button, InvalidForm, OneLine, Revision


@dataclass(frozen=True, slots=True)
class ChecksQuery:
    """What the address asks for: a page and a check, words to look for, and findings only."""

    page: str
    check: str
    words: str
    findings_only: bool
    start: int
    table: bool

    @classmethod
    def now(cls) -> ChecksQuery:
        """As the address says."""
        args = request.args
        start = max(0, args.get("from", 0, type=int) or 0)
        findings_only, table = args.get("findings") == "yes", args.get("view") == "table"
        return cls(
            args.get("page", ""), args.get("check", ""), args.get("q", "").strip()[:200], findings_only, start, table
        )

    def query(self, **changed: str) -> str:
        """The same for an address, with some of it changed."""
        known = {
            "page": self.page,
            "check": self.check,
            "q": self.words,
            "findings": "yes" if self.findings_only else "",
            "view": "table" if self.table else "",
            "from": str(self.start) if self.start else "",
        }
        return "?" + urlencode({name: value for name, value in {**known, **changed}.items() if value})

    def matches(self, row: MosaicRow) -> bool:
        """Whether a row is asked for."""
        words = self.words.casefold()
        return (not self.findings_only or row.has_violations) and (
            not words or words in f"{row.name} {row.label}".casefold()
        )


class Suppression(BasilicaForm):
    """That a check says nothing, on a page (``where`` is `page`) or on all, with the reason; or that it speaks again
    (``speak``). ``check`` is what was looked at."""

    revision = Revision(default=-1)
    page = OneLine(default="")
    check = OneLine(default="")
    code = OneLine(default="")
    where = OneLine(default="")
    reason = OneLine(default="")
    speak = Button()

    @property
    def written(self) -> str:
        """The reason as it is written; empty to let the check speak again. Raises ``InvalidForm``."""
        if not self.speak.data and not self.reason.data:
            raise InvalidForm("Write the reason; it is shown beside every finding that this ignores.")
        return "" if self.speak.data else self.reason.data
