"""Slots: what is left open in a rendered piece, because it differs from page to page or is decided while the site runs.

A template asks for one (`current(menu, entry)`, `region("main")`) and gets room for it. Each output then has its own
adapter, a function from a slot to text: the static site writes the value that a page has, a kit writes a call, PHP
writes PHP.

Slots are tuples, for they are looked up for every page; ``kind`` tells those apart that have the same fields.
"""

from __future__ import annotations

import json
from functools import lru_cache
from typing import NamedTuple, get_args

from markupsafe import Markup

NUL = "\0"
"""Marks room in rendered text; no text of a map or of content can hold it."""


class EntryAddress(NamedTuple):
    """The address to which an entry of a menu leads."""

    menu: str
    entry: int
    kind: str = "entry address"


class CurrentMark(NamedTuple):
    """The `aria-current` of an entry, on the pages on which it is current."""

    menu: str
    entry: int
    kind: str = "current"


class PathMark(NamedTuple):
    """The mark of an entry that holds the current one."""

    menu: str
    entry: int
    kind: str = "on path"


class HomeAddress(NamedTuple):
    """The address of home."""

    kind: str = "home"


class PageAddress(NamedTuple):
    """The address of a page, or of an anchor on it; ``query`` gives values, or stands behind it."""

    key: str
    fragment: str | None = None
    query: str = ""
    kind: str = "page address"


class FileAddress(NamedTuple):
    """The address of a file of the site."""

    name: str
    kind: str = "file"


class NavigationFile(NamedTuple):
    """The address of a file that Basilica writes, by the name it is known by."""

    name: str
    kind: str = "navigation file"


class RegionSlot(NamedTuple):
    """Another piece by its name: one that pages share, or what the map gives a page, such as its breadcrumbs."""

    name: str
    kind: str = "region"


class PageValue(NamedTuple):
    """A value of the page: its `title`, `label`, `description`, `section`, `key`, or the name of the `site`."""

    name: str
    kind: str = "page value"


class HeadValue(NamedTuple):
    """What the head of a page has of its own: `canonical`, `data` or `extra`."""

    name: str
    kind: str = "head value"


class OwnContent(NamedTuple):
    """The page's own text for a slot of its layout."""

    slot: str
    kind: str = "own content"


class OwnMenu(NamedTuple):
    """A menu as an own template writes it: which, and where it stands."""

    menu: str
    place: str
    kind: str = "own menu"


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
    | OwnMenu
)

CONTENT = RegionSlot("content")
"""The text of the page."""
LANGUAGES = RegionSlot("languages")
"""The links to a page in other languages."""
CANONICAL, DATA, EXTRA = HeadValue("canonical"), HeadValue("data"), HeadValue("extra")
TITLE, LABEL, DESCRIPTION = PageValue("title"), PageValue("label"), PageValue("description")
SECTION, KEY, SITE = PageValue("section"), PageValue("key"), PageValue("site")
HEAD_TITLE = PageValue("head_title")

_KINDS = {kind._field_defaults["kind"]: kind for kind in get_args(Slot)}


@lru_cache(maxsize=32_768)
def room_for(slot: Slot) -> Markup:
    """Room for a slot, as it stands in rendered text."""
    return Markup(f"{NUL}{json.dumps(slot)}{NUL}")


@lru_cache(maxsize=32_768)
def slot_in(room: str) -> Slot:
    """The slot for which there is room: what stands between the marks."""
    values = json.loads(room)
    slot: Slot = _KINDS[values[-1]](*values)
    return slot
