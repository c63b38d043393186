"""The entries of menus, what is marked in them, and breadcrumbs."""

from __future__ import annotations

from typing import NamedTuple

from selectolax.lexbor import LexborNode

from basilica.core.site_reader.built_page import BuiltCrumb, BuiltEntry, Marks
from basilica.core.site_reader.elements import text_of

_DEPTH = 40
"""How many lists are followed into one another; no menu needs more."""


_LISTS, _CONTROLS = ("ul", "ol"), ("a", "button", "span", "summary")
_WRAPPED = 60
"""How many elements of an entry are looked through for its link."""


class _Item(NamedTuple):
    """An element of a list, with those under it. ``nodes`` are the elements that stand for it."""

    label: str
    href: str | None
    current: str | None
    on_path: bool
    items: list[_Item]
    first: bool
    """Whether it repeats the entry whose button opens the list in which it stands first."""
    nodes: tuple[int, ...]


class ReadMenu(NamedTuple):
    """A menu as it was read: its entries, what is marked, and by `li` (its number in the tree) the entry it is."""

    entries: tuple[BuiltEntry, ...]
    marks: Marks
    owners: dict[int, int]


def menu_in(node: LexborNode) -> ReadMenu:
    """The menu that a list is."""
    current: list[tuple[int, str]] = []
    path: list[int] = []
    owners: dict[int, int] = {}
    count = 0

    def entries(items: list[_Item]) -> tuple[BuiltEntry, ...]:
        nonlocal count
        found = []
        for item in items:
            if item.current is not None:
                current.append((count, item.current))
            if item.on_path:
                path.append(count)
            owners.update(dict.fromkeys(item.nodes, count))
            count += 1
            found.append(BuiltEntry(item.label, item.href, entries(item.items)))
        return tuple(found)

    made = entries(_items(node))
    return ReadMenu(made, Marks(tuple(current), tuple(path)), owners)


def _items(node: LexborNode, depth: int = 0) -> list[_Item]:
    found = []
    for li in node.iter() if depth < _DEPTH else ():
        if li.tag != "li":
            continue
        control: LexborNode | None = None
        items: list[_Item] = []
        for child in li.iter():
            if child.tag in _LISTS:
                items = _items(child, depth + 1)
            elif control is None and child.tag in _CONTROLS:
                control = child
        if control is None:
            control, list_below = _inside(li)
            items = _items(list_below, depth + 1) if list_below is not None and not items else items
        if control is None:
            found.append(_Item("", None, None, False, [], False, (li.mem_id,)))  # a line between entries
            continue
        attributes = control.attributes
        nodes: tuple[int, ...] = (li.mem_id,)
        if control.tag == "button" and items and items[0].first:
            # The button opens a list that begins with the page itself: together they are its entry.
            itself, *items = items
            attributes = {"href": itself.href, "aria-current": itself.current}
            nodes += itself.nodes
        own = li.attributes
        on_path, first = ("data-path" in own, own.get("class") == "b-first") if own else (False, False)
        href, current = attributes.get("href"), attributes.get("aria-current")
        found.append(_Item(text_of(control), href, current, on_path, items, first, nodes))
    return found


def _inside(li: LexborNode) -> tuple[LexborNode | None, LexborNode | None]:
    """What stands for an entry, and the list below it, where these are wrapped in other elements."""
    waiting = [child for child in li.iter() if child.tag not in _LISTS]
    lists: LexborNode | None = None
    control: LexborNode | None = None
    steps = 0
    while waiting and steps < _WRAPPED:
        node = waiting.pop(0)
        steps += 1
        if node.tag in _LISTS:
            lists = lists or node
        elif node.tag in _CONTROLS and control is None:
            control = node
        else:
            waiting[:0] = list(node.iter())
    return control, lists


def bare_menu(nav: LexborNode) -> ReadMenu:
    """A menu that is no list: its links, one beside the other."""
    found = [(node, node.attributes) for node in nav.css("a[href]")]
    entries = tuple(BuiltEntry(text_of(node), own.get("href"), ()) for node, own in found)
    marked = ((number, own.get("aria-current")) for number, (_, own) in enumerate(found))
    return ReadMenu(entries, Marks(tuple((number, value) for number, value in marked if value is not None)), {})


def looks_like_crumbs(nav: LexborNode, name: str) -> bool:
    """Whether a navigation is one of breadcrumbs, as far as its name and its class tell."""
    return "breadcrumb" in (name + " " + (nav.attributes.get("class") or "")).lower()


def breadcrumbs_of(nav: LexborNode) -> tuple[BuiltCrumb, ...]:
    """The breadcrumbs of a navigation."""
    found = []
    for node in nav.css("li > a, li > span"):
        attributes = node.attributes
        found.append(BuiltCrumb(text_of(node), attributes.get("href"), attributes.get("aria-current")))
    return tuple(found)
