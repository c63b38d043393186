"""The entries of menus, and breadcrumbs."""

from __future__ import annotations

from selectolax.lexbor import LexborNode

from basilica.core.site_reader.built_page import BuiltCrumb, BuiltEntry
from basilica.core.site_reader.elements import text_of

_DEPTH = 40
"""How many lists are followed into one another; no menu needs more."""
_LINE = BuiltEntry("", None, None, False, ())
"""A line between entries."""


def entries_of(node: LexborNode, depth: int = 0) -> tuple[BuiltEntry, ...]:
    """The entries of a list, and those under them."""
    entries = []
    for li in node.iter() if depth < _DEPTH else ():
        if li.tag != "li":
            continue
        control: LexborNode | None = None
        items: tuple[BuiltEntry, ...] = ()
        for child in li.iter():
            if child.tag == "ul":
                items = entries_of(child, depth + 1)
            elif control is None and child.tag in ("a", "button", "span"):
                control = child
        if control is None:
            entries.append(_LINE)
            continue
        attributes = control.attributes
        if control.tag == "button" and items and items[0].first:
            # The button opens a list that begins with the page itself: together they are its entry.
            itself, *others = items
            items = tuple(others)
            attributes = {"href": itself.href, "aria-current": itself.current}
        own = li.attributes
        on_path, first = ("data-path" in own, own.get("class") == "b-first") if own else (False, False)
        href, current = attributes.get("href"), attributes.get("aria-current")
        entries.append(BuiltEntry(text_of(control), href, current, on_path, items, first))
    return tuple(entries)


def bare_links(nav: LexborNode) -> tuple[BuiltEntry, ...]:
    """The entries of a menu that is no list: its links, one beside the other."""
    found = ((node, node.attributes) for node in nav.css("a[href]"))
    return tuple(BuiltEntry(text_of(node), own.get("href"), own.get("aria-current"), False, ()) for node, own in found)


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
