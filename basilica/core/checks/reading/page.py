"""One built page as it is read again: by the rules of HTML that browsers follow, and with nothing known of its map.

A page is read region by region: the children of its body, and the main landmark. What pages share is the same text on
many of them, so a region that was met before is not read again.
"""

from __future__ import annotations

import json
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, field
from functools import cached_property
from itertools import chain
from typing import Any, NamedTuple

from selectolax.lexbor import LexborHTMLParser, LexborNode

from basilica.core.outputs import File

HEADINGS = "h1, h2, h3, h4, h5, h6"
LINKS = "a[href], area[href]"
CONTROLS = "a[href], area[href], button, input, select, textarea, summary"

_KEPT_REGIONS = 4_000
_NAVS = 200
"""Navigation landmarks of a region that are read."""
_DEPTH = 40
"""How many lists, or boxes around the content, are followed into one another; no page needs more."""
_LEVELS = {f"h{level}": level for level in range(1, 7)}
_ROLES = {
    "main": "main",
    "nav": "navigation",
    "aside": "complementary",
    "header": "banner",
    "footer": "contentinfo",
    "search": "search",
}
"""Landmarks that an element is by itself (HTML Accessibility API Mappings)."""
_NAMED_ROLES = {"section": "region", "form": "form"}
"""Those that it is only with a name."""
_LANDMARKS = frozenset([*_ROLES.values(), *_NAMED_ROLES.values()])
_SECTIONING = frozenset(["article", "aside", "main", "nav", "section"])
_LOADS = {
    "img": ("src", "srcset"),
    "source": ("src", "srcset"),
    "script": ("src",),
    "iframe": ("src",),
    "video": ("src", "poster"),
    "audio": ("src",),
    "track": ("src",),
    "embed": ("src",),
    "object": ("data",),
    "link": ("href",),
    "input": ("src",),
}
"""What each element loads."""
_FOCUSED = frozenset(["button", "input", "select", "textarea", "summary", "iframe"])
"""What takes the focus without a ``tabindex``, beside links."""
_WRAPPERS = frozenset(["div", "form", "section", "article"])


class BuiltEntry(NamedTuple):
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


class Link(NamedTuple):
    """A link: its address as written, the name that is read out, and whether it stands in the main content. ``size`` is
    the width and height of what it shows, CSS px, where that is a picture alone."""

    href: str
    name: str
    in_main: bool
    current: str | None
    size: tuple[float, float] | None


class Load(NamedTuple):
    """Something that a page loads: the element, and the address as written."""

    tag: str
    url: str


class Landmark(NamedTuple):
    """A landmark: its role, its name (empty for none), and where it stands as the how-manieth of its element."""

    role: str
    name: str
    tag: str
    has_links: bool


class Nav(NamedTuple):
    """A navigation landmark with a list of links: its name and its entries."""

    name: str
    entries: tuple[BuiltEntry, ...]


@dataclass(slots=True, eq=False)
class Region:
    """What stands in a piece of a page. Regions with the same HTML are the same object."""

    tag: str
    in_main: bool
    size: int = 0
    """Bytes of its HTML; 0 for the main content."""
    links: list[Link] = field(default_factory=list)
    loads: list[Load] = field(default_factory=list)
    ids: list[str] = field(default_factory=list)
    headings: list[tuple[int, str]] = field(default_factory=list)
    """Level and text of each."""
    landmarks: list[Landmark] = field(default_factory=list)
    navs: list[Nav] = field(default_factory=list)
    crumbs: tuple[tuple[str, str | None, str | None], ...] | None = None
    stops: list[tuple[str, str, int]] = field(default_factory=list)
    """What takes the focus, in order: element, address (empty for none) and ``tabindex``."""
    styles: list[tuple[str, str]] = field(default_factory=list)
    """Elements with a style of their own: element and style."""
    words: str = ""
    """What is read outside menus, for the header and the footer alone."""
    varies: str = ""
    """On what the targets of its links depend: nothing, the `place` of the page in the site, or the `page` itself."""


@dataclass(slots=True, eq=False)
class Head:
    """What the head of a page says."""

    title: str | None = None
    titles: int = 0
    description: str | None = None
    robots: str = ""
    canonical: str | None = None
    refresh: str | None = None
    base: str | None = None
    data: tuple[tuple[int, str, str | None], ...] = ()
    loads: list[Load] = field(default_factory=list)
    links: list[str] = field(default_factory=list)
    """Addresses that the head names without loading them, such as the canonical one."""


