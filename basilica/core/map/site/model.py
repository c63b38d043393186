"""The site as values. ``at`` is always the offset in the map's text, and no part of what makes two sites equal."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from enum import StrEnum
from operator import attrgetter
from typing import NamedTuple

from basilica.core.language.sections.breadcrumbs_words import Crumbs
from basilica.core.language.sections.checks_words import NO_CHECKS, Checks
from basilica.core.language.sections.head_words import NO_HEAD, HeadSettings
from basilica.core.language.sections.menu_words import AutoOptions, EntryDisplay, MenuSettings
from basilica.core.language.sections.page_end_words import PageEnd
from basilica.core.language.sections.theme_words import Theme
from basilica.core.map.document import Lines
from basilica.core.map.map_files import NO_FILES, Files
from basilica.core.map.site.shared_values import NO_INLAY, InlaySettings, PageExtras, Part, Slots
from basilica.core.rules.place import Place
from basilica.core.shared.facts import Facts
from basilica.core.shared.markdown import Content


@dataclass(frozen=True, slots=True)
class Base:
    """Where the site lives: ``origin`` as ``https://host``, ``path`` as ``""`` or ``/mill`` (no final slash)."""

    origin: str
    path: str

    def __str__(self) -> str:
        return f"{self.origin}{self.path}/"


Value = str | int


@dataclass(frozen=True, slots=True)
class Header:
    """What the map says of the header, everywhere or on some pages: ``own`` are its words with their values, and
    ``mobile`` those below a width of the window; ``places`` has the offset of each word (``mobile.height``)."""

    own: tuple[tuple[str, Value], ...] = ()
    mobile: tuple[tuple[str, Value], ...] = ()
    places: Mapping[str, int] = field(compare=False, default_factory=dict)


@dataclass(frozen=True, slots=True)
class GivenAddress:
    """An address of a page beside its own, old or further, as the map gives it."""

    path: str
    at: int = field(compare=False)


@dataclass(frozen=True, slots=True)
class OldRedirect:
    """An old address that belongs to no page, and where it leads: to a ``page`` (its key, with an anchor in
    ``fragment``), to another site (``url``), or, with neither, nowhere: it is gone."""

    path: str
    page: str | None = None
    fragment: str = ""
    url: str = ""
    at: int = field(compare=False, default=0)


class TrailLevel(NamedTuple):
    """A level of breadcrumbs: a page, or (None) a name that leads nowhere. A page has its own label there."""

    page: str | None
    label: str


@dataclass(frozen=True, slots=True)
class PageOptions:
    """What sets a page apart from the plain ones. ``highlight`` is the key of another page; ``list`` and ``sequence``
    are empty where those of the whole site hold. ``trail_parent`` is the page after whose breadcrumbs this one stands,
    and ``trail`` are the levels between home and it, where the tree does not say so."""

    kind: str = "page"
    hidden: frozenset[str] = frozenset()
    draft: bool = False
    says_draft: bool = field(default=False, compare=False)
    """Whether the map says if it is one."""
    highlight: str | None = None
    trail_parent: str | None = None
    trail: tuple[TrailLevel, ...] = ()
    list: str = ""
    sequence: str = ""
    header: Header | None = None
    extra: PageExtras = field(default_factory=PageExtras)
    from_table: bool = False
    """Whether a table makes it, and no line of the map."""


_DEFAULT_OPTIONS = PageOptions()

FRONTS = ("index.htm", "index.xhtml", "index.shtml", "default.html", "default.htm")
"""What servers of files answer at a folder that has no index.html (common practice, no source)."""


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
    was: tuple[GivenAddress, ...] = ()
    """Addresses that it had once, and which lead to it."""
    also: tuple[GivenAddress, ...] = ()
    """Further addresses that serve it."""
    own_title: bool = True
    """Whether the map gives the title; else it is made from the id."""
    own_label: bool = False
    set_options: PageOptions | None = None
    """What sets it apart, if anything does; ``options`` has the defaults as well."""
    from_text: frozenset[str] = frozenset()
    """What the head of its text says of it and the map does not: `title`, `label`, `description`, `draft`, `date`,
    `updated`."""

    @property
    def options(self) -> PageOptions:
        """What sets it apart, or the defaults."""
        return self.set_options or _DEFAULT_OPTIONS

    @property
    def depth(self) -> int:
        """0 at the top."""
        return self.key.count("/")

    @property
    def is_home(self) -> bool:
        """Whether the map says that it is home: its path is `/`, however that is written."""
        return self.path is not None and self.path.startswith("/") and not self.path.strip("/.")

    @property
    def is_front(self) -> bool:
        """Whether its path is the file that servers answer with at `/` where there is no index.html: it is home where
        no page has `/` itself, as on a site that exists and begins with index.htm."""
        return self.path is not None and self.path.startswith("/") and self.path[1:].lower() in FRONTS

    def __eq__(self, other: object) -> bool:
        return isinstance(other, Page) and _compared(self) == _compared(other) and self.options == other.options

    def __ne__(self, other: object) -> bool:
        return not self == other

    def __hash__(self) -> int:
        return hash(self.key)


_compared = attrgetter(
    *("key", "id", "title", "label", "description", "path", "parent", "children"),
    *("was", "also", "own_title", "own_label"),
)
"""What makes two pages equal, beside their options."""


