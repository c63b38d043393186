"""A site as a list: lines with lines under them, which a person writes before there is a map."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field
from enum import StrEnum


class ItemKind(StrEnum):
    """What a line stands for."""

    PAGE = "page"
    GROUP = "group"
    LINK = "link"
    """An address outside the site."""
    ENTRY = "entry"
    """A page that stands elsewhere in the list, named by its key in ``address``, or a file of the site, by its name."""
    MENU = "menu"
    """A menu by name; the lines under it are its entries."""
    APART = "apart"
    """The lines under it are pages that stand in no menu."""


@dataclass(frozen=True, slots=True)
class Item:
    """One line. ``line`` is its number in the text, from 1; ``key`` that of the page of a site from which it was made,
    and empty for another entry of a page that has a line of its own."""

    kind: ItemKind
    label: str
    address: str | None = None
    items: tuple[Item, ...] = ()
    line: int = field(compare=False, default=0)
    key: str = field(compare=False, default="")


def with_depth(items: Iterable[Item], depth: int = 0) -> Iterator[tuple[Item, int]]:
    """Every item with how deep it stands (0 at the top), as one reads."""
    for item in items:
        yield item, depth
        yield from with_depth(item.items, depth + 1)


@dataclass(frozen=True, slots=True)
class ListLine:
    """What was read of one line, before it is known what stands under it. ``indent`` is any measure of depth."""

    number: int
    indent: int
    label: str
    address: str | None
    kind: ItemKind | None


def nested(lines: Iterable[ListLine]) -> tuple[list[tuple[ListLine, int]], int]:
    """Each line with its depth, from measures of depth that only need to be larger for what stands under something;
    and the greatest depth."""
    found: list[tuple[ListLine, int]] = []
    open_at: list[int] = []
    for line in lines:
        while open_at and line.indent <= open_at[-1]:
            open_at.pop()
        found.append((line, len(open_at)))
        open_at.append(line.indent)
    return found, max((depth for _, depth in found), default=0)
