"""Every page of a build as it was read again, with what the checks ask of all of them together."""

from __future__ import annotations

import re
from collections import defaultdict, deque
from collections.abc import Callable, Iterable, Iterator, Mapping
from dataclasses import dataclass, field
from functools import cached_property

from basilica.core.map.site import Base
from basilica.core.map.site.settings_reader import parse_base
from basilica.core.plan import Plan
from basilica.core.plan.content_links import Contents
from basilica.core.shared.output_file import File
from basilica.core.site_reader.built_page import (
    BuiltEntry,
    BuiltMenu,
    BuiltPage,
    Link,
    Region,
    Translation,
    is_relative,
)
from basilica.core.site_reader.html_reader import PageReader
from basilica.core.site_reader.link_resolver import INDEXES, Resolver, Target
from basilica.core.site_reader.menu_shapes import Shape

_KEPT_TEXTS = (".css", ".xml")
"""Files whose text is kept, beside what is read of the pages."""


@dataclass(eq=False)
class BuiltSite:
    """What a build holds, in the order of its files. ``plan`` is None for a folder of which no map is known."""

    plan: Plan | None
    contents: Contents
    pages: tuple[BuiltPage, ...]
    redirects: tuple[BuiltPage, ...]
    """What stands at old addresses; it has no part in what pages share."""
    repeats: tuple[BuiltPage, ...]
    """Pages at further addresses of theirs."""
    as_they_are: tuple[BuiltPage, ...]
    """Pages that the site hands out as they are; only links to them are looked at."""
    resolver: Resolver
    sizes: Mapping[str, int]
    """Bytes of every file, by path."""
    texts: Mapping[str, bytes]
    """Style sheets and sitemaps."""
    in_other_languages: Mapping[str, Translation] = field(default_factory=dict)
    """By their files, the pages of a site in other languages than that of the plan."""
    _targets: dict[tuple[Region, str], tuple[Target, ...]] = field(default_factory=dict)
    _rooted: dict[BuiltMenu, bool] = field(default_factory=dict)
    _shapes: dict[tuple[BuiltMenu, str], Shape] = field(default_factory=dict)

    @cached_property
    def by_file(self) -> Mapping[str, BuiltPage]:
        """Every page by its file."""
        return {page.file: page for page in (*self.pages, *self.beside, *self.as_they_are)}

    @property
    def beside(self) -> tuple[BuiltPage, ...]:
        """What stands at other addresses of pages, old and further ones."""
        return (*self.redirects, *self.repeats)

    @cached_property
    def repeat_files(self) -> frozenset[str]:
        """The files of pages at further addresses."""
        return frozenset(page.file for page in self.repeats)

    @cached_property
    def by_key(self) -> Mapping[str, BuiltPage]:
        """The pages of the map, by key."""
        return {page.key: page for page in self.pages if page.key is not None}

    @property
    def home(self) -> BuiltPage | None:
        """The page at the front door."""
        if self.plan is not None and self.plan.site.home is not None:
            return self.by_key.get(self.plan.site.home)
        return next((self.by_file[name] for name in INDEXES if name in self.by_file), None)

    def targets(self, page: BuiltPage, region: Region) -> tuple[Target, ...]:
        """Where each link of a region of a page leads. What regions share is followed once."""
        if not self.is_shared(page, region):
            return tuple(self.resolver.target(page.file, link.href) for link in region.links)
        key = self.shared_key(page, region)
        known = self._targets.get(key)
        if known is None:
            known = self._targets[key] = tuple(self.resolver.target(page.file, link.href) for link in region.links)
        return known

    def shared_key(self, page: BuiltPage, region: Region) -> tuple[Region, str]:
        """What stands for a shared region and all pages on which its links lead to the same places."""
        return region, self.resolver.place(page.file) if region.varies else ""

    def links_that(self, holds: Callable[[Link], bool]) -> Iterator[tuple[BuiltPage, int, Link]]:
        """The links of which something holds, each with its page and its number there. What pages share is asked once,
        and told of each; a link that stands on a page twice is told once."""
        known: dict[Region, list[int]] = {}
        for page in self.pages:
            before = 0
            said = set()
            for region in page.regions:
                found = known.get(region) if not region.in_main else None
                if found is None:
                    found = [number for number, link in enumerate(region.links) if holds(link)]
                    if not region.in_main:
                        known[region] = found
                for number in found:
                    link = region.links[number]
                    if (link.href, link.name) not in said:
                        said.add((link.href, link.name))
                        yield page, before + number, link
                before += len(region.links)

    def menu_shape(self, page: BuiltPage, menu: BuiltMenu | None) -> Shape:
        """The shape of a menu, as a page has it (None: it has none); worked out once for all pages on which it is the
        same."""
        if menu is None or not menu.entries:
            return ()
        key = menu, self.place_of(page, menu)
        known = self._shapes.get(key)
        if known is None:
            known = self._shapes[key] = tuple(self._shape(page.file, menu.entries, 0))
        return known

    def _shape(
        self, file: str, entries: tuple[BuiltEntry, ...], depth: int
    ) -> Iterator[tuple[str, tuple[str, str] | None, int]]:
        for entry in entries:
            target = None
            if entry.href is not None:
                reached = self.resolver.target(file, entry.href)
                target = (entry.href, "") if reached.outside else (reached.file or "", reached.fragment)
            yield entry.label, target, depth
            if entry.items:
                yield from self._shape(file, entry.items, depth + 1)

    def is_in_another_language(self, page: BuiltPage, file: str | None) -> bool:
        """Whether a file of the site is a page in another language than ``page``: a link to it is no part of what pages
        in one language share."""
        there = self.by_file.get(file or "")
        return there is not None and bool(there.plain_language) and there.plain_language != page.plain_language

    def breadcrumb_targets(self, page: BuiltPage) -> list[str | None]:
        """The files to which the breadcrumbs of a page lead."""
        return [
            self.resolver.target(page.file, crumb.href).file if crumb.href is not None else None
            for crumb in page.breadcrumbs
        ]

    def should_be_linked(self, page: BuiltPage) -> bool:
        """Whether something should lead to a page: nothing does to drafts, nor to pages that search engines shall not
        list either, such as the not-found page."""
        if self.plan is not None:
            return page.key is not None and page.key not in self.plan.drafts
        return page.indexed and not page.file.endswith("404.html")

    def has_menus(self, page: BuiltPage) -> bool:
        """Whether a menu of the map is shown on a page."""
        plan = self.plan
        return plan is not None and any(m.entries and plan.shows_menu(m, page.key) for m in plan.menus.values())

    def has_breadcrumbs(self, page: BuiltPage) -> bool:
        """Whether a page should have them: home has none, and neither has the page for addresses that do not exist."""
        if self.plan is None:
            return bool(page.breadcrumbs)
        return page.key is not None and bool(self.plan.breadcrumbs(page.key))

    def is_listed(self, page: BuiltPage) -> bool:
        """Whether a page may be in a list of results."""
        if self.plan is not None:
            return page.indexed and page.key is not None
        return page.indexed and not page.file.endswith("404.html")

    def sharing(self, of: Callable[[BuiltPage], str | None]) -> Iterator[tuple[str, list[BuiltPage]]]:
        """What several pages have in common that each should have for itself, and these pages. What translations of one
        another have in common, by their languages or by how their files are called, is none of it."""
        found: dict[tuple[str, str], dict[str, BuiltPage]] = defaultdict(dict)
        for page in self.pages:
            text = of(page)
            if text and page.indexed:
                place = _LANGUAGE_IN_NAME.sub("", page.file) if self.plan is None else page.file
                found[text.casefold(), page.language or ""].setdefault(place, page)
        shared = (list(pages.values()) for pages in found.values() if len(pages) > 1)
        return ((of(pages[0]) or "", pages) for pages in shared)

    def place_of(self, page: BuiltPage, menu: BuiltMenu) -> str:
        """From where the links of a menu are followed: empty where they lead to the same places from everywhere."""
        rooted = self._rooted.get(menu)
        if rooted is None:
            rooted = self._rooted[menu] = _is_rooted(menu.entries)
        return "" if rooted and page.head.base is None else page.file

    @staticmethod
    def is_shared(page: BuiltPage, region: Region) -> bool:
        """Whether the links of a region lead to the same places on other pages that have it."""
        return not region.in_main and region.varies != "page" and page.head.base is None

    def leads_to(self, file: str) -> frozenset[str]:
        """The other pages that the links of a page lead to; redirects are followed to where they end."""
        return frozenset().union(*self._ways.get(file, ())) - {file}

    @cached_property
    def _ways(self) -> Mapping[str, tuple[frozenset[str], ...]]:
        """By page, the pages that its links lead to, in sets that pages share."""
        ends = self._ends()
        of_region: dict[tuple[Region, str], frozenset[str]] = {}
        found = {}
        for page in (*self.pages, *self.beside):
            sets = []
            for region in page.regions:
                if not region.links and not region.forms:
                    continue
                shared = self.is_shared(page, region)
                key = self.shared_key(page, region)
                files = of_region.get(key) if shared else None
                if files is None:
                    targets = (
                        *self.targets(page, region),
                        *(self.resolver.target(page.file, action) for action in region.forms),
                    )
                    files = frozenset(ends.get(t.file, t.file) for t in targets if t.file is not None)
                    if shared:
                        of_region[key] = files
                sets.append(files)
            found[page.file] = tuple(sets)
        return found

    def _ends(self) -> dict[str, str]:
        ends = {}
        for page in self.by_file.values():
            here, met = page, {page.file}
            while here.head.refresh is not None:
                file = self.resolver.target(here.file, here.head.refresh).file
                if file is None or file in met or file not in self.by_file:
                    break
                met.add(file)
                here = self.by_file[file]
            if here is not page:
                ends[page.file] = here.file
        return ends

    @cached_property
    def clicks(self) -> Mapping[str, int]:
        """By page, how many links lie between home and it; those that cannot be reached are not there."""
        return {file: len(self.way_to(file)) - 1 for file in self._before}

    @cached_property
    def _before(self) -> Mapping[str, str | None]:
        if self.home is None:
            return {}
        before: dict[str, str | None] = {self.home.file: None}
        waiting = deque(before)
        followed: set[frozenset[str]] = set()
        while waiting:
            file = waiting.popleft()
            fresh = [files for files in self._ways.get(file, ()) if files not in followed]
            followed.update(fresh)
            for other in sorted(frozenset().union(*fresh)):
                if other not in before and other in self.by_file:
                    before[other] = file
                    waiting.append(other)
        return before

    def way_to(self, file: str) -> tuple[str, ...]:
        """The shortest way from home to a page, by links, both ends in it; empty where there is none."""
        if file not in self._before:
            return ()
        way = [file]
        while (above := self._before[way[-1]]) is not None:
            way.append(above)
        return tuple(reversed(way))

    def linked_from(self, file: str, most: int | None = None) -> tuple[str, ...]:
        """The pages that have a link to a page, in the order of the files; of more than ``most`` only so many."""
        found: dict[str, None] = {}
        for files in self._holding.get(file, ()):
            for page in self._having[files]:
                if page != file:
                    found[page] = None
                if most is not None and len(found) >= most:
                    break
        return tuple(sorted(found, key=self._order.__getitem__))

    @cached_property
    def _order(self) -> Mapping[str, int]:
        return {page.file: number for number, page in enumerate(self.pages)}

    @cached_property
    def _having(self) -> Mapping[frozenset[str], list[str]]:
        """By set of pages that links lead to, the pages that have these links."""
        found: dict[frozenset[str], list[str]] = defaultdict(list)
        for page in self.pages:
            for files in self._ways[page.file]:
                found[files].append(page.file)
        return found

    @cached_property
    def _holding(self) -> Mapping[str, list[frozenset[str]]]:
        """By page, the sets that it is in."""
        found: dict[str, list[frozenset[str]]] = defaultdict(list)
        for files in self._having:
            for file in files:
                found[file].append(files)
        return found


