"""From a menu as it is written to its entries: labels of pages filled in, `auto` taken from the tree."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import replace

from basilica.core.site.model import Entry, EntryKind, Page


def auto(below: str | None, levels: int, at: int) -> Entry:
    """What `auto` is in a menu as it is written."""
    return Entry(EntryKind.AUTO, "", page=below, levels=levels, at=at)


def expand(
    written: Iterable[Entry], pages: Mapping[str, Page], twice: Callable[[Entry], None] = lambda entry: None
) -> tuple[Entry, ...]:
    """The entries of a menu. An entry whose page, or anchor, stood before is left out; ``twice`` is told of it."""
    standing: set[tuple[str | None, str | None]] = set()
    top = tuple(key for key, page in pages.items() if page.parent is None)

    def stands(entry: Entry) -> bool:
        if (entry.page, entry.fragment) in standing:
            twice(entry)
            return True
        standing.add((entry.page, entry.fragment))
        return False

    def tree(below: str | None, levels: int, at: int) -> tuple[Entry, ...]:
        entries = []
        for key in top if below is None else pages[below].children:
            entry = Entry(EntryKind.PAGE, pages[key].label, page=key, at=at)
            if not stands(entry):
                entries.append(replace(entry, items=tree(key, levels - 1, at) if levels > 1 else ()))
        return tuple(entries)

    def all_of(written: Iterable[Entry]) -> tuple[Entry, ...]:
        entries: list[Entry] = []
        for entry in written:
            if entry.kind is EntryKind.AUTO:
                entries.extend(tree(entry.page, entry.levels, entry.at))
                continue
            met = entry.page is not None and stands(entry)
            items = all_of(entry.items)
            if met:
                continue
            label = entry.label or (pages[entry.page].label if entry.page is not None else "")
            entries.append(replace(entry, label=label, items=items))
        return tuple(entries)

    return all_of(written)
