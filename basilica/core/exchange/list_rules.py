"""What can be said of a list that becomes a map."""

from __future__ import annotations

from basilica.core.rules.rule import Level, Rule

LIST_LINE = Rule(
    code="list-line",
    level=Level.WARNING,
    title="A line that cannot be taken as it is",
    why="What it says would be lost without a word.",
)

LIST_NOTE = Rule(
    code="list-note",
    level=Level.ADVICE,
    title="Something the list leaves open",
    why="It was decided, and can be changed in the map.",
)

RULES = (
    LIST_LINE,
    LIST_NOTE,
)
"""In the order in which they are listed."""