class SiteReader:
    """Takes in the files of a build, one by one, and gives the site that they are."""

    def __init__(
        self, plan: Plan | None, contents: Contents | None = None, base: Base | None = None, served: Iterable[str] = ()
    ) -> None:
        """Without a plan, ``base`` is where the site lives, and ``served`` are addresses that other code answers."""
        self._plan, self._contents, self._base, self._served = plan, contents or {}, base, tuple(served)
        self._foreign = _files_of_others(plan) if plan else frozenset()
        self._keys = {route.file: key for key, route in plan.routes.items()} if plan else {}
        self._old = {each.file for each in plan.redirects} if plan else set()
        self._further = {each.file: each.key for each in plan.further if each.file} if plan else {}
        self._public = frozenset(plan.site.files.public) if plan else frozenset()
        self._reader = PageReader(plan.site.phrases["breadcrumb"] if plan else None)
        self._pages: list[BuiltPage] = []
        self._redirects: list[BuiltPage] = []
        self._repeats: list[BuiltPage] = []
        self._as_they_are: list[BuiltPage] = []
        self._sizes: dict[str, int] = {}
        self._texts: dict[str, bytes] = {}
        self._translations: dict[str, Translation] = {}

    def add(self, file: File) -> None:
        """Read one file; its bytes are not kept."""
        self._sizes[file.path] = len(file.data)
        if file.path in self._foreign:
            if file.path.endswith(".html"):
                self._translations[file.path] = self._reader.head_alone(file)
            return
        if file.path.endswith((".html", ".htm")):
            if file.path in self._further:
                self._repeats.append(self._reader.read(file, self._further[file.path]))
                return
            page = self._reader.read(file, self._keys.get(file.path))
            is_old = file.path in self._old or (self._plan is None and page.head.refresh is not None)
            kept = self._as_they_are if file.path in self._public else self._redirects if is_old else self._pages
            kept.append(page)
        elif file.path.endswith(_KEPT_TEXTS):
            self._texts[file.path] = file.data

    def lists(self, path: str, size: int) -> None:
        """Take note of a file whose text does not matter."""
        self._sizes[path] = size

    def done(self) -> BuiltSite:
        """The site."""
        base = self._base or (_base_said(self._pages) if self._plan is None else None)
        resolver = Resolver(self._sizes, self._plan, base, self._served)
        resolver.bases.update({page.file: page.head.base for page in self._pages if page.head.base is not None})
        return BuiltSite(
            self._plan,
            self._contents,
            tuple(self._pages),
            tuple(self._redirects),
            tuple(self._repeats),
            tuple(self._as_they_are),
            resolver,
            self._sizes,
            self._texts,
            self._translations,
        )


