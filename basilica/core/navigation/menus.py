"""Menus as each page sees them: which entry is current, and which entries lead to it."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field

from basilica.core.language.sections.menu_words import EntryDisplay, MenuSettings
from basilica.core.map.site import Entry, EntryKind, Menu, Site
from basilica.core.shared.locales import MENU_NAMES


@dataclass(frozen=True, slots=True)
class Mark:
    """The mark that a page puts on a menu: the current entries (several where a page stands there several times), the
    value of their ``aria-current`` (``page`` or ``true``, WAI-ARIA 1.2), and the entries and groups that hold one of
    them, as one reads."""

    entries: tuple[int, ...]
    current: str
    path: tuple[int, ...]

    @property
    def entry(self) -> int:
        """The first of the current entries."""
        return self.entries[0]


@dataclass(frozen=True, slots=True)
class PlannedEntry:
    """An entry with its number in the menu (from 0, as one reads), and the numbers of those under it."""

    number: int
    kind: EntryKind
    label: str
    page: str | None
    fragment: str | None
    url: str | None
    parent: int | None
    items: tuple[int, ...]
    display: EntryDisplay = field(default_factory=EntryDisplay)
    query: str = ""
    file: str = ""
    at: int = field(compare=False, default=0)


@dataclass(frozen=True, slots=True)
class MenuPlan:
    """A menu whose entries are numbered. ``label`` is its name for those who cannot see it, ``place`` where it
    stands."""

    name: str
    label: str
    place: str
    settings: MenuSettings
    entries: tuple[PlannedEntry, ...]
    top: tuple[int, ...]
    page_entries: Mapping[str, tuple[int, ...]] = field(compare=False)
    """The entries of each page that stands in the menu: one, or several."""

    def above(self, number: int) -> tuple[int, ...]:
        """The entries that hold entry ``number``, from the outside in."""
        found: list[int] = []
        parent = self.entries[number].parent
        while parent is not None:
            found.append(parent)
            parent = self.entries[parent].parent
        return tuple(reversed(found))

    def mark(self, site: Site, key: str) -> Mark | None:
        """The mark of page ``key``: the first entry that ``candidates`` comes to."""
        for candidate, _ in candidates(site, key):
            numbers = self.page_entries.get(candidate)
            if numbers is not None:
                path = self.above(numbers[0])
                if len(numbers) > 1:
                    path = tuple(sorted({above for number in numbers for above in self.above(number)}))
                return Mark(numbers, "page" if candidate == key else "true", path)
        return None

    def visible_on(self, site: Site, key: str | None) -> bool:
        """Whether the menu stands on page ``key`` (None: the page for addresses that do not exist)."""
        section = self.settings.section
        return section is None or (key is not None and (key == section or section in site.ancestors(key)))


def candidates(site: Site, key: str) -> Iterator[tuple[str, str]]:
    """The pages whose entry could be current on page ``key``, the first that has one first; and why: `itself`, `above`
    (a page above it), or `highlight` (named by the page before it)."""
    why = "itself"
    for page in (key, *site.ancestors(key)):
        yield page, why
        named = site.pages[page].options.highlight
        if named is not None:
            yield named, "highlight"
        why = "above"


def plan_menu(menu: Menu, words: Mapping[str, str]) -> MenuPlan:
    """Number the entries of a menu. ``words`` are the phrases that Basilica puts on pages."""
    entries: list[PlannedEntry] = []

    def number(entry: Entry, parent: int | None) -> int:
        mine = len(entries)
        what = mine, entry.kind, entry.label, entry.page, entry.fragment, entry.url, parent
        entries.append(PlannedEntry(*what, (), entry.display, entry.query, entry.file, entry.at))
        items = tuple(number(item, mine) for item in entry.items)
        if items:
            entries[mine] = PlannedEntry(*what, items, entry.display, entry.query, entry.file, entry.at)
        return mine

    top = tuple(number(entry, None) for entry in menu.entries)
    of_page: dict[str, tuple[int, ...]] = {}
    for planned in entries:
        if planned.kind is EntryKind.PAGE and planned.page is not None:
            of_page[planned.page] = (*of_page.get(planned.page, ()), planned.number)
    label = menu.settings.label or (words[menu.name] if menu.name in MENU_NAMES else "")
    label = label or menu.name.replace("-", " ").strip().capitalize() or menu.name
    return MenuPlan(menu.name, label, menu.place, menu.settings, tuple(entries), top, of_page)
