"""Built pages as they are read again: links, ids, menus and breadcrumbs, found in the HTML and nowhere else."""

from __future__ import annotations

import json
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Any
from urllib.parse import unquote

from selectolax.lexbor import LexborHTMLParser, LexborNode

from basilica.core.outputs import File
from basilica.core.plan import Plan, resolve

_CONTROLS = ("a", "button", "span")


@dataclass(frozen=True, slots=True)
class BuiltEntry:
    """An entry of a menu as it stands in a page. ``href`` is as written; ``on_path`` is the mark of the path."""

    label: str
    href: str | None
    current: str | None
    on_path: bool
    items: tuple[BuiltEntry, ...]
    first: bool = False
    """Whether it repeats the entry whose button opens the list in which it stands first."""


_LINE = BuiltEntry("", None, None, False, ())
"""A line between entries."""


@dataclass(frozen=True, slots=True)
class BuiltPage:
    """A page as it was read from its file. ``key`` is None for pages that the map does not list."""

    file: str
    key: str | None
    links: tuple[str, ...]
    ids: frozenset[str]
    menus: Mapping[str, tuple[BuiltEntry, ...]]
    breadcrumbs: tuple[tuple[str, str | None, str | None], ...]
    """Text, address and ``aria-current`` of each."""
    data: tuple[tuple[int, str, str | None], ...]
    """Position, name and address of each breadcrumb in the schema.org data."""


@dataclass(frozen=True, slots=True)
class Target:
    """Where a link leads: a file of the site, or outside (``file`` and ``path`` None). ``path`` is set for
    addresses below the site at which no file is."""

    file: str | None
    fragment: str = ""
    lost: str | None = None

    @property
    def outside(self) -> bool:
        """Whether it leads away from the site."""
        return self.file is None and self.lost is None


class Resolver:
    """Follows links as browsers do (WHATWG URL), from the address that a page has to a file of the build."""

    def __init__(self, plan: Plan, files: Iterable[str]) -> None:
        base = plan.site.base
        self._origin = base.origin if base else "https://site.invalid"
        self._prefix = base.path if base else ""
        self._by_file = plan.site.links == "file"
        self._paths = {route.file: route.path for route in (*plan.routes.values(), *plan.redirects)}
        self._files = {"/" + file: file for file in files}
        known = set(self._files.values())
        for route in plan.routes.values():
            if route.file in known or route.served:
                self._files[unquote(route.path)] = route.file
        self._known: dict[tuple[str, str], Target] = {}

    def address(self, file: str) -> str:
        """The full address at which a file is read."""
        path = "/" + file if self._by_file else self._paths.get(file, "/" + file)
        return self._origin + self._prefix + path

    def target(self, file: str, href: str) -> Target:
        """Where ``href`` on the page in ``file`` leads."""
        # Absolute and root references lead to the same place from everywhere.
        here = "" if href.startswith("/") or "://" in href[:12] else self._paths.get(file, file)
        cached = self._known.get((here, href))
        if cached is None:
            cached = self._known[here, href] = self._follow(file, href)
        return cached

    def _follow(self, file: str, href: str) -> Target:
        url = resolve(self.address(file), href)
        if url is None:
            return Target(None, lost=href)
        if url.protocol not in ("http:", "https:") or url.origin != self._origin:
            return Target(None)
        path = unquote(url.pathname)
        fragment = unquote(url.hash[1:])
        if not path.startswith(self._prefix + "/"):
            # Above the site's own path the host may hold other things. A relative link that climbs there, or a
            # root link to what is really a page of this site, was meant for the site.
            meant_here = path in self._files or not href.startswith(("/", "http:", "https:", "HTTP"))
            return Target(None, fragment, lost=path) if meant_here or not self._prefix else Target(None)
        found = self._files.get(path[len(self._prefix) :])
        return Target(found, fragment, None if found else path)


@dataclass(frozen=True, slots=True)
class BuiltSite:
    """Every page of a build as it was read again, in the order of the files, and the plan it should follow."""

    plan: Plan
    pages: tuple[BuiltPage, ...]
    redirects: tuple[BuiltPage, ...]
    """What stands at old addresses; it has no part in what pages share."""
    by_file: Mapping[str, BuiltPage]
    resolver: Resolver


def read_built(files: Iterable[File], plan: Plan) -> BuiltSite:
    """Read every file of a build."""
    keys = {route.file: key for key, route in plan.routes.items()}
    old = {route.file for route in plan.redirects}
    names, pages, redirects = [], [], []
    for file in files:
        names.append(file.path)
        if file.path in old:
            redirects.append(read_page(file, None, ""))
        elif file.path.endswith(".html"):
            pages.append(read_page(file, keys.get(file.path), plan.site.words["breadcrumb"]))
    by_file = {page.file: page for page in (*pages, *redirects)}
    return BuiltSite(plan, tuple(pages), tuple(redirects), by_file, Resolver(plan, names))


def read_page(file: File, key: str | None, breadcrumbs: str) -> BuiltPage:
    """Read one page from its bytes, by the rules of HTML that browsers follow. ``breadcrumbs`` is their label."""
    tree = LexborHTMLParser(file.data)
    links = []
    for node in tree.css("a[href], link[href], script[src], img[src]"):
        attributes = node.attributes
        links.append(attributes.get("href") or attributes.get("src") or "")
    menus: dict[str, tuple[BuiltEntry, ...]] = {}
    crumbs: tuple[tuple[str, str | None, str | None], ...] = ()
    for nav in tree.css("nav[aria-label]"):
        label = nav.attributes["aria-label"] or ""
        if label == breadcrumbs:
            crumbs = _breadcrumbs(nav)
            continue
        top = next((child for child in nav.iter() if child.tag == "ul"), None)
        if top is not None and label not in menus:
            menus[label] = _entries(top)
    return BuiltPage(
        file.path,
        key,
        tuple(links),
        frozenset(node.attributes["id"] or "" for node in tree.css("[id]")),
        menus,
        crumbs,
        _data(tree),
    )


def _text(node: LexborNode) -> str:
    return " ".join(node.text().split())


def _entries(node: LexborNode) -> tuple[BuiltEntry, ...]:
    entries = []
    for li in node.iter():
        if li.tag != "li":
            continue
        control: LexborNode | None = None
        items: tuple[BuiltEntry, ...] = ()
        for child in li.iter():
            if child.tag == "ul":
                items = _entries(child)
            elif control is None and child.tag in _CONTROLS:
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
        entries.append(BuiltEntry(_text(control), href, current, on_path, items, first))
    return tuple(entries)


def _breadcrumbs(nav: LexborNode) -> tuple[tuple[str, str | None, str | None], ...]:
    found = []
    for node in nav.css("ol > li > a, ol > li > span"):
        attributes = node.attributes
        found.append((_text(node), attributes.get("href"), attributes.get("aria-current")))
    return tuple(found)


def _data(tree: LexborHTMLParser) -> tuple[tuple[int, str, str | None], ...]:
    for node in tree.css('head script[type="application/ld+json"]'):
        try:
            data: Any = json.loads(node.text())
            if data["@type"] == "BreadcrumbList":
                return tuple((i["position"], i["name"], i.get("item")) for i in data["itemListElement"])
        except (ValueError, KeyError, TypeError, AttributeError):
            continue
    return ()