def homes_of(pages: Mapping[str, Page]) -> list[Page]:
    """The pages that are home by their path; one, where a map is right."""
    homes = [page for page in pages.values() if page.is_home]
    return homes or [page for page in pages.values() if page.is_front and page.parent is None]


class EntryKind(StrEnum):
    """What an entry of a menu is."""

    PAGE = "page"
    ANCHOR = "anchor"
    GROUP = "group"
    OUTSIDE = "outside"
    FILE = "file"
    """A file of the site, such as a timetable to print."""
    SEPARATOR = "separator"
    AUTO = "auto"
    """Only in a menu as it is written: pages of the tree, in place of entries written out."""


@dataclass(frozen=True, slots=True)
class Entry:
    """An entry of a menu. ``page`` is set for pages and anchors, with what stands behind it as ``query``, ``fragment``
    for anchors, ``url`` for outside links, ``file`` for files by the name they have beside the map; only pages and
    groups have ``items``.

    As it is written, ``label`` is empty where the page's own is meant; and `auto` has what it ``auto_options``, and as
    ``page`` the one whose children these are (None: the top of the tree)."""

    kind: EntryKind
    label: str
    page: str | None = None
    fragment: str | None = None
    url: str | None = None
    items: tuple[Entry, ...] = ()
    auto_options: AutoOptions | None = None
    display: EntryDisplay = field(default_factory=EntryDisplay)
    query: str = ""
    file: str = ""
    at: int = field(compare=False, default=0)


@dataclass(frozen=True, slots=True)
class Menu:
    """A named menu: its entries as it is ``written``, and as they are once `auto` is taken from the tree and drafts
    are left out."""

    name: str
    written: tuple[Entry, ...]
    entries: tuple[Entry, ...]
    settings: MenuSettings = field(default_factory=MenuSettings)
    at: int = field(compare=False, default=0)

    @property
    def place(self) -> str:
        """Where it stands: `header`, `utility`, `section`, `footer`, or `part`: where a part has it."""
        if self.name == "main":
            return "header"
        if self.settings.section is not None:
            return "section"
        return self.settings.place or ("utility" if self.name == "utility" else "footer")


class RowPlace(NamedTuple):
    """The row of a table that a page is made from: its ``file``, its ``number`` among the rows, from 1, and the
    ``line`` on which it begins, from 1 (0 where the file is not one of lines)."""

    file: str
    number: int
    line: int


class TableSource(NamedTuple):
    """What the map says of the table of a page: its ``file``, and by word of `table` the pattern, in which `{name}`
    stands for the cell of a column. ``words`` are those of its pages that one cell says, each by itself."""

    file: str
    patterns: Mapping[str, str]
    words: tuple[str, ...]


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
    crumbs: Crumbs
    header: Header
    page_end: PageEnd
    theme: Theme
    phrases: Mapping[str, str]
    """Every phrase that Basilica puts on pages."""
    lines: Lines = field(compare=False, repr=False)
    parts: Mapping[str, Part] = field(default_factory=dict)
    slots: Slots = ()
    layout: str = ""
    head: HeadSettings = NO_HEAD
    files: Files = NO_FILES
    texts: Mapping[str, Content] = field(default_factory=dict)
    """What tables make as the text of pages, by key."""
    rows: Mapping[str, RowPlace] = field(default_factory=dict, compare=False, repr=False)
    """The rows that pages are made from, by key, as they were read."""
    tables: Mapping[str, TableSource] = field(default_factory=dict, compare=False, repr=False)
    """The tables that make pages, by the key of the page above these, as they were read."""
    facts: Facts = field(default_factory=dict)
    """What `{fact:…}` says in texts, by name."""
    checks: Checks = NO_CHECKS
    redirects: tuple[OldRedirect, ...] = ()
    inlay: InlaySettings = NO_INLAY
    """How shared regions are set into pages that exist."""
    title: str = ""
    """The pattern of titles as browsers show them, such as `{title} · {site}`; empty: the page's title alone."""
    home_title: str = ""
    """The same for home alone."""
    named: bool = True
    """Whether the map gives the name; else it is home's title."""
    languages: tuple[str, ...] = ()
    """The tags of all its languages, the first that of the site itself; empty where there is one alone."""

    language_prefix: str = "others"
    """Whose addresses begin with their tag: those of all languages but the first (`others`), or of `all`."""

    @property
    def is_first(self) -> bool:
        """Whether this is the site in its first language, or its only one."""
        return not self.languages or self.language == self.languages[0]

    @property
    def prefix(self) -> str:
        """What its addresses begin with in this language: `/cy`, or nothing in the first, unless all have one."""
        has_one = bool(self.languages) and (self.language_prefix == "all" or not self.is_first)
        return f"/{self.language}" if has_one else ""

    def list_of(self, key: str) -> str:
        """What is listed below the content of a page."""
        return self.pages[key].options.list or self.page_end.list

    def sequence_of(self, key: str) -> str:
        """By what the links before and after a page go."""
        return self.pages[key].options.sequence or self.page_end.sequence

    def place_in_style(self, line: int) -> Place:
        """Where a line of the theme's style sheet, from 1, stands in the map."""
        place = self.lines.place(self.theme.css_at)
        return place._replace(line=place.line + line, column=1) if self.theme.css_in_lines else place

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
