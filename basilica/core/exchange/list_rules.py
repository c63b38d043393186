"""What can be said of a list that becomes a map."""

from __future__ import annotations

from basilica.core.rules.rule import Level, Rule, Stage

LIST_LINE = Rule(
    code="list-line",
    stage=Stage.LIST,
    level=Level.WARNING,
    title="A line that cannot be imported as it is",
    why="It would be lost silently.",
    remedy="Fix the line, or delete it.",
    good="Home\nTides\nShop | https://shop.example\n",
    bad="Home\nTides\nShop | shop:example\n",
)

LIST_NOTE = Rule(
    code="list-note",
    stage=Stage.LIST,
    level=Level.ADVICE,
    title="A choice that the list leaves open",
    why="Basilica chose; you can change it in the map.",
    remedy="Leave it, or say it in the list.",
    good="Home\nTides\n",
    bad="Tides\nFlour\n",
)

RULES = (
    LIST_LINE,
    LIST_NOTE,
)
"""In the order in which they are listed."""
