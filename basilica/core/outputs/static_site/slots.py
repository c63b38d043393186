"""Slots: what is left open in a rendered piece, because it differs from page to page or is decided while the site runs.

A template asks for one (`current(menu, entry)`, `region("main")`) and gets room for it. Each output then has its own
adapter, a function from a slot to text: the static site writes the value that a page has, a kit writes a call, PHP
writes PHP.
"""

from __future__ import annotations

import json
from dataclasses import astuple, dataclass
from functools import lru_cache
from typing import get_args

from markupsafe import Markup

NUL = "\0"
"""Marks room in rendered text; no text of a map or of content can hold it."""


@dataclass(frozen=True, slots=True)
class EntryAddress:
    """The address to which an entry of a menu leads."""

    menu: str
    entry: int


@dataclass(frozen=True, slots=True)
class CurrentMark:
    """The `aria-current` of an entry, on the pages on which it is current."""

    menu: str
    entry: int


@dataclass(frozen=True, slots=True)
class PathMark:
    """The mark of an entry that holds the current one."""

    menu: str
    entry: int


@dataclass(frozen=True, slots=True)
class HomeAddress:
    """The address of home."""


@dataclass(frozen=True, slots=True)
class PageAddress:
    """The address of a page, or of an anchor on it."""

    key: str
    fragment: str | None = None


@dataclass(frozen=True, slots=True)
class FileAddress:
    """The address of a file of the site."""

    name: str


@dataclass(frozen=True, slots=True)
class NavigationFile:
    """The address of a file that Basilica writes, by the name it is known by."""

    name: str


@dataclass(frozen=True, slots=True)
class RegionSlot:
    """Another piece by its name: one that pages share, or what the map gives a page, such as its breadcrumbs."""

    name: str


@dataclass(frozen=True, slots=True)
class PageValue:
    """A value of the page: its `title`, `label`, `description`, `section`, `key`, or the name of the `site`."""

    name: str


@dataclass(frozen=True, slots=True)
class HeadValue:
    """What the head of a page has of its own: `canonical`, `data` or `extra`."""

    name: str


@dataclass(frozen=True, slots=True)
class OwnContent:
    """The page's own text for a slot of its layout."""

    slot: str


Slot = (
    EntryAddress
    | CurrentMark
    | PathMark
    | HomeAddress
    | PageAddress
    | FileAddress
    | NavigationFile
    | RegionSlot
    | PageValue
    | HeadValue
    | OwnContent
)

CONTENT = RegionSlot("content")
"""The text of the page."""

_KINDS = {kind.__name__: kind for kind in get_args(Slot)}


@lru_cache(maxsize=4096)
def room_for(slot: Slot) -> Markup:
    """Room for a slot, as it stands in rendered text."""
    return Markup(f"{NUL}{json.dumps([type(slot).__name__, *astuple(slot)])}{NUL}")


@lru_cache(maxsize=4096)
def slot_in(room: str) -> Slot:
    """The slot for which there is room: what stands between the marks."""
    kind, *values = json.loads(room)
    slot: Slot = _KINDS[kind](*values)
    return slot