_LANGUAGE_IN_NAME = re.compile(r"(?:^|(?<=[/._-]))[a-z]{2}(?:[_-][A-Za-z]{2,4})?(?=[/._-])")
"""The tag of a language in the name of a file or a folder: `guide.pt.html/ch2.html`, `de/index.html`."""


def read_site(
    files: Iterable[File], plan: Plan | None = None, contents: Contents | None = None, base: Base | None = None
) -> BuiltSite:
    """Read every file of a build."""
    reader = SiteReader(plan, contents, base)
    for file in files:
        reader.add(file)
    return reader.done()


def _files_of_others(plan: Plan) -> frozenset[str]:
    """The pages of a site in other languages than that of a plan, which are held against the plans of these."""
    found: set[str] = set()
    for tag, other in plan.languages.items():
        if tag != plan.site.language:
            found |= {route.file for route in other.routes.values() if not route.is_backend}
            found |= {"404.html" if other.site.is_first else f"{other.site.prefix[1:]}/404.html"}
            found |= {each.file for each in (*other.redirects, *other.further) if each.file}
    return frozenset(found)


def _is_rooted(entries: tuple[BuiltEntry, ...]) -> bool:
    return all((entry.href is None or not is_relative(entry.href)) and _is_rooted(entry.items) for entry in entries)


def _base_said(pages: Iterable[BuiltPage]) -> Base | None:
    """Where a site says that it lives: the canonical address of its home page."""
    for page in pages:
        if page.file == "index.html" and page.head.canonical:
            return parse_base(page.head.canonical)[0]
    return None
