"""Menus as each page sees them: which entry is lit, and which entries lead to it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from basilica.core.site import Entry, EntryKind, Menu, Site

_NAMES = {"main": "Main", "footer": "Footer"}


@dataclass(frozen=True, slots=True)
class Mark:
    """The mark that a page puts on a menu: the lit entry, the value of its ``aria-current`` (``page`` or
    ``true``, WAI-ARIA 1.2), and the entries and groups that hold it, from the outside in."""

    entry: int
    current: str
    path: tuple[int, ...]


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
    at: int = field(compare=False, default=0)


@dataclass(frozen=True, slots=True)
class MenuPlan:
    """A menu whose entries are numbered. ``label`` is its name for those who cannot see it."""

    name: str
    label: str
    entries: tuple[PlannedEntry, ...]
    top: tuple[int, ...]
    page_entries: Mapping[str, int] = field(compare=False)
    """The entry of each page that stands in the menu."""

    def above(self, number: int) -> tuple[int, ...]:
        """The entries that hold entry ``number``, from the outside in."""
        found: list[int] = []
        parent = self.entries[number].parent
        while parent is not None:
            found.append(parent)
            parent = self.entries[parent].parent
        return tuple(reversed(found))

    def mark(self, site: Site, key: str) -> Mark | None:
        """The mark of page ``key``: its own entry, else that of its nearest ancestor in the page tree."""
        if key in self.page_entries:
            number = self.page_entries[key]
            return Mark(number, "page", self.above(number))
        for ancestor in site.ancestors(key):
            if ancestor in self.page_entries:
                number = self.page_entries[ancestor]
                return Mark(number, "true", self.above(number))
        return None


def plan_menu(menu: Menu) -> MenuPlan:
    """Number the entries of a menu."""
    entries: list[PlannedEntry] = []

    def number(entry: Entry, parent: int | None) -> int:
        mine = len(entries)
        planned = PlannedEntry(
            mine, entry.kind, entry.label, entry.page, entry.fragment, entry.url, parent, (), entry.at
        )
        entries.append(planned)
        items = tuple(number(item, mine) for item in entry.items)
        if items:
            entries[mine] = PlannedEntry(
                mine, entry.kind, entry.label, entry.page, entry.fragment, entry.url, parent, items, entry.at
            )
        return mine

    top = tuple(number(entry, None) for entry in menu.entries)
    standing = {e.page: e.number for e in entries if e.kind is EntryKind.PAGE and e.page is not None}
    label = _NAMES.get(menu.name) or menu.name.replace("-", " ").strip().capitalize() or menu.name
    return MenuPlan(menu.name, label, tuple(entries), top, standing)
