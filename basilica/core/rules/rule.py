"""Rules: what a finding can be about. Each code is one object, and all that is known of it stands in it: how grave it
is, what it is called, why it matters, what to do, where that is written, and an example of either kind.

Each floor defines the rules of what it reads; `basilica.core.findings` collects them. Documentation, mosaic, reports
and the lists of levels are made from that collection. Codes are stable: scripts and notes may rely on them.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from basilica.core.rules import limits
from basilica.core.rules.examples import HOME, TWO_PAGES, Example, Many

COMMON = "common practice, no source"


class Level(StrEnum):
    """How grave a finding is. An error stops a build; the others do not."""

    ERROR = "error"
    WARNING = "warning"
    ADVICE = "advice"
    IGNORE = "ignore"
    """Ignored, for a reason that the map gives."""

    @property
    def label(self) -> str:
        """As it stands beside a finding."""
        return "ignored" if self is Level.IGNORE else self.value


class Stage(StrEnum):
    """When a rule is looked at."""

    LIST = "list"
    """While a list is read that is to become a map."""

    EXISTING = "existing"
    """While a site that exists is read, and its pages are compared."""

    READING = "reading"
    """While the map is read and planned; nothing can be built without it."""
    MAP = "map"
    """On the whole map, once it can be built."""
    BUILT = "built"
    """On built pages, held against the map."""
    ANY = "any"
    """On built pages, of which no map need be known."""


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Rule:
    """One thing that can be found. A finding has its message from what was found, and its ``remedy`` too, where that
    can say more than this one; ``good`` passes and ``bad`` does not, which the tests hold, and the documentation
    shows what is said of it. ``column`` is where it stands in the mosaic: in the columns of the `menus`, of
    `breadcrumbs`, of the other shared `parts`, in none where there is a map (`unmapped`), or (empty) in one of its
    own."""

    code: str
    level: Level
    title: str
    why: str
    remedy: str
    good: Example
    bad: Example
    stage: Stage = Stage.READING
    standard: str = COMMON
    column: str = ""


TOO_MANY_FINDINGS = Rule(
    code="too-many-findings",
    level=Level.WARNING,
    title="More findings than are listed",
    why="The first findings often cause the others.",
    remedy="Fix these first; then the rest are shown.",
    good=TWO_PAGES,
    bad=Many(HOME, "  tides-{n}: {lable: Tides}\n", limits.FINDINGS + 1),
)
