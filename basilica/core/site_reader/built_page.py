"""What a built page says, as values."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from functools import cached_property
from itertools import chain
from typing import NamedTuple

HEADINGS = "h1, h2, h3, h4, h5, h6"
LINKS = "a[href], area[href]"
_SCHEME = re.compile(r"[A-Za-z][A-Za-z0-9+.-]*:")
CONTROLS = "a[href], area[href], button, input, select, textarea, summary"


class BuiltEntry(NamedTuple):
    """An entry of a menu as it stands in a page. ``href`` is as written; ``on_path`` is the mark of the path."""

    label: str
    href: str | None
    current: str | None
    on_path: bool
    items: tuple[BuiltEntry, ...]
    first: bool = False
    """Whether it repeats the entry whose button opens the list in which it stands first."""


def all_of(entries: tuple[BuiltEntry, ...]) -> Iterator[BuiltEntry]:
    """Every entry of a menu, as one reads."""
    for entry in entries:
        yield entry
        yield from all_of(entry.items)


class Link(NamedTuple):
    """A link: its address as written, the name that is read out, and whether it stands in the main content. ``size`` is
    the width and height of what it shows, CSS px, where that is a picture alone."""

    href: str
    name: str
    in_main: bool
    current: str | None
    size: tuple[float, float] | None


class Load(NamedTuple):
    """Something that a page loads: the element, and the address as written."""

    tag: str
    url: str


class Landmark(NamedTuple):
    """A landmark: its role, and its name (empty for none)."""

    role: str
    name: str


class BuiltCrumb(NamedTuple):
    """A breadcrumb as it is drawn: its text, its address (None for no link), and its ``aria-current``."""

    text: str
    href: str | None
    current: str | None


class CrumbData(NamedTuple):
    """A breadcrumb in the schema.org data: its position from 1, its name and its address."""

    position: int
    name: str
    address: str | None


class Heading(NamedTuple):
    """A heading: its level, and its text."""

    level: int
    text: str


class FocusStop(NamedTuple):
    """What takes the focus: its element, its address (empty for none) and its ``tabindex``."""

    element: str
    href: str
    tabindex: int


class InlineStyle(NamedTuple):
    """An element with a style of its own."""

    element: str
    style: str


class Nav(NamedTuple):
    """A navigation landmark with a list of links: its name and its entries."""

    name: str
    entries: tuple[BuiltEntry, ...]


@dataclass(slots=True, eq=False)
class Region:
    """What stands in a piece of a page. Regions with the same HTML are the same object."""

    tag: str
    in_main: bool
    size: int = 0
    """Bytes of its HTML; 0 for the main content."""
    links: list[Link] = field(default_factory=list)
    loads: list[Load] = field(default_factory=list)
    ids: list[str] = field(default_factory=list)
    headings: list[Heading] = field(default_factory=list)
    landmarks: list[Landmark] = field(default_factory=list)
    navs: list[Nav] = field(default_factory=list)
    crumbs: tuple[BuiltCrumb, ...] | None = None
    stops: list[FocusStop] = field(default_factory=list)
    """In the order of the page."""
    styles: list[InlineStyle] = field(default_factory=list)
    words: str = ""
    """What is read outside menus, for the header and the footer alone."""
    varies: str = ""
    """On what the targets of its links depend: nothing, the `place` of the page in the site, or the `page` itself."""


@dataclass(slots=True, eq=False)
class BuiltHead:
    """What the head of a page says."""

    title: str | None = None
    titles: int = 0
    description: str | None = None
    robots: str = ""
    canonical: str | None = None
    refresh: str | None = None
    base: str | None = None
    data: tuple[CrumbData, ...] = ()
    loads: list[Load] = field(default_factory=list)
    links: list[str] = field(default_factory=list)
    """Addresses that the head names without loading them, such as the canonical one."""


@dataclass(eq=False)
class BuiltPage:
    """A page as it was read from its file. ``key`` is None for pages that the map does not list."""

    file: str
    key: str | None
    language: str | None
    head: BuiltHead
    regions: tuple[Region, ...]
    size: int

    @property
    def indexed(self) -> bool:
        """Whether search engines may list it."""
        return "noindex" not in self.head.robots and self.head.refresh is None

    @cached_property
    def ids(self) -> frozenset[str]:
        """Every id on the page."""
        return frozenset(chain.from_iterable(region.ids for region in self.regions))

    @cached_property
    def menus(self) -> Mapping[str, tuple[BuiltEntry, ...]]:
        """The entries of each navigation with a name; the first of those with the same name."""
        found: dict[str, tuple[BuiltEntry, ...]] = {}
        for region in self.regions:
            for nav in region.navs:
                if nav.name and nav.entries:
                    found.setdefault(nav.name, nav.entries)
        return found

    @property
    def breadcrumbs(self) -> tuple[BuiltCrumb, ...]:
        """The breadcrumbs, as they are drawn."""
        return next((region.crumbs for region in self.regions if region.crumbs is not None), ())

    @property
    def data(self) -> tuple[CrumbData, ...]:
        """The breadcrumbs in the schema.org data."""
        return self.head.data

    def links(self) -> Iterator[Link]:
        """Every link, as one reads."""
        return chain.from_iterable(region.links for region in self.regions)

    def loads(self) -> Iterator[Load]:
        """Everything that is loaded."""
        return chain(self.head.loads, chain.from_iterable(region.loads for region in self.regions))

    def styled(self) -> Iterator[tuple[str, str, tuple[str, int]]]:
        """Every element with a style of its own: element, style, and where it stands (CSS selector and number)."""
        counts: Counter[str] = Counter()
        for region in self.regions:
            for tag, style in region.styles:
                yield tag, style, (f"{tag}[style]", counts[tag])
                counts[tag] += 1

    def headings(self) -> list[Heading]:
        """Every heading, as one reads."""
        return [heading for region in self.regions if region.headings for heading in region.headings]

    def landmarks(self) -> list[Landmark]:
        """Every landmark, as one reads."""
        return [landmark for region in self.regions if region.landmarks for landmark in region.landmarks]


def is_relative(href: str) -> bool:
    """Whether the target of an address depends on the page on which it stands."""
    return not href.startswith("/") and not _SCHEME.match(href)