@dataclass(eq=False)
class BuiltPage:
    """A page as it was read from its file. ``key`` is None for pages that the map does not list."""

    file: str
    key: str | None
    language: str | None
    head: Head
    regions: tuple[Region, ...]
    size: int

    @property
    def indexed(self) -> bool:
        """Whether search engines may list it."""
        return "noindex" not in self.head.robots and self.head.refresh is None

    @cached_property
    def ids(self) -> frozenset[str]:
        """Every id on the page."""
        return frozenset(chain.from_iterable(region.ids for region in self.regions))

    @cached_property
    def menus(self) -> Mapping[str, tuple[BuiltEntry, ...]]:
        """The entries of each navigation with a name; the first of those with the same name."""
        found: dict[str, tuple[BuiltEntry, ...]] = {}
        for region in self.regions:
            for nav in region.navs:
                if nav.name and nav.entries:
                    found.setdefault(nav.name, nav.entries)
        return found

    @property
    def breadcrumbs(self) -> tuple[tuple[str, str | None, str | None], ...]:
        """Text, address and ``aria-current`` of each breadcrumb."""
        return next((region.crumbs for region in self.regions if region.crumbs is not None), ())

    @property
    def data(self) -> tuple[tuple[int, str, str | None], ...]:
        """Position, name and address of each breadcrumb in the schema.org data."""
        return self.head.data

    def links(self) -> Iterator[Link]:
        """Every link, as one reads."""
        return chain.from_iterable(region.links for region in self.regions)

    def loads(self) -> Iterator[Load]:
        """Everything that is loaded."""
        return chain(self.head.loads, chain.from_iterable(region.loads for region in self.regions))

    def headings(self) -> list[tuple[int, str]]:
        """Every heading, as one reads."""
        return [heading for region in self.regions if region.headings for heading in region.headings]

    def landmarks(self) -> list[Landmark]:
        """Every landmark, as one reads."""
        return [landmark for region in self.regions if region.landmarks for landmark in region.landmarks]


class PageReader:
    """Reads the pages of one site. ``crumbs`` is the name of the breadcrumbs; None where it is not known."""

    def __init__(self, crumbs: str | None) -> None:
        self._crumbs = crumbs
        self._known: dict[str, Region] = {}

    def read(self, file: File, key: str | None) -> BuiltPage:
        """Read one page from its bytes."""
        tree = LexborHTMLParser(file.data)
        root = tree.root
        language = root.attributes.get("lang") if root is not None else None
        head = _head(tree.head) if tree.head is not None else Head()
        regions = tuple(self._regions(tree.body, b"<main" in file.data)) if tree.body is not None else ()
        return BuiltPage(file.path, key, language, head, regions, len(file.data))

    def _regions(self, body: LexborNode, has_main: bool, depth: int = 0) -> Iterator[Region]:
        for child in body.iter():
            tag = child.tag or ""
            if tag == "main" or child.attributes.get("role") == "main" or (not has_main and tag not in _ROLES):
                yield self._read(child, True)
            elif tag in _WRAPPERS and child.css_first("main, [role=main]") is not None:
                if depth > _DEPTH:
                    yield self._read(child, True)
                    continue
                itself = Region(tag, False)
                _own(itself, child, child.attributes)
                yield itself
                yield from self._regions(child, has_main, depth + 1)
            else:
                html = child.html or ""
                known = self._known.get(html)
                if known is None:
                    known = self._read(child, False)
                    known.size = len(html.encode())
                    if len(self._known) >= _KEPT_REGIONS:
                        self._known.clear()
                    self._known[html] = known
                yield known

    def _read(self, root: LexborNode, in_main: bool) -> Region:
        region = Region(root.tag or "", in_main)
        for node in root.traverse():
            tag, attributes = node.tag, node.attributes
            if attributes:
                _own(region, node, attributes)
            read = _READ.get(tag or "")
            if read is not None:
                read(region, node, attributes)
            if tag == "nav" and len(region.navs) < _NAVS:
                self._nav(region, node, attributes)
        if not in_main:
            region.words = _words_outside_menus(root)
        relative = [link.href for link in region.links if is_relative(link.href)]
        region.varies = ("page" if any(href[:1] in "#?" for href in relative) else "place") if relative else ""
        return region

    def _nav(self, region: Region, nav: LexborNode, attributes: Mapping[str, str | None]) -> None:
        name = attributes.get("aria-label") or ""
        is_crumbs = name == self._crumbs if self._crumbs is not None else _looks_like_crumbs(nav, name)
        if is_crumbs:
            region.crumbs = _breadcrumbs(nav) if region.crumbs is None else region.crumbs
            return
        top = next((child for child in nav.iter() if child.tag == "ul"), None)
        if top is None and self._crumbs is None:
            top = nav.css_first("ul, ol")
        region.navs.append(Nav(name, _entries(top) if top is not None else _bare_links(nav)))


