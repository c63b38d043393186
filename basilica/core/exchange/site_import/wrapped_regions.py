"""What stands on the pages of a site already where a header, breadcrumbs or a footer of a map would come: these take
its place, so that no page has two of them."""

from __future__ import annotations

from collections import defaultdict

from basilica.core.exchange.site_import.imported_site import ImportedPage, ImportedSite
from basilica.core.exchange.site_import.source_tree import Element

_WRAPPERS = frozenset(["div", "center", "header", "form"])
"""Elements around a whole page, or around its header, in which a header can stand."""

Spans = dict[str, list[tuple[int, int, str]]]
"""By file, where a region begins and ends in its bytes, and what it is called."""


def wrapped_regions(site: ImportedSite) -> Spans:
    """The regions of each page, those of one page apart from each other."""
    found: Spans = defaultdict(list)
    for file, page in site.pages.items():
        if page.page.charset.startswith("utf-16"):
            continue
        more = page.page.mark_length
        taken: list[tuple[int, int]] = []
        for name, start, end in _of_page(site, file, page):
            if all(end <= one[0] or start >= one[1] for one in taken):
                taken.append((start, end))
                found[file].append((start + more, end + more, name))
    return found


def _of_page(site: ImportedSite, file: str, page: ImportedPage) -> list[tuple[str, int, int]]:
    found: list[tuple[str, int, int]] = []
    parts = {part.name: part.blocks[file].element for part in site.parts if file in part.blocks}
    menus = {menu.name: menu.block.blocks[file].element for menu in site.menus if file in menu.block.blocks}
    blocks = parts | menus
    main = None
    if site.main is not None and file in site.main.block.blocks:
        main = site.main.block.blocks[file].element
        if site.main.name in site.before and _spans_the_page(main, page):
            before = [blocks[name] for name in blocks if name in site.before and blocks[name].parent is main.parent]
            found.append(("header", *_run(page, main, before)))
        else:  # beside the content, or below it: only the list is another
            core = site.main.element_of[file]
            lists = next((one for one in core.walk() if one.tag in ("ul", "ol")), core)
            found.append(("list main", lists.start, lists.end) if lists.tag != "tr" else ("", 0, 0))
    if file in site.trails:
        found.append(("breadcrumbs", site.trails[file].start, site.trails[file].end))
    for menu in site.menus:
        own = menu.block.blocks[file].element if menu.section and file in menu.block.blocks else None
        if own is not None and _spans_the_page(own, page):
            found.append(("section", own.start, own.end))
    after = [one for name, one in blocks.items() if name not in site.before and one is not main]
    after = [one for one in after if page.content_place is None or one.start >= page.content_place[1]]
    if after:
        last = max(after, key=lambda one: one.end)
        if _spans_the_page(last, page):
            found.append(("footer", *_run(page, last, [one for one in after if one.parent is last.parent])))
    return [one for one in found if one[0]]


def _spans_the_page(element: Element | None, page: ImportedPage) -> bool:
    """Whether an element stands above or below the content, and not beside it in a column."""
    if element is None or element.tag in ("td", "tr", "li", "aside"):
        return False
    around = element.parent
    while around is not None and around.tag not in ("body", "html", ""):
        holds_content = page.content_place is not None and around.inner <= page.content_place[0] < around.inner_end
        if around.tag not in _WRAPPERS or (around.tag != "header" and not holds_content):
            return False
        around = around.parent
    return True


def _run(page: ImportedPage, element: Element, others: list[Element]) -> tuple[int, int]:
    """An element with the shared ones that stand right before and behind it."""
    start, end = element.start, element.end
    grown = True
    while grown:
        grown = False
        for one in others:
            if one.end <= start and not page.page.data[one.end : start].strip():
                start, grown = one.start, True
            elif one.start >= end and not page.page.data[end : one.start].strip():
                end, grown = one.end, True
    return start, end
