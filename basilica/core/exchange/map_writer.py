"""Items → the text of a map."""

from __future__ import annotations

from collections.abc import Container, Iterable
from dataclasses import dataclass, field
from urllib.parse import unquote

from basilica.core.exchange import list_rules
from basilica.core.exchange.list_items import Item, ItemKind
from basilica.core.exchange.list_reader import with_home
from basilica.core.map.document.scalar_writer import write_scalar
from basilica.core.map.site.ids import id_from
from basilica.core.map.site.page_reader import is_id
from basilica.core.map.site.references import References, shortest
from basilica.core.rules.finding import Finding, Findings
from basilica.core.rules.place import START


@dataclass
class _Page:
    """A page on its way into the text."""

    key: str
    id: str
    title: str
    path: str | None
    stem: str
    pages: dict[str, _Page] = field(default_factory=dict)
    """Those under it, by id."""


@dataclass
class _Entry:
    """An entry of a menu on its way into the text: of a page, by ``key``; or with ``head`` for what is written."""

    key: str | None
    head: str = ""
    items: list[_Entry] = field(default_factory=list)


def map_of(items: Iterable[Item], site: str) -> tuple[str, tuple[Finding, ...]]:
    """The text of a map with these pages and menus; ``site`` is the text of its other sections, such as the lines
    below `site:`. What the list leaves open is decided, and said in the findings."""
    writer = _Writer()
    writer.take(with_home(tuple(items)))
    return site.rstrip("\n") + "\n\n" + writer.text(), writer.findings.done()


