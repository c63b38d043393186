"""Basilica as a library: load a map, ask it for routes, menus and breadcrumbs, or write one in Python.

    >>> from basilica import MapBuilder
    >>> builder = MapBuilder("Saltern Reach Tide Mill", base="https://saltern-reach.example")
    >>> _ = builder.page("home", path="/", label="Home")
    >>> visit = builder.page("visit", title="Plan your visit", label="Visit")
    >>> hours = visit.page("hours", title="Opening hours")
    >>> _ = builder.menu("main", ["home", visit])
    >>> site = builder.build()
    >>> [route.path for route in site.routes]
    ['/', '/visit/', '/visit/hours/']

A page of it sees the menus with their marks, and its own breadcrumbs:

    >>> [(entry.label, entry.current) for entry in site.menu("main", seen_from="visit/hours")]
    [('Home', None), ('Visit', 'true')]
    >>> [crumb.label for crumb in site.breadcrumbs("visit/hours")]
    ['Home', 'Visit', 'Opening hours']
    >>> site.address("visit/hours", seen_from="home")
    '/visit/hours/'
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from pathlib import Path

from basilica.core.build import Build
from basilica.core.build import build as build_files
from basilica.core.compile import Compiled, compile_map
from basilica.core.content.assets import built_path
from basilica.core.map.document.scalar_writer import write_scalar
from basilica.core.map.map_files import NO_FILES, Files
from basilica.core.map.site.settings_reader import parse_base
from basilica.core.plan import Plan
from basilica.core.plan.content_links import Content, Contents
from basilica.core.rules.finding import Finding, in_order


class MapError(ValueError):
    """A map that cannot be used; ``findings`` say why, each with its place."""

    def __init__(self, findings: tuple[Finding, ...]) -> None:
        self.findings = findings
        first = next((finding for finding in findings if finding.stops), None)
        super().__init__(f"line {first.line}: {first.message} {first.remedy}" if first else "The map has no pages.")


@dataclass(frozen=True, slots=True)
class PageRoute:
    """Where a page is: ``path`` is what a server answers, ``file`` what a build writes (empty where other code of the
    site answers)."""

    key: str
    path: str
    file: str
    title: str
    label: str


@dataclass(frozen=True, slots=True)
class MenuEntry:
    """An entry of a menu as one page sees it. ``address`` is as it is written on that page, None for what goes nowhere;
    ``current`` is its `aria-current` (WAI-ARIA 1.2); ``on_path`` tells whether it holds the current one."""

    label: str
    address: str | None
    page: str | None
    current: str | None
    on_path: bool
    items: tuple[MenuEntry, ...]


@dataclass(frozen=True, slots=True)
class Crumb:
    """A breadcrumb. ``address`` is None for the page itself, for sections, and for a name alone, which is no ``page``
    either."""

    label: str
    address: str | None
    page: str | None


class SiteMap:
    """A map without errors."""

    def __init__(self, compiled: Compiled, contents: Contents) -> None:
        """Raises ``MapError`` for a map with errors."""
        if compiled.plan is None or compiled.stops:
            raise MapError(compiled.findings)
        self._compiled = compiled
        self._plan: Plan = compiled.plan
        self._contents = contents

    @property
    def name(self) -> str:
        """The site's name."""
        return self._plan.site.name

    @property
    def findings(self) -> tuple[Finding, ...]:
        """What the map brings up: warnings and advice."""
        return self._compiled.findings

    @property
    def pages(self) -> tuple[str, ...]:
        """The keys of all pages, in map order."""
        return tuple(self._plan.site.pages)

    @property
    def routes(self) -> tuple[PageRoute, ...]:
        """The route of every page that has one, in map order."""
        pages = self._plan.site.pages
        return tuple(
            PageRoute(key, route.path, "" if route.is_backend else route.file, pages[key].title, pages[key].label)
            for key, route in self._plan.routes.items()
        )

    @property
    def menus(self) -> tuple[str, ...]:
        """The names of the menus."""
        return tuple(self._plan.menus)

    def address(self, page: str, seen_from: str | None = None, fragment: str = "") -> str:
        """The address of a page as it is written on another (None: as a root link). Raises ``KeyError`` for a page that
        is not there or has no route."""
        return self._plan.addresses.to_page(page, seen_from, fragment or None)

    def menu(self, name: str, seen_from: str) -> tuple[MenuEntry, ...]:
        """A menu as a page sees it, with marks; empty where it does not stand there. Raises ``KeyError`` for a menu or
        a page that is not there."""
        plan, menu = self._plan, self._plan.menus[name]
        if seen_from not in plan.site.pages:
            raise KeyError(seen_from)
        if not menu.visible_on(plan.site, seen_from):
            return ()
        mark = menu.mark(plan.site, seen_from)

        def entry(number: int) -> MenuEntry:
            planned = menu.entries[number]
            address = planned.url
            if planned.file:
                address = plan.addresses.to_file(built_path(planned.file, plan.site.files), seen_from)
            if planned.page is not None and planned.page in plan.routes:
                address = plan.addresses.to_page(planned.page, seen_from, planned.fragment, planned.query)
            return MenuEntry(
                planned.label,
                address,
                planned.page,
                mark.current if mark and number in mark.entries else None,
                bool(mark and number in mark.path),
                tuple(entry(item) for item in planned.items),
            )

        return tuple(entry(number) for number in menu.top)

    def breadcrumbs(self, page: str) -> tuple[Crumb, ...]:
        """The breadcrumbs of a page, from home to itself; none on home. Raises ``KeyError`` for a page that is not
        there."""
        plan, pages = self._plan, self._plan.site.pages
        return tuple(
            Crumb(
                level.label,
                plan.addresses.to_page(level.page, page)
                if level.page is not None and level.page in plan.routes and level.page != page
                else None,
                level.page,
            )
            for level in plan.trail(pages[page].key)
        )

    def build(self, drafts: bool = False) -> Build:
        """The static site in memory: every file, read again and proved, with every finding."""
        return build_files(self._compiled, self._contents, drafts=drafts)


