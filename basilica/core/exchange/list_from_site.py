"""A site, or a part of it → items."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace
from urllib.parse import quote

from basilica.core.exchange.indented_list import needs_address
from basilica.core.exchange.list_items import Item, ItemKind
from basilica.core.map.site import Entry, EntryKind, Page
from basilica.core.map.site.ids import id_from
from basilica.core.plan import Plan


def items_from(plan: Plan, key: str | None = None) -> tuple[Item, ...]:
    """The pages as items: the main menu's first, as it has them; then the other menus; then what stands in none.
    With a ``key``, that page with those under it alone."""
    lister = _Lister(plan)
    if key is not None:
        page = plan.site.pages[key]
        return (lister.page(page, ()),)
    items = lister.level(plan.site.menus["main"].entries, None, set())
    for name, menu in plan.site.menus.items():
        if name != "main":
            items.append(Item(ItemKind.MENU, name, items=tuple(lister.level(menu.entries, None, set(), named=True))))
    apart = [key for key in plan.site.top if key not in lister.listed]
    if apart:
        pages = [plan.site.pages[key] for key in apart]
        items.append(Item(ItemKind.APART, "in no menu", items=tuple(lister.page(p, ()) for p in pages)))
    # The first page called home needs no address to be taken for it.
    for index, item in enumerate(items):
        if item.label.casefold() == "home" and item.kind is ItemKind.PAGE:
            bare = replace(item, address=None)
            items[index] = bare if item.address == "/" and not item.items else item
            break
    return tuple(items)


class _Lister:
    def __init__(self, plan: Plan) -> None:
        self.plan = plan
        self.pages = plan.site.pages
        self.listed: set[str] = set()
        self.taken: dict[str | None, set[str]] = {}
        self.by_label: dict[str, str] = {}

    def level(self, entries: Iterable[Entry], parent: str | None, met: set[str], named: bool = False) -> list[Item]:
        """Items for the entries of a menu below ``parent``; ``met`` gathers the pages among them."""
        items = []
        for entry in entries:
            if entry.kind is EntryKind.OUTSIDE:
                items.append(Item(ItemKind.LINK, entry.label, entry.url))
            elif entry.kind is EntryKind.FILE:
                items.append(Item(ItemKind.ENTRY, entry.label, f"file:{quote(entry.file)}"))
            elif entry.kind is EntryKind.GROUP:
                items.append(
                    Item(ItemKind.GROUP, entry.label, items=tuple(self.level(entry.items, parent, met, named)))
                )
            elif entry.page is not None:
                page = self.pages[entry.page]
                here = entry.kind is EntryKind.PAGE and page.parent == parent and page.key not in self.listed
                if here:
                    met.add(page.key)
                    items.append(self.page(page, entry.items))
                elif named and entry.label == page.label and self.by_label.get(page.label) == page.key:
                    items.append(Item(ItemKind.PAGE, page.label))
                else:
                    anchor = f"#{entry.fragment}" if entry.fragment else ""
                    items.append(Item(ItemKind.ENTRY, entry.label, f"page:{page.key}{anchor}"))
        return items

    def page(self, page: Page, entries: Iterable[Entry]) -> Item:
        """A page with those under it: first as a menu has them, then those that it leaves out."""
        address = self._address(page)
        self.listed.add(page.key)
        self.by_label.setdefault(page.label, page.key)
        met: set[str] = set()
        items = self.level(entries, page.key, met)
        # What no menu has brings no entries of its own: it follows the tree.
        items += [self.page(self.pages[key], ()) for key in page.children if key not in met]
        item = Item(ItemKind.PAGE, page.label, address, tuple(items), key=page.key)
        if address is None and needs_address(item, page.depth):
            return replace(item, address=self._written(page))
        return item

    def _address(self, page: Page) -> str | None:
        """The address of a page, where its label does not give it."""
        taken = self.taken.setdefault(page.parent, set())
        plain = id_from(page.label, taken) == page.id and page.path is None
        clash = page.label in self.by_label and page.parent is None
        taken.add(page.id)
        return None if plain and not clash else self._written(page)

    def _written(self, page: Page) -> str:
        if page.path is not None:
            return page.path
        path = self.plan.path_of(page.key) or f"/{page.key}"
        return path.rstrip("/").removesuffix(".html") or "/"