class _Writer:
    def __init__(self) -> None:
        self.findings = Findings()
        self.pages: dict[str, _Page] = {}
        self.menus: dict[str, list[_Entry]] = {"main": []}
        self.plain = True
        self.by_label: dict[str, str] = {}

    def take(self, items: tuple[Item, ...]) -> None:
        main = [item for item in items if item.kind not in (ItemKind.MENU, ItemKind.APART)]
        main += [one for item in items if _menu_name(item) == "main" for one in item.items]
        self.plain = len(items) == len(main) and not _needs_words(main)
        self.menus["main"] = self.level(main, None, self.pages, 2)
        for item in items:
            name = _menu_name(item)
            if item.kind is ItemKind.APART:
                self.level(item.items, None, self.pages, 0)
            elif name and name != "main":
                self.menus.setdefault(name, []).extend(self.level(item.items, None, self.pages, 1, named=True))
        first = {page_id: page for page_id, page in self.pages.items() if page.stem == ""}
        if not first:
            home = _Page("home", id_from("Home", self.pages), "Home", "/", "")
            first = {home.id: home}
            self.menus["main"].insert(0, _Entry(home.id))
            self.findings.add(
                list_rules.LIST_NOTE, START, "No line is home, so a home page is added.", "Write `Home` first."
            )
        self.pages = {**first, **self.pages}

    def level(
        self, items: Iterable[Item], parent: _Page | None, among: dict[str, _Page], levels: int, named: bool = False
    ) -> list[_Entry]:
        """Make the pages of some lines, and give back their entries; entries under pages go so many levels deep,
        and deeper where there is something that only a menu can say. In a menu with a name (``named``) a label that
        another page has already means that page, but not under a page."""
        entries = []
        for item in items:
            if item.kind is ItemKind.GROUP:
                below = self.level(item.items, parent, among, levels - 1, named)
                entries.append(_Entry(None, f"group: {write_scalar(item.label)}", below))
            elif item.kind is ItemKind.LINK:
                url = write_scalar(item.address or "")
                entries.append(_Entry(None, f"{{label: {write_scalar(item.label)}, url: {url}}}"))
            elif item.kind is ItemKind.ENTRY:
                word, _, reference = (item.address or "").partition(":")
                reference = unquote(reference) if word == "file" else reference
                label = write_scalar(item.label)
                entries.append(_Entry(None, f"{{{word}: {write_scalar(reference)}, label: {label}}}"))
            elif named and not item.items and item.address is None and item.label in self.by_label:
                entries.append(_Entry(self.by_label[item.label]))
            else:
                page = self.page(item, parent, among)
                inner = self.level(item.items, page, page.pages, levels - 1)
                entries.append(_Entry(page.key, items=inner if levels > 1 or _needs_words(item.items) else []))
        return entries

    def page(self, item: Item, parent: _Page | None, among: dict[str, _Page]) -> _Page:
        above = parent.stem if parent else ""
        page_id, path = _id_and_path(item, above, among)
        stem = f"{above}/{page_id if path is None else path}"
        if path is not None and path.startswith("/"):
            stem = "/" + path.strip("/")
        key = f"{parent.key}/{page_id}" if parent else page_id
        page = _Page(key, page_id, item.label, path, stem.rstrip("/"))
        among[page_id] = page
        self.by_label.setdefault(item.label, key)
        return page

    def text(self) -> str:
        lines = ["pages:"]
        self.references = References(_keys(self.pages.values()))
        self._write_pages(self.pages.values(), 1, lines)
        menus = {name: entries for name, entries in self.menus.items() if name != "main" or not self.plain}
        if menus:
            lines += ["", "menus:"]
        for name, entries in menus.items():
            lines.append(f"  {name}:" if entries else f"  {name}: []")
            self._write_entries(entries, 2, lines)
        return "\n".join(lines) + "\n"

    def _write_pages(self, pages: Iterable[_Page], depth: int, lines: list[str]) -> None:
        pad = "  " * depth
        for page in pages:
            title = write_scalar(page.title)
            if page.path is None and not page.pages:
                lines.append(f"{pad}{page.id}: {title}")
                continue
            lines.append(f"{pad}{page.id}:")
            if page.path is not None:
                lines.append(f"{pad}  path: {write_scalar(page.path)}")
            lines.append(f"{pad}  title: {title}")
            if page.pages:
                lines.append(f"{pad}  pages:")
                self._write_pages(page.pages.values(), depth + 2, lines)

    def _write_entries(self, entries: list[_Entry], depth: int, lines: list[str]) -> None:
        pad = "  " * depth
        for entry in entries:
            head = entry.head or self._refer(entry.key)
            line = f"{pad}- {head}" if not entry.items or entry.key is None else f"{pad}- {head}:"
            short = ", ".join(self._refer(item.key) for item in entry.items)
            flat = all(item.key is not None and not item.items for item in entry.items)
            if entry.items and entry.key is None:
                lines.append(line)
                line = f"{pad}  items:"
            if entry.items and flat and len(line) + len(short) < 100:
                lines.append(f"{line} [{short}]")
            else:
                lines.append(line)
                self._write_entries(entry.items, depth + 2, lines)

    def _refer(self, key: str | None) -> str:
        return shortest(key, self.references) if key else ""


def _keys(pages: Iterable[_Page]) -> list[str]:
    return [key for page in pages for key in (page.key, *_keys(page.pages.values()))]


def _menu_name(item: Item) -> str | None:
    return id_from(item.label, ()) if item.kind is ItemKind.MENU else None


def _needs_words(items: Iterable[Item]) -> bool:
    """Whether some lines say what the tree of pages alone cannot."""
    return any(item.kind is not ItemKind.PAGE or _needs_words(item.items) for item in items)


def _id_and_path(item: Item, above: str, taken: Container[str]) -> tuple[str, str | None]:
    """The id of a page, and its path where its address is not what the id gives."""
    if item.address is None:
        return id_from(item.label, taken), None
    address = item.address
    last = address.strip("/").removesuffix(".html").rpartition("/")[2]
    page_id = last if is_id(last) and last not in taken else id_from(item.label, taken)
    full = address if address.startswith("/") else f"{above}/{address}"
    if full.rstrip("/").removesuffix(".html") == f"{above}/{page_id}":
        return page_id, None
    return page_id, address