def is_relative(href: str) -> bool:
    """Whether the target of an address depends on the page on which it stands."""
    return not href.startswith("/") and "://" not in href[:12]


def _own(region: Region, node: LexborNode, attributes: Mapping[str, str | None]) -> None:
    """What any element can have."""
    if "id" in attributes:
        region.ids.append(attributes["id"] or "")
    if "style" in attributes:
        region.styles.append((node.tag or "", attributes["style"] or ""))
    role = attributes.get("role")
    if role in _LANDMARKS:
        _landmark(region, node, attributes, str(role))
    if "tabindex" in attributes and node.tag not in _FOCUSED and "href" not in attributes:
        region.stops.append((node.tag or "", "", _number(attributes["tabindex"])))


def _link(region: Region, node: LexborNode, attributes: Mapping[str, str | None]) -> None:
    href = attributes.get("href")
    if href is None:
        return
    name, size = _name(node, attributes)
    region.links.append(Link(href, name, region.in_main, attributes.get("aria-current"), size))
    region.stops.append((node.tag or "", href, _number(attributes.get("tabindex"))))


def _control(region: Region, node: LexborNode, attributes: Mapping[str, str | None]) -> None:
    region.stops.append((node.tag or "", "", _number(attributes.get("tabindex"))))
    if node.tag in ("iframe", "input"):
        _load(region, node, attributes)


def _load(region: Region, node: LexborNode, attributes: Mapping[str, str | None]) -> None:
    region.loads += _loads(node.tag or "", attributes)


def _heading(region: Region, node: LexborNode, attributes: Mapping[str, str | None]) -> None:
    region.headings.append((_LEVELS[node.tag or ""], _text(node) or _name(node, attributes)[0]))


def _region_landmark(region: Region, node: LexborNode, attributes: Mapping[str, str | None]) -> None:
    tag = node.tag or ""
    if attributes.get("role") is not None:
        return
    named = bool(attributes.get("aria-label") or attributes.get("aria-labelledby"))
    role = _ROLES.get(tag) or (_NAMED_ROLES[tag] if named else None)
    if tag in ("header", "footer") and (region.in_main or _is_within_section(node)):
        return
    if role:
        _landmark(region, node, attributes, role)


def _landmark(region: Region, node: LexborNode, attributes: Mapping[str, str | None], role: str) -> None:
    name = attributes.get("aria-label") or ""
    labelled = attributes.get("aria-labelledby")
    if labelled and not name:
        name = "#" + labelled
    region.landmarks.append(Landmark(role, name, node.tag or "", role == "navigation"))


def _is_within_section(node: LexborNode) -> bool:
    above = node.parent
    while above is not None:
        if above.tag in _SECTIONING:
            return True
        above = above.parent
    return False


_READ: dict[str, Callable[[Region, LexborNode, Mapping[str, str | None]], None]] = {
    "a": _link,
    "area": _link,
    **dict.fromkeys(_FOCUSED, _control),
    **dict.fromkeys((tag for tag in _LOADS if tag not in _FOCUSED), _load),
    **dict.fromkeys(_LEVELS, _heading),
    **dict.fromkeys([*_ROLES, *_NAMED_ROLES], _region_landmark),
}


def _loads(tag: str, attributes: Mapping[str, str | None]) -> Iterator[Load]:
    for attribute in _LOADS[tag]:
        value = attributes.get(attribute)
        if value and attribute == "srcset":
            for candidate in value.split(","):
                url = candidate.split()
                if url:
                    yield Load(tag, url[0])
        elif value:
            yield Load(tag, value)


def _name(node: LexborNode, attributes: Mapping[str, str | None]) -> tuple[str, tuple[float, float] | None]:
    """The name that is read out (Accessible Name and Description Computation, the common part of it), and the size of
    what is shown where that is a picture alone."""
    text = _text(node)
    named = attributes.get("aria-label") or text
    if text:
        return named, None
    size = None
    for inner in node.css("img, svg, [aria-label], title"):
        own = inner.attributes
        if not named:
            named = own.get("alt") or own.get("aria-label") or (_text(inner) if inner.tag == "title" else "")
        if size is None and inner.tag in ("img", "svg"):
            size = _size(own)
    return named or attributes.get("title") or "", size


