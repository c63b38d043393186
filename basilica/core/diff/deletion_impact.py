"""Which page each place of a map's text is about, so that choosing in the text and in the plan are one."""

from __future__ import annotations

from collections import Counter
from typing import NamedTuple

from basilica.core.map.document import Document, Mapping
from basilica.core.plan import Plan
from basilica.core.plan.content_links import Contents, references_in
from basilica.core.plan.ended_addresses import answered


class PagePosition(NamedTuple):
    """From this line and column (from 1, in characters) on, up to the next place, the text is about a page, or
    about none (``key`` None)."""

    line: int
    column: int
    key: str | None


def page_positions(document: Document, plan: Plan) -> tuple[PagePosition, ...]:
    """The places of a text, in its order."""
    offsets: dict[int, str | None] = {}
    if isinstance(document.root, Mapping):
        for key, _ in document.root.pairs:
            offsets[key.start] = None
    for menu in plan.menus.values():
        for entry in menu.entries:
            # What `auto` makes stands at one place together and is about no page in particular.
            offsets[entry.at] = None if entry.at in offsets else entry.page
    for page in plan.site.pages.values():
        if not page.options.from_table and not plan.site.lines.elsewhere(page.at):
            offsets[page.at] = page.key
    return tuple(PagePosition(*document.lines.place(offset)[:2], key) for offset, key in sorted(offsets.items()))


class Reference(NamedTuple):
    """Something that leads to a page: the menu or the page that has it, and where it is written. ``file`` is empty
    for the map itself."""

    what: str
    line: int
    column: int
    file: str


def references_to(plan: Plan, contents: Contents, key: str) -> list[Reference]:
    """Every entry and every link in content that leads to page ``key``, in the order of the menus and the map."""
    found: dict[Reference, None] = {}
    for menu in plan.menus.values():
        for entry in menu.entries:
            if entry.page == key:
                found[Reference(f"The menu {menu.name}", *plan.site.lines.place(entry.at))] = None
    for name, content in contents.items():
        owner = name.partition(".")[0]  # behind it stands a slot, or a language
        if owner in plan.site.pages:
            for line, column, _ in references_in(content, key, plan):
                found[Reference(plan.site.pages[owner].label, line, column, content.name)] = None
    return list(found)


class DeletionImpact(NamedTuple):
    """What goes with a page that is deleted: the keys of it and those under it, the entries that lead to them (menu
    and label), the pages whose text links to them, with how many links die there; the addresses that end; and the
    nearest page above that stays and is built, to which these could lead (None: there is none)."""

    pages: tuple[str, ...]
    entries: tuple[tuple[str, str], ...]
    links: tuple[tuple[str, int], ...]
    addresses: tuple[str, ...]
    above: str | None


def deletion_impact(plan: Plan, contents: Contents, key: str) -> DeletionImpact:
    """What goes with page ``key``."""
    pages = tuple(other for other in plan.site.pages if other == key or other.startswith(f"{key}/"))
    entries = tuple((m.label, entry.label) for m in plan.menus.values() for entry in m.entries if entry.page in pages)
    counts: Counter[str] = Counter()
    for name, content in contents.items():
        owner = name.partition(".")[0]
        if owner in plan.site.pages and owner not in pages:
            counts[owner] += sum(len(references_in(content, page, plan)) for page in pages)
    links = tuple((owner, count) for owner, count in counts.items() if count)
    addresses = tuple(address for address, page in answered(plan).items() if page in pages)
    above = next((other for other in plan.site.ancestors(key) if other in plan.builds()), None)
    return DeletionImpact(pages, entries, links, addresses, above)
