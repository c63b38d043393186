"""What a report is about."""

from __future__ import annotations

import posixpath
from collections import Counter
from collections.abc import Iterable
from dataclasses import dataclass
from functools import cached_property

from basilica.core.findings.mosaic import Mosaic
from basilica.core.findings.reports.baseline import NO_BASELINE, Baseline
from basilica.core.rules.finding import Finding
from basilica.core.rules.rule import Level

GRAVE = (Level.ERROR, Level.WARNING, Level.ADVICE)


@dataclass(frozen=True)
class Report:
    """Findings of one run. ``name`` is the map's file, or the folder that was read; ``folder`` is where the files are
    that findings name. What the ``baseline`` knows is told and fails nothing, and so is what the map says to ignored.
    ``fails_on`` is the least level that fails."""

    name: str
    folder: str
    findings: tuple[Finding, ...]
    mosaic: Mosaic | None = None
    baseline: Baseline = NO_BASELINE
    fails_on: Level = Level.ERROR

    @cached_property
    def known(self) -> frozenset[int]:
        """The numbers of the findings that the baseline has."""
        return self.baseline.known(self.findings)

    @cached_property
    def new(self) -> tuple[Finding, ...]:
        """What is neither known nor to be ignored."""
        return tuple(f for n, f in enumerate(self.findings) if n not in self.known and not f.ignored)

    @cached_property
    def ignored(self) -> tuple[Finding, ...]:
        """What the map says to ignored, with its reasons."""
        return tuple(finding for finding in self.findings if finding.ignored)

    def fails(self, finding: Finding) -> bool:
        """Whether a finding is grave enough."""
        return not finding.ignored and GRAVE.index(finding.level) <= GRAVE.index(self.fails_on)

    @property
    def failing(self) -> tuple[Finding, ...]:
        """What is new and grave enough."""
        return tuple(finding for finding in self.new if self.fails(finding))

    def path_of(self, finding: Finding) -> str:
        """The file in which a finding is mended, as somebody who ran this would name it."""
        return posixpath.normpath(posixpath.join(self.folder, finding.file)) if finding.file else self.name

    @property
    def counted(self) -> str:
        """How many there are of each level, in words."""
        words = counted(self.new)
        if self.known:
            words += f" {len(self.known)} known from before."
        if self.ignored:
            words += f" {len(self.ignored)} ignored."
        return words


def counted(findings: Iterable[Finding]) -> str:
    """How many findings there are of each level, in words."""
    counts = Counter(finding.level for finding in findings if not finding.ignored)
    if not counts:
        return "No findings."
    words = [
        f"{counts[level]} {level if counts[level] == 1 or level is Level.ADVICE else f'{level}s'}"
        for level in GRAVE
        if counts[level]
    ]
    return ", ".join(words) + "."