def _size(attributes: Mapping[str, str | None]) -> tuple[float, float] | None:
    try:
        return float(attributes["width"] or ""), float(attributes["height"] or "")
    except (KeyError, ValueError):
        return None


def _number(text: str | None) -> int:
    try:
        return int(text or 0)
    except ValueError:
        return 0


def _text(node: LexborNode) -> str:
    return " ".join((node.text() or "").split())


def _words_outside_menus(root: LexborNode) -> str:
    """The text of the header and the footer, without that of menus."""
    if root.tag not in ("header", "footer", "div"):
        return ""
    found = [root] if root.tag != "div" else root.css("header, footer")
    texts = []
    for node in found[:1]:
        text = _text(node)
        for nav in node.css("nav"):
            inner = _text(nav)
            if inner:
                text = text.replace(inner, " ", 1)
        texts.append(" ".join(text.split()))
    return " ".join(texts)


def _entries(node: LexborNode, depth: int = 0) -> tuple[BuiltEntry, ...]:
    entries = []
    for li in node.iter() if depth < _DEPTH else ():
        if li.tag != "li":
            continue
        control: LexborNode | None = None
        items: tuple[BuiltEntry, ...] = ()
        for child in li.iter():
            if child.tag == "ul":
                items = _entries(child, depth + 1)
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
        entries.append(BuiltEntry(_text(control), href, current, on_path, items, first))
    return tuple(entries)


def _bare_links(nav: LexborNode) -> tuple[BuiltEntry, ...]:
    """The entries of a menu that is no list: its links, one beside the other."""
    found = ((node, node.attributes) for node in nav.css("a[href]"))
    return tuple(BuiltEntry(_text(node), own.get("href"), own.get("aria-current"), False, ()) for node, own in found)


def _looks_like_crumbs(nav: LexborNode, name: str) -> bool:
    return "breadcrumb" in (name + " " + (nav.attributes.get("class") or "")).lower()


def _breadcrumbs(nav: LexborNode) -> tuple[tuple[str, str | None, str | None], ...]:
    found = []
    for node in nav.css("li > a, li > span"):
        attributes = node.attributes
        found.append((_text(node), attributes.get("href"), attributes.get("aria-current")))
    return tuple(found)


def _head(node: LexborNode) -> Head:
    head = Head()
    for child in node.iter():
        tag, attributes = child.tag, child.attributes
        if tag == "title":
            head.titles += 1
            head.title = _text(child) if head.title is None else head.title
        elif tag == "meta":
            _meta(head, attributes)
        elif tag == "link":
            _head_link(head, attributes)
        elif tag == "script":
            if attributes.get("src"):
                head.loads.append(Load("script", attributes["src"] or ""))
            elif attributes.get("type") == "application/ld+json" and not head.data:
                head.data = _data(child.text() or "")
        elif tag == "base":
            head.base = attributes.get("href")
    return head


def _meta(head: Head, attributes: Mapping[str, str | None]) -> None:
    name, content = (attributes.get("name") or "").lower(), attributes.get("content") or ""
    if name == "description" and head.description is None:
        head.description = " ".join(content.split())
    elif name == "robots":
        head.robots = content.lower()
    elif (attributes.get("http-equiv") or "").lower() == "refresh":
        head.refresh = content.partition("=")[2].strip(" '\"") or None


def _head_link(head: Head, attributes: Mapping[str, str | None]) -> None:
    href, rel = attributes.get("href"), (attributes.get("rel") or "").lower().split()
    if not href:
        return
    if "canonical" in rel:
        head.canonical = href
    if {"stylesheet", "icon", "preload", "modulepreload", "manifest", "apple-touch-icon"} & set(rel):
        head.loads.append(Load("link", href))
    else:
        head.links.append(href)


def _data(text: str) -> tuple[tuple[int, str, str | None], ...]:
    try:
        data: Any = json.loads(text)
        if data["@type"] == "BreadcrumbList":
            return tuple((i["position"], str(i["name"]), _address(i.get("item"))) for i in data["itemListElement"])
    except (ValueError, KeyError, TypeError, AttributeError):
        pass
    return ()


def _address(item: Any) -> str | None:
    """The address of a breadcrumb in the data: a text, or a thing whose name it is."""
    if isinstance(item, dict):
        item = item.get("@id")
    return item if isinstance(item, str) else None
