"""The site as values. ``at`` is always the offset in the map's text, and no part of what makes two sites equal."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from enum import StrEnum
from typing import NamedTuple

from basilica.core.document import Lines


@dataclass(frozen=True, slots=True)
class Base:
    """Where the site lives: ``origin`` as ``https://host``, ``path`` as ``""`` or ``/mill`` (no final slash)."""

    origin: str
    path: str

    def __str__(self) -> str:
        return f"{self.origin}{self.path}/"


@dataclass(frozen=True, slots=True)
class OldAddress:
    """An address that a page had once, as the map gives it."""

    path: str
    at: int = field(compare=False)


class Page(NamedTuple):
    """A page of the tree. ``path`` is what the map gives for its address, before any rule is applied.

    A tuple, since a large site makes thousands at every keystroke. Where it stands in the text (``at``, ``path_at``)
    is no part of what makes two pages equal.
    """

    key: str
    id: str
    title: str
    label: str
    description: str | None
    path: str | None
    parent: str | None
    children: tuple[str, ...]
    at: int
    path_at: int
    was: tuple[OldAddress, ...] = ()
    own_title: bool = True
    """Whether the map gives the title; else it is made from the id."""
    own_label: bool = False

    @property
    def depth(self) -> int:
        """0 at the top."""
        return self.key.count("/")

    def __eq__(self, other: object) -> bool:
        return isinstance(other, Page) and self[:8] == other[:8] and self[10:] == other[10:]

    def __ne__(self, other: object) -> bool:
        return not self == other

    def __hash__(self) -> int:
        return hash(self[:8])


class EntryKind(StrEnum):
    """What an entry of a menu is."""

    PAGE = "page"
    ANCHOR = "anchor"
    GROUP = "group"
    OUTSIDE = "outside"
    AUTO = "auto"
    """Only in a menu as it is written: pages of the tree, in place of entries written out."""


@dataclass(frozen=True, slots=True)
class Entry:
    """An entry of a menu. ``page`` is set for pages and anchors, ``fragment`` for anchors, ``url`` for outside
    links; only pages and groups have ``items``.

    As it is written, ``label`` is empty where the page's own is meant; and `auto` has ``levels``, and as ``page`` the
    one whose children it takes (None: the top of the tree)."""

    kind: EntryKind
    label: str
    page: str | None = None
    fragment: str | None = None
    url: str | None = None
    items: tuple[Entry, ...] = ()
    levels: int = 0
    at: int = field(compare=False, default=0)


@dataclass(frozen=True, slots=True)
class Menu:
    """A named menu: its entries as it is ``written``, and as they are once `auto` is taken from the tree."""

    name: str
    written: tuple[Entry, ...]
    entries: tuple[Entry, ...]
    at: int = field(compare=False, default=0)


@dataclass(frozen=True, slots=True)
class Header:
    """What the map says of the header."""

    behaviour: str = "static"


@dataclass(frozen=True, slots=True)
class Site:
    """What a map says. ``home`` is None only where the map is wrong. ``pages`` is in map order, parents first."""

    name: str
    base: Base | None
    language: str
    urls: str
    links: str
    pages: Mapping[str, Page]
    home: str | None
    menus: Mapping[str, Menu]
    separator: str
    header: Header
    lines: Lines = field(compare=False, repr=False)
    named: bool = True
    """Whether the map gives the name; else it is home's title."""

    @property
    def top(self) -> tuple[str, ...]:
        """Keys of the top-level pages, in map order."""
        return tuple(key for key, page in self.pages.items() if page.parent is None)

    def ancestors(self, key: str) -> tuple[str, ...]:
        """Keys of the pages above ``key``, nearest first."""
        found = []
        parent = self.pages[key].parent
        while parent is not None:
            found.append(parent)
            parent = self.pages[parent].parent
        return tuple(found)