def load(path: str | Path) -> SiteMap:
    """The map at a path, with the content and the files beside it. Raises ``MapError`` for a map with errors or
    content that cannot be read, and ``basilica.store.errors.UsageError`` where there is no map to read."""
    from basilica.store.folders import read_source

    source = read_source(Path(path))
    compiled = compile_map(source.map, source.files)
    if any(finding.stops for finding in source.findings):
        raise MapError(in_order(source.findings + compiled.findings))
    return SiteMap(compiled, source.contents)


def loads(text: str, contents: Mapping[str, str] | None = None, files: Mapping[str, bytes] | None = None) -> SiteMap:
    """A map from its text. ``contents`` are Markdown by page key, ``files`` bytes by name, such as ``files/mill.jpg``.
    Raises ``MapError``."""
    texts = {key: Content(f"content/{key}.md", text) for key, text in (contents or {}).items()}
    return SiteMap(compile_map(text, (Files(files) if files else NO_FILES).with_heads(texts)), texts)


def audit(folder: str | Path, base: str = "", served: Iterable[str] = ()) -> tuple[Finding, ...]:
    """What is found on any site in a folder, whoever built it, as `basilica audit` says it. ``base`` is where the site
    lives, where its home page does not say it; ``served`` are addresses that other code answers. Raises ``ValueError``
    for a base that is none, and ``basilica.store.errors.UsageError`` where there is no folder."""
    from basilica.services.audits import audit_folder, built_files

    lives, reason = parse_base(base) if base else (None, "")
    if reason:
        raise ValueError(f"The base address {reason}.")
    return audit_folder(Path(folder), built_files(Path(folder)), lives, served).findings


