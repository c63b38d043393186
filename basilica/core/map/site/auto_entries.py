"""From a menu as it is written to its entries: labels filled in, `auto` taken from the tree, drafts left out."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import replace

from basilica.core.language.sections.menu_words import AutoOptions
from basilica.core.map.site.model import Entry, EntryKind, Page

Path = tuple[int, ...]
"""Where an entry stands in a menu as it is written: its place at the top, its place below that, and so on."""

Anchor = tuple[str | None, str | None, str]
"""A page, an anchor on it (None: the page itself), and the query of the link."""


def auto(
    below: str | None,
    levels: int,
    at: int,
    order: str = "map",
    without: tuple[str, ...] = (),
    first: int = 0,
    by: str = "",
) -> Entry:
    """What `auto` is in a menu as it is written."""
    return Entry(EntryKind.AUTO, "", page=below, auto_options=AutoOptions(levels, order, without, first, by), at=at)


def drafts_of(pages: Mapping[str, Page]) -> frozenset[str]:
    """Drafts, and the pages under them."""
    found: set[str] = set()
    apart = [page.options for page in pages.values() if page.set_options is not None]
    if not any(own.draft for own in apart):
        return frozenset()
    for key, page in pages.items():  # parents come first
        if page.options.draft or page.parent in found:
            found.add(key)
    return frozenset(found)


def expand(
    written: Iterable[Entry], pages: Mapping[str, Page], twice: Callable[[Entry], None] = lambda entry: None
) -> tuple[Entry, ...]:
    """The entries of a menu. ``twice`` is told of an entry that is written out and whose page, or anchor, stood
    before; `auto` brings no page that stands already."""
    return Expansion(written, pages, twice).entries


class Expansion:
    """A menu as it is written, made into its entries. ``places`` has, for each entry as one reads, where it is
    written; those made by `auto` share its place."""

    def __init__(
        self, written: Iterable[Entry], pages: Mapping[str, Page], twice: Callable[[Entry], None] = lambda entry: None
    ) -> None:
        written = tuple(written)
        self._pages = pages
        self._twice = twice
        self._drafts = drafts_of(pages)
        self._left = {
            key for key, page in pages.items() if page.set_options is not None and "menus" in page.options.hidden
        }
        self._left.update(self._drafts, _pages_in(written), with_parameters(pages))
        """What `auto` leaves out. What is written out stands where it is written."""
        self._standing: set[Anchor] = set()
        self.places: list[Path] = []
        self.made: dict[Path, tuple[Entry, ...]] = {}
        """By the place of each `auto`, what it makes."""
        self.entries = self._all_of(written, ())

    def _look_at(self, entry: Entry) -> None:
        anchor = (entry.page, entry.fragment, entry.query)
        if anchor in self._standing:
            self._twice(entry)
        self._standing.add(anchor)

    def _all_of(self, written: Iterable[Entry], above: Path) -> tuple[Entry, ...]:
        entries: list[Entry] = []
        for index, entry in enumerate(written):
            here = (*above, index)
            if entry.kind is EntryKind.AUTO:
                made = self._auto(entry, here)
                self.made[here] = made
                entries.extend(made)
                continue
            if entry.page in self._drafts:
                continue
            if entry.page is not None:
                self._look_at(entry)
            self.places.append(here)
            items = self._all_of(entry.items, here)
            if entry.kind is EntryKind.GROUP and not items and self._is_of_drafts(entry):
                self.places.pop()  # a heading over nothing
                continue
            label = entry.label or (self._pages[entry.page].label if entry.page is not None else "")
            if label is entry.label and items == entry.items:
                entries.append(entry)
            else:
                entries.append(replace(entry, label=label, items=items))
        return tuple(entries)

    def _is_of_drafts(self, group: Entry) -> bool:
        """Whether all that is written in a group are drafts."""
        return bool(group.items) and all(
            one.page in self._drafts or (one.kind is EntryKind.GROUP and self._is_of_drafts(one)) for one in group.items
        )

    def _auto(self, entry: Entry, here: Path) -> tuple[Entry, ...]:
        """What an `auto` stands for; by letter, with a group for each, which shares its place."""
        auto_options = entry.auto_options or AutoOptions(1)
        if auto_options.by != "letter":
            return self._tree(entry, auto_options, entry.page, auto_options.levels, here)
        before = len(self.places)
        made = self._tree(entry, replace(auto_options, order="title"), entry.page, auto_options.levels, here)
        groups: dict[str, list[Entry]] = {}
        for one in made:
            groups.setdefault(next((c.upper() for c in one.label if c.isalnum()), "–"), []).append(one)
        self.places[before:before] = [here] * len(groups)
        return tuple(
            Entry(EntryKind.GROUP, letter, items=tuple(items), at=entry.at) for letter, items in groups.items()
        )

    def _tree(
        self, entry: Entry, auto_options: AutoOptions, below: str | None, levels: int, here: Path
    ) -> tuple[Entry, ...]:
        pages = self._pages
        if below is None:
            keys = [key for key, page in pages.items() if page.parent is None]
        else:
            keys = list(pages[below].children)
        # The rows of a table are many: they come where their own page is asked for, and nowhere else.
        if below is None or (below != entry.page and not pages[below].options.from_table):
            keys = [key for key in keys if not pages[key].options.from_table]
        if auto_options.order == "title":
            keys.sort(key=lambda key: pages[key].label.casefold())
        entries: list[Entry] = []
        left = self._left.union(auto_options.without) if auto_options.without else self._left
        for key in keys:
            if key in left:
                continue
            if auto_options.first and below == entry.page and len(entries) >= auto_options.first:
                break
            if (key, None, "") in self._standing:
                continue
            page = pages[key]
            self._standing.add((key, None, ""))
            self.places.append(here)
            items = self._tree(entry, auto_options, key, levels - 1, here) if levels > 1 and page.children else ()
            if page.options.kind == "section" and not items:
                self.places.pop()  # it would open on nothing
                self._standing.discard((key, None, ""))
                continue
            entries.append(Entry(EntryKind.PAGE, page.label, key, None, None, items, at=entry.at))
        return tuple(entries)


def with_parameters(pages: Mapping[str, Page]) -> frozenset[str]:
    """Pages to which a link must give values, and those under them."""
    found: set[str] = set()
    for key, page in pages.items():
        own = page.path is not None and "{" in page.path and page.options.kind == "backend"
        if own or page.parent in found:
            found.add(key)
    return frozenset(found)


def _pages_in(written: Iterable[Entry]) -> Iterable[str]:
    for entry in written:
        if entry.kind is EntryKind.PAGE and entry.page is not None:
            yield entry.page
        yield from _pages_in(entry.items)
