"""What follows the content of each page."""

from __future__ import annotations

from dataclasses import dataclass

from basilica.core.language.codecs import one_of
from basilica.core.language.word import Word

PAGE_END = (
    Word(
        "list",
        one_of("under", "site", "none"),
        "What is listed below the content of a page.",
        "under",
        title="List of pages",
    ),
    Word(
        "sequence",
        one_of("section", "map", "none"),
        "Links to the previous and the next page.",
        "none",
        title="Previous and next",
    ),
)


@dataclass(frozen=True, slots=True)
class PageEnd:
    """What closes each page."""

    list: str = "under"
    sequence: str = "none"