class PageBuilder:
    """A page that is being written, with those under it."""

    def __init__(self, key: str, words: Mapping[str, str]) -> None:
        self.key = key
        self._words = dict(words)
        self._pages: dict[str, PageBuilder] = {}

    def page(self, page_id: str, **words: str) -> PageBuilder:
        """A page under this one, with the words of the map language that it needs: ``title``, ``path`` and so on."""
        return _add(self._pages, page_id, f"{self.key}/{page_id}" if self.key else page_id, words)

    def lines(self, indent: int) -> Iterator[str]:
        """The page as lines of a map."""
        room = " " * indent
        yield f"{room}{self.key.rpartition('/')[2]}:"
        for word, value in self._words.items():
            yield f"{room}  {word.rstrip('_').replace('_', '-')}: {write_scalar(value)}"
        if self._pages:
            yield f"{room}  pages:"
            for page in self._pages.values():
                yield from page.lines(indent + 4)


Entries = Iterable["str | PageBuilder | Mapping[str, object]"]


class MapBuilder:
    """Writes a map in Python. What it writes is text as a person would write it: ``text`` gives it."""

    def __init__(self, name: str, **site: str) -> None:
        """``site`` are words that stand under `site:`, such as ``base`` and ``language``."""
        self._site = {"name": name, **site}
        self._pages: dict[str, PageBuilder] = {}
        self._menus: dict[str, Entries] = {}
        self._contents: dict[str, str] = {}
        self._settings: dict[str, Mapping[str, str]] = {}

    def page(self, page_id: str, **words: str) -> PageBuilder:
        """A page at the top, with the words of the map language that it needs; ``class_`` is `class`. Raises
        ``ValueError`` where a page of this id is there already."""
        return _add(self._pages, page_id, page_id, words)

    def menu(self, name: str, entries: Entries) -> MapBuilder:
        """A menu: keys, pages, or mappings such as ``{"label": "Shop", "url": "https://shop.example"}`` and
        ``{"group": "Learn", "items": ["history"]}``."""
        self._menus[name] = entries
        return self

    def set(self, section: str, **words: str) -> MapBuilder:
        """Settings at the top of the map, such as ``set("header", behaviour="shrink")``."""
        self._settings[section] = {**self._settings.get(section, {}), **words}
        return self

    def content(self, page: str | PageBuilder, markdown: str) -> MapBuilder:
        """The text of a page."""
        self._contents[_key(page)] = markdown
        return self

    @property
    def text(self) -> str:
        """The map."""
        lines = ["site:", *(f"  {word}: {write_scalar(value)}" for word, value in self._site.items()), "", "pages:"]
        for page in self._pages.values():
            lines += page.lines(2)
        if self._menus:
            lines += ["", "menus:"]
            for name, entries in self._menus.items():
                written = [_entry(entry) for entry in entries]
                lines.append(f"  {name}: [{', '.join(written)}]")
        for section, words in self._settings.items():
            lines += ["", f"{section}:"]
            lines += [f"  {word.replace('_', '-')}: {write_scalar(value)}" for word, value in words.items()]
        return "\n".join(lines) + "\n"

    def build(self) -> SiteMap:
        """The map, read. Raises ``MapError``."""
        return loads(self.text, self._contents)


def _add(pages: dict[str, PageBuilder], page_id: str, key: str, words: Mapping[str, str]) -> PageBuilder:
    if page_id in pages:
        raise ValueError(f"There is a page {key!r} already.")
    pages[page_id] = PageBuilder(key, words)
    return pages[page_id]


def _key(page: str | PageBuilder) -> str:
    return page.key if isinstance(page, PageBuilder) else page


def _entry(entry: str | PageBuilder | Mapping[str, object] | object) -> str:
    """An entry of a menu inside brackets."""
    if isinstance(entry, str | PageBuilder):
        return write_scalar(_key(entry))
    if not isinstance(entry, Mapping):
        raise TypeError(f"{entry!r} is not an entry of a menu.")
    pairs = []
    for word, value in entry.items():
        if isinstance(value, str | PageBuilder):
            pairs.append(f"{write_scalar(word)}: {write_scalar(_key(value))}")
        elif isinstance(value, Iterable):
            pairs.append(f"{write_scalar(word)}: [{', '.join(map(_entry, value))}]")
        else:
            raise TypeError(f"{value!r} is not a value of `{word}` in a menu.")
    return "{" + ", ".join(pairs) + "}"
