"""One built page, read again by the rules of HTML that browsers follow, and with nothing known of its map.

A page is read region by region: the children of its body, and the main landmark. What pages share is the same text on
many of them, so a region that was met before is not read again.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from selectolax.lexbor import LexborHTMLParser, LexborNode

from basilica.core.shared.output_file import File
from basilica.core.site_reader.built_page import (
    BuiltEntry,
    BuiltHead,
    BuiltMenu,
    BuiltPage,
    Marks,
    Nav,
    Region,
    Translation,
    is_relative,
)
from basilica.core.site_reader.elements import READ, ROLES, own, words_outside_menus
from basilica.core.site_reader.html_head import head_of
from basilica.core.site_reader.html_menus import bare_menu, breadcrumbs_of, looks_like_crumbs, menu_in
from basilica.core.site_reader.nesting import within_depth
from basilica.core.site_reader.shared_regions import PLACE, Cut, SharedRegions, without_marks

_KEPT_REGIONS = 4_000
_NAVS = 200
"""Navigation landmarks of a region that are read."""
_DEPTH = 40
"""How many boxes around the content are followed into one another; no page needs more."""
_WRAPPERS = frozenset(["div", "form", "section", "article"])


_Found = tuple[tuple[Region, ...], dict[tuple[int, int], Marks]]
"""The regions of a page, and by the numbers of a region and of a menu in it what the page marks there."""


class PageReader:
    """Reads the pages of one site. ``crumbs`` is the name of the breadcrumbs; None where it is not known."""

    def __init__(self, crumbs: str | None) -> None:
        self._crumbs = crumbs
        self._known: dict[str, Region] = {}
        self._menus: dict[tuple[BuiltEntry, ...], BuiltMenu] = {}
        self._shared = SharedRegions()
        self._owners: list[dict[int, int]] = []

    def read(self, file: File, key: str | None) -> BuiltPage:
        """Read one page from its bytes; of one that is nested too deeply the beginning."""
        cut = self._shared.cut(file.data)
        tree, is_cut = _parsed(cut.data)
        found = self._found(tree, file, cut)
        if found is None:
            # What was cut out of something else, such as a larger region, has no place of its own: all is read then.
            cut = Cut(file.data)
            tree, is_cut = _parsed(cut.data)
            found = self._found(tree, file, cut)
        regions, marks = found or ((), {})
        root = tree.root
        language = root.attributes.get("lang") if root is not None else None
        head = head_of(tree.head) if tree.head is not None else BuiltHead()
        length = sum(more for _, _, more in cut.regions)
        return BuiltPage(file.path, key, language, head, regions, len(file.data), marks, length, is_cut)

    @staticmethod
    def head_alone(file: File) -> Translation:
        """The language of a page and the translations that it names, without the rest of it."""
        tree = LexborHTMLParser(file.data.partition(b"</head>")[0])
        head = head_of(tree.head) if tree.head is not None else BuiltHead()
        language = tree.root.attributes.get("lang") if tree.root is not None else None
        return Translation(file.path, language, tuple(head.translations))

    def _found(self, tree: LexborHTMLParser, file: File, cut: Cut) -> _Found | None:
        """The regions of a page and what it marks in them; None where what was cut out did not stand in its body."""
        regions: list[Region] = []
        marks: dict[tuple[int, int], Marks] = {}
        places = 0
        for one in self._regions(tree.body, b"<main" in file.data, bool(cut.regions)) if tree.body is not None else ():
            if isinstance(one, int):
                if one != places or one >= len(cut.regions):
                    return None
                places += 1
                one, said, _ = cut.regions[one]
                marks |= {(len(regions), index): each for index, each in said.items()}
            regions.append(one)
        return (tuple(regions), marks) if places == len(cut.regions) else None

    def _regions(self, body: LexborNode, has_main: bool, cut_out: bool, depth: int = 0) -> Iterator[Region | int]:
        """The regions of a page; for one that was cut out, the number of its place."""
        for child in body.iter():
            tag, place = child.tag or "", child.attributes.get(PLACE)
            if place is not None and cut_out and place.isdecimal():
                yield int(place)
            elif tag == "main" or child.attributes.get("role") == "main" or (not has_main and tag not in ROLES):
                yield self._read(child, True)
            elif tag in _WRAPPERS and child.css_first("main, [role=main]") is not None:
                if depth > _DEPTH:
                    yield self._read(child, True)
                    continue
                yield self._wrapper(child, tag)
                yield from self._regions(child, has_main, cut_out, depth + 1)
            else:
                yield self._outside(child)

    def _wrapper(self, child: LexborNode, tag: str) -> Region:
        """An element around the main content, without what is in it; once for all pages that have the same."""
        opening = f"<{tag}> {sorted(child.attributes.items())}"
        known = self._known.get(opening)
        if known is None:
            self._known[opening] = known = Region(tag, False)
            own(known, child, child.attributes)
        return known

    def _outside(self, child: LexborNode) -> Region:
        """A region outside the main content, read once for all pages on which its HTML is the same."""
        html = child.html or ""
        known = self._known.get(html)
        if known is None:
            known = self._read(child, False)
            known.size = len(html.encode())
            if len(self._known) >= _KEPT_REGIONS:
                self._known.clear()
            self._known[html] = known
            self._share(html)
        return known

    def _share(self, html: str) -> None:
        """Read a region without its marks, to be met again on pages with others."""
        plain, _ = without_marks(html.encode())
        body = LexborHTMLParser(b"<body>" + plain).body
        root = next(body.iter(), None) if body is not None else None
        if root is None or (root.html or "").encode() != plain:
            return
        self._owners = []
        region = self._read(root, False)
        region.size = len(plain)
        numbered = {li: (menu, entry) for menu, owners in enumerate(self._owners) for li, entry in owners.items()}
        self._shared.add(plain, region, [numbered.get(li.mem_id) for li in root.css("li")])

    def _read(self, root: LexborNode, in_main: bool) -> Region:
        region = Region(root.tag or "", in_main)
        for node in root.traverse():
            tag, attributes = node.tag, node.attributes
            if attributes:
                own(region, node, attributes)
            read = READ.get(tag or "")
            if read is not None:
                read(region, node, attributes)
            if tag == "nav" and len(region.navs) < _NAVS:
                self._nav(region, node, attributes)
        if not in_main:
            region.words = words_outside_menus(root)
        relative = [href for href in (*(link.href for link in region.links), *region.forms) if is_relative(href)]
        region.varies = ("page" if any(href[:1] in "#?" for href in relative) else "place") if relative else ""
        return region

    def _nav(self, region: Region, nav: LexborNode, attributes: Mapping[str, str | None]) -> None:
        name = attributes.get("aria-label") or ""
        is_crumbs = name == self._crumbs if self._crumbs is not None else looks_like_crumbs(nav, name)
        if is_crumbs:
            region.crumbs = breadcrumbs_of(nav) if region.crumbs is None else region.crumbs
            return
        top = next((child for child in nav.iter() if child.tag == "ul"), None)
        if top is None:
            top = nav.css_first("ul, ol")
        menu = menu_in(top) if top is not None else bare_menu(nav)
        self._owners.append(menu.owners)
        # Menus that are alike are the same object, so that what is worked out of one is worked out once.
        region.navs.append(Nav(name, self._menus.setdefault(menu.entries, BuiltMenu(menu.entries)), menu.marks))


def _parsed(data: bytes) -> tuple[LexborHTMLParser, bool]:
    """The page up to where it is nested too deeply, and whether it is."""
    read = within_depth(data)
    return LexborHTMLParser(read), len(read) < len(data)
