"""What a built page says, as values."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from functools import cached_property
from itertools import chain
from typing import NamedTuple

from basilica.core.shared.locales import primary

HEADINGS = "h1, h2, h3, h4, h5, h6"
LINKS = "a[href], area[href]"
_SCHEME = re.compile(r"[A-Za-z][A-Za-z0-9+.-]*:")
CONTROLS = "a[href], area[href], button, input, select, textarea, summary"


class BuiltEntry(NamedTuple):
    """An entry of a menu as it stands in pages, without its marks. ``href`` is as written."""

    label: str
    href: str | None
    items: tuple[BuiltEntry, ...]


class Marks(NamedTuple):
    """What one page marks in a menu: the current entries with their ``aria-current``, and those on the path to them.
    Entries are named by their number, as one reads."""

    current: tuple[tuple[int, str], ...] = ()
    path: tuple[int, ...] = ()


@dataclass(slots=True, eq=False)
class BuiltMenu:
    """The entries of a menu. Menus that are alike are the same object on all pages; what differs are the marks."""

    entries: tuple[BuiltEntry, ...]


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
    size: tuple[float, float] | None


class Load(NamedTuple):
    """Something that a page loads: the element, and the address as written."""

    tag: str
    url: str


class Landmark(NamedTuple):
    """A landmark: its role, its name (empty for none), and for navigation where its links lead, as written."""

    role: str
    name: str
    links: tuple[str, ...] = ()


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
    """A navigation landmark with a list of links: its name, its menu, and what is marked in that."""

    name: str
    menu: BuiltMenu
    marks: Marks = Marks()


@dataclass(slots=True, eq=False)
class Region:
    """What stands in a piece of a page. Regions with the same HTML, but for the marks in menus, are the same object."""

    tag: str
    in_main: bool
    size: int = 0
    """Bytes of its HTML; 0 for the main content."""
    links: list[Link] = field(default_factory=list)
    loads: list[Load] = field(default_factory=list)
    forms: list[str] = field(default_factory=list)
    """Addresses to which its forms lead."""
    ids: list[str] = field(default_factory=list)
    names: list[str] = field(default_factory=list)
    """Of `a` elements, which old pages jump to."""
    headings: list[Heading] = field(default_factory=list)
    landmarks: list[Landmark] = field(default_factory=list)
    navs: list[Nav] = field(default_factory=list)
    crumbs: tuple[BuiltCrumb, ...] | None = None
    stops: list[FocusStop] = field(default_factory=list)
    """In the order of the page."""
    styles: list[InlineStyle] = field(default_factory=list)
    words: str = ""
    """What is read outside menus, for the header and the footer alone."""
    text_left: int = 2_000_000
    """Characters of the words of links and headings that are still read; ones that hold one another have no end."""
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
    translations: list[tuple[str, str]] = field(default_factory=list)
    """Language tags and addresses of the same page in other languages, itself too."""
    links: list[str] = field(default_factory=list)
    """Addresses that the head names without loading them, such as the canonical one."""


class Translation(NamedTuple):
    """A page of which its language and its translations are known alone."""

    file: str
    language: str | None
    translations: tuple[tuple[str, str], ...]


@dataclass(eq=False)
class BuiltPage:
    """A page as it was read from its file. ``key`` is None for pages that the map does not list."""

    file: str
    key: str | None
    language: str | None
    head: BuiltHead
    regions: tuple[Region, ...]
    size: int
    marks: Mapping[tuple[int, int], Marks] = field(default_factory=dict)
    """By the numbers of a region and of a menu in it, what this page marks there; else what the region itself says."""
    marks_size: int = 0
    """Bytes of these marks, which the sizes of regions lack."""
    is_cut: bool = False
    """Whether it was read in part, since it is nested too deeply."""

    @property
    def indexed(self) -> bool:
        """Whether search engines may list it."""
        return "noindex" not in self.head.robots and self.head.refresh is None

    @cached_property
    def plain_language(self) -> str:
        """Its language without region and script: `en` of `en-GB`; empty where it says none."""
        return primary(self.language or "")

    @cached_property
    def ids(self) -> frozenset[str]:
        """Every id on the page."""
        return frozenset(chain.from_iterable(region.ids for region in self.regions))

    @cached_property
    def anchors(self) -> frozenset[str]:
        """What a link can jump to: ids, and the names of `a` elements (HTML, find a potential indicated element)."""
        return self.ids.union(*(region.names for region in self.regions))

    @cached_property
    def menus(self) -> Mapping[str, Nav]:
        """Each navigation with a name and entries; the first of those with the same name."""
        found: dict[str, Nav] = {}
        for nav in self.navs():
            if nav.name and nav.menu.entries:
                found.setdefault(nav.name, nav)
        return found

    def navs(self, in_main: bool = True) -> Iterator[Nav]:
        """Every navigation, as one reads, with what this page marks in it; those ``in_main`` too."""
        for number, region in enumerate(self.regions):
            for index, nav in enumerate(region.navs if in_main or not region.in_main else ()):
                marks = self.marks.get((number, index))
                yield nav._replace(marks=marks) if marks is not None else nav

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
