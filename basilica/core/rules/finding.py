"""Findings: what is wrong, where it stands, and what to do about it."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from typing import NamedTuple

from basilica.core.rules import limits
from basilica.core.rules.place import Place
from basilica.core.rules.rule import TOO_MANY_FINDINGS, Level, Rule


class Fix(NamedTuple):
    """The remedy as a change of the map's text, where there is a single right one: what stands between two places
    is replaced by ``text``. It is a change of the finding's own file."""

    start: Place
    end: Place
    text: str


@dataclass(frozen=True, slots=True)
class Finding:
    """One thing that is off.

    ``line`` and ``column`` count from 1, in characters. ``file`` is empty for the map itself and otherwise the
    content file's name, such as ``content/visit/hours.md``.
    """

    rule: Rule
    message: str
    remedy: str
    line: int = 1
    column: int = 1
    file: str = ""
    fix: Fix | None = None
    given: Level | None = None
    """The level that a check has, or that the map gives; None: that of the rule."""
    reason: str = ""
    """The reason that the map gives for it."""
    built: str = ""
    """The built file that it is about, if it is about one."""

    @property
    def code(self) -> str:
        """The code of its rule."""
        return self.rule.code

    @property
    def level(self) -> Level:
        """As the map has it, or as the rule."""
        return self.given or self.rule.level

    @property
    def stops(self) -> bool:
        """Whether a build is refused because of it."""
        return self.level is Level.ERROR

    @property
    def ignored(self) -> bool:
        """Whether the map says to let it be."""
        return self.level is Level.IGNORE

    def as_dict(self, map_name: str) -> dict[str, str | int]:
        """The finding as plain data, for JSON; ``map_name`` stands for the map's own file."""
        return {
            "file": self.file or map_name,
            "line": self.line,
            "column": self.column,
            "code": self.code,
            "level": str(self.level),
            "message": self.message,
            "remedy": self.remedy,
            **({"reason": self.reason} if self.reason else {}),
            **({"page": self.built} if self.built else {}),
        }


class Findings:
    """A growing list of findings with a cap: past it they are counted, not kept."""

    def __init__(self) -> None:
        self._kept: list[Finding] = []
        self._more = 0

    def add(
        self, rule: Rule, place: Place, message: str, remedy: str = "", file: str = "", fix: Fix | None = None
    ) -> None:
        """Record one finding at ``place``; without a ``remedy`` that of the rule."""
        if self.full:
            self._more += 1
            return
        file = file or place.file
        message, remedy = printable(message), printable(remedy or rule.remedy)
        self._kept.append(Finding(rule, message, remedy, place.line, place.column, file, fix))

    @property
    def full(self) -> bool:
        """Whether what is added now is only counted."""
        return len(self._kept) >= limits.FINDINGS

    def extend(self, findings: Iterable[Finding]) -> None:
        """Record findings that another stage made."""
        self._kept.extend(findings)

    def done(self) -> tuple[Finding, ...]:
        """All findings in the order of the text, with a last one that counts what was left out."""
        kept = in_order(self._kept)
        if self._more:
            last = kept[-1]
            kept = (
                *kept,
                Finding(
                    TOO_MANY_FINDINGS,
                    f"The first {limits.FINDINGS:,} findings of this stage are listed; {self._more:,} more were found.",
                    "Fix these first; then the rest are shown.",
                    last.line,
                    last.column,
                ),
            )
        return kept

    def __iter__(self) -> Iterator[Finding]:
        return iter(self._kept)


def printable(text: str) -> str:
    """Text for one line of a terminal or a page: what a map may hold but nobody can see is spelt out."""
    if text.isprintable():
        return text
    return "".join(c if c.isprintable() else f"\\u{ord(c):04x}" for c in text)


def in_order(findings: Iterable[Finding]) -> tuple[Finding, ...]:
    """Findings sorted as one reads: the map first, then content files, by line and column."""
    return tuple(sorted(findings, key=lambda f: (f.file, f.line, f.column, f.code, f.message)))
