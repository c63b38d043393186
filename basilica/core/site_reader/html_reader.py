"""One built page, read again by the rules of HTML that browsers follow, and with nothing known of its map.

A page is read region by region: the children of its body, and the main landmark. What pages share is the same text on
many of them, so a region that was met before is not read again.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from selectolax.lexbor import LexborHTMLParser, LexborNode

from basilica.core.shared.output_file import File
from basilica.core.site_reader.built_page import BuiltHead, BuiltPage, Nav, Region, is_relative
from basilica.core.site_reader.elements import READ, ROLES, own, words_outside_menus
from basilica.core.site_reader.html_head import head_of
from basilica.core.site_reader.html_menus import bare_links, breadcrumbs_of, entries_of, looks_like_crumbs

_KEPT_REGIONS = 4_000
_NAVS = 200
"""Navigation landmarks of a region that are read."""
_DEPTH = 40
"""How many boxes around the content are followed into one another; no page needs more."""
_WRAPPERS = frozenset(["div", "form", "section", "article"])


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
        head = head_of(tree.head) if tree.head is not None else BuiltHead()
        regions = tuple(self._regions(tree.body, b"<main" in file.data)) if tree.body is not None else ()
        return BuiltPage(file.path, key, language, head, regions, len(file.data))

    def _regions(self, body: LexborNode, has_main: bool, depth: int = 0) -> Iterator[Region]:
        for child in body.iter():
            tag = child.tag or ""
            if tag == "main" or child.attributes.get("role") == "main" or (not has_main and tag not in ROLES):
                yield self._read(child, True)
            elif tag in _WRAPPERS and child.css_first("main, [role=main]") is not None:
                if depth > _DEPTH:
                    yield self._read(child, True)
                    continue
                itself = Region(tag, False)
                own(itself, child, child.attributes)
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
                own(region, node, attributes)
            read = READ.get(tag or "")
            if read is not None:
                read(region, node, attributes)
            if tag == "nav" and len(region.navs) < _NAVS:
                self._nav(region, node, attributes)
        if not in_main:
            region.words = words_outside_menus(root)
        relative = [link.href for link in region.links if is_relative(link.href)]
        region.varies = ("page" if any(href[:1] in "#?" for href in relative) else "place") if relative else ""
        return region

    def _nav(self, region: Region, nav: LexborNode, attributes: Mapping[str, str | None]) -> None:
        name = attributes.get("aria-label") or ""
        is_crumbs = name == self._crumbs if self._crumbs is not None else looks_like_crumbs(nav, name)
        if is_crumbs:
            region.crumbs = breadcrumbs_of(nav) if region.crumbs is None else region.crumbs
            return
        top = next((child for child in nav.iter() if child.tag == "ul"), None)
        if top is None and self._crumbs is None:
            top = nav.css_first("ul, ol")
        region.navs.append(Nav(name, entries_of(top) if top is not None else bare_links(nav)))
