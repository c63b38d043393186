"""What was found in a site that exists: its pages and their tree, its menus, what pages share, and where they have
drifted from each other."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from enum import StrEnum

from basilica.core.exchange.site_import.follow import Follow
from basilica.core.exchange.site_import.found_menus import FoundEntry
from basilica.core.exchange.site_import.old_page import OldPage
from basilica.core.exchange.site_import.shared_blocks import SharedBlock
from basilica.core.exchange.site_import.source_tree import Element


class DriftKind(StrEnum):
    """In which way a page differs from what most pages have."""

    MISSING = "missing"
    ENTRY_MISSING = "entry missing"
    ENTRY_EXTRA = "extra entry"
    OTHER_LABEL = "other label"
    OTHER_TARGET = "other target"
    NOT_LINKED = "no link"
    WRONG_CURRENT = "wrong current entry"
    OTHER_WORDS = "other words"
    STYLE_MISSING = "style sheet missing"
    OTHER_LANGUAGE = "other language"
    OTHER_TRAIL = "other breadcrumbs"


@dataclass(frozen=True, slots=True)
class Drift:
    """A page that differs: in which ``block`` (its name; empty for the head), how, and in words. ``line`` and
    ``column`` are where, from 1, in the file of the page."""

    file: str
    block: str
    kind: DriftKind
    words: str
    line: int = 1
    column: int = 1


@dataclass(frozen=True)
class FoundMenu:
    """A menu that pages share. ``entries`` are as most pages have them, each with where it leads; ``share`` is on how
    many of the pages it stands, from 0 to 1; ``mark`` says in words how pages mark the current entry (empty: not)."""

    block: SharedBlock
    element_of: Mapping[str, Element]
    """By file, the element that holds the entries there."""
    entries: tuple[FoundEntry, ...]
    share: float
    mark: str = ""
    section: tuple[str, ...] = ()
    """For a menu of some pages alone: their files."""
    of_page: str | None = None
    """For such a menu, the file of the page below which all of them stand."""

    @property
    def name(self) -> str:
        """By what it is found on a page; the menus of several sections may be found by the same."""
        return self.block.name

    @property
    def key(self) -> tuple[str, str | None]:
        """What tells it from all others."""
        return self.block.name, self.of_page


@dataclass(frozen=True)
class ImportedPage:
    """A page as the map will have it. ``was`` are the addresses that only led to it; ``content`` is its own part of the
    old page, and ``trail`` the files in its breadcrumbs, where it has some."""

    page: OldPage
    id: str
    title: str
    label: str
    parent: str | None
    """The file of the page above it."""
    was: tuple[str, ...] = ()
    content: str = ""
    content_place: tuple[int, int] | None = None
    """Where that stands in the bytes of the page, as far as it is one piece."""
    trail: tuple[str, ...] = ()
    highlight: str | None = None
    """The file of the page whose entry it marks, where it is in no menu itself."""

    @property
    def file(self) -> str:
        """Its file."""
        return self.page.file


@dataclass(frozen=True)
class ImportedSite:
    """A whole site. ``pages`` by file, home first; ``main`` is the menu that is taken for the main one, of ``menus``
    that all could be; ``parts`` are blocks that are alike and no menu; ``others`` are the files that are no pages."""

    name: str
    title_pattern: str
    language: str
    base: str
    home: str | None
    pages: Mapping[str, ImportedPage]
    menus: tuple[FoundMenu, ...]
    main: FoundMenu | None
    parts: tuple[SharedBlock, ...]
    before: frozenset[str]
    """The names of the blocks that stand before the pages' own content."""
    within: frozenset[str]
    """The names of those that stand in the middle of it, and stay there when the pages move."""
    drift: tuple[Drift, ...]
    others: tuple[str, ...]
    gone: Mapping[str, str] = field(default_factory=dict)
    """Pages that only lead on to where no page of the site is: by file, the address to which they lead; empty for
    nowhere."""
    not_found: OldPage | None = None
    """The page for addresses that do not exist."""
    not_found_content: str = ""
    """What is its own."""
    with_sequence: frozenset[str] = frozenset()
    """The files of pages with links to the page before and the one after."""
    trails: Mapping[str, Element] = field(default_factory=dict)
    """By file, the element with its breadcrumbs."""
    follow: Follow = field(compare=False, repr=False, kw_only=True)
    """Where a link on a page leads."""
    notes: tuple[str, ...] = ()
    """What a person should look at, in words."""
    switches: Mapping[str, tuple[Element, ...]] = field(default_factory=dict)
    """By file, what leads from a page to its versions in other languages."""
    versions: Mapping[str, ImportedSite] = field(default_factory=dict)
    """The site in its other languages, by their tags. What is no page is said of the first alone."""
    partners: Mapping[str, Mapping[str, str]] = field(default_factory=dict)
    """By these tags, and by the file of a page, the file of its translation."""

    @property
    def in_languages(self) -> tuple[ImportedSite, ...]:
        """The site in each of its languages, the first one first."""
        return (self, *self.versions.values())
