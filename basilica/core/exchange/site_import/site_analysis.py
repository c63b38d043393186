"""The one way from the files of a site that exists to what it is."""

from __future__ import annotations

import re
from collections import Counter, defaultdict
from collections.abc import Callable, Iterable, Mapping
from dataclasses import replace
from urllib.parse import unquote

from basilica.core.exchange.site_import.drift import (
    NO_LINK,
    block_drift,
    head_drift,
    mark_of,
    menu_drift,
    mistakes,
    trail_drift,
)
from basilica.core.exchange.site_import.follow import Follow
from basilica.core.exchange.site_import.found_menus import (
    FoundEntry,
    all_entries,
    entries_of,
    innermost_with_links,
    is_sequence,
    is_trail,
    looks_like_menu,
    plain_titles,
    targets_by_label,
)
from basilica.core.exchange.site_import.imported_site import Drift, DriftKind, FoundMenu, ImportedPage, ImportedSite
from basilica.core.exchange.site_import.language_versions import LanguageVersions, by_language, is_in_name
from basilica.core.exchange.site_import.old_page import OldPage, is_page, read_old_page
from basilica.core.exchange.site_import.own_content import content_place, own_content, skip_link
from basilica.core.exchange.site_import.page_tree import parents_of
from basilica.core.exchange.site_import.shared_blocks import (
    Block,
    SharedBlock,
    named_blocks,
    shared_blocks,
    similarity,
)
from basilica.core.exchange.site_import.source_tree import Element, leave_out
from basilica.core.exchange.site_import.titles import title_pattern, without_site
from basilica.core.map.site import Base
from basilica.core.map.site.ids import id_from
from basilica.core.map.site.settings_reader import parse_base
from basilica.core.shared.output_file import File
from basilica.core.site_reader import Resolver, Target
from basilica.core.site_reader.link_resolver import INDEXES

_HOMES = (*INDEXES, "home.html", "home.htm")
_HOME_IN_LANGUAGE = re.compile(r"index\.[a-z]{2}(?:[_-][a-z]{2,4})?\.html?")
_NOT_FOUND = ("404.html", "404.htm")
_SHARE = 0.6
"""On so many of the pages that have a block of one name it must be breadcrumbs, or a sequence, to be that."""

_FEW = 3
"""Words of its own from which on a page has begun, or goes on; a heading begins it, however short."""
_HEADINGS = frozenset(["h1", "h2", "h3", "h4", "h5", "h6"])
"""A heading by itself is no part: what stands below it may be, or the page's own."""
_ALIKE = 0.5
"""Breadcrumbs and sequences differ from page to page; on so many of them they say the same at most."""

_PART_SHARE = 0.66
"""On so many pages a block that is no menu must stand to be a part of all."""

_OTHER_KIND = 2
"""A page that lacks so many shared parts is of another kind."""
_SECTION_LACKS = 0.4
"""Of the pages to which a menu of a section leads, at most so many, beside those that have it, may lack it."""
_SECTION_LIKE = 0.5
"""So like it must be what stands in its place there to be it, drifted, and not the menu of another section."""

Step = Callable[[], None]


def analyse(
    files: Iterable[File], base: Base | None = None, main: str = "", step: Step = lambda: None
) -> ImportedSite | None:
    """What a site is, out of its files alone; None where none of them is a page. ``base`` is where it lives, if that is
    known; ``main`` names the menu to take for the main one; ``step`` is called after each page that was read. Pages are
    compared with those in their own language."""
    read = _Reading(files, base, step)
    if not read.languages:
        return None
    first = read.languages[0]
    site = _Analysis(read, first, read.home).done(main)
    partners = {tag: read.versions.partners(first, tag) for tag in read.languages[1:]}
    versions = {
        tag: _Analysis(read, tag, partners[tag].get(read.home or "")).done("", others=False) for tag in partners
    }
    return replace(site, versions=versions, partners=partners)


class _Reading:
    """The files of a site as they were read, and the pages of each of its languages."""

    def __init__(self, files: Iterable[File], base: Base | None, step: Step) -> None:
        read: list[OldPage] = []
        self.others: list[str] = []
        self.names: list[str] = []
        for file in files:
            self.names.append(file.path)
            if is_page(file):
                read.append(read_old_page(file))
                step()
            else:
                self.others.append(file.path)
        self.redirects = [page for page in read if page.leads_on]
        own = by_language((page for page in read if not page.leads_on), _says)
        self.not_found = {
            tag: page
            for tag, pages in own.items()
            for page in pages
            if page.file in _NOT_FOUND or page.file in [f"{tag}/{name}" for name in _NOT_FOUND]
        }
        left_out = {page.file for page in self.not_found.values()}
        self.pages = {
            tag: {page.file: page for page in pages if page.file not in left_out} for tag, pages in own.items()
        }
        self.pages = {tag: pages for tag, pages in self.pages.items() if pages}
        self.home = self._home(Resolver(self.names), {file for pages in self.pages.values() for file in pages})
        self.languages = sorted(self.pages, key=lambda tag: (self.home not in self.pages[tag], tag))
        self.base = base or self._base_said()
        self.resolver = Resolver(self.names, None, self.base)
        self.resolver.bases.update({page.file: page.base for page in read if page.base})
        self.versions = LanguageVersions(
            {file: page for pages in self.pages.values() for file, page in pages.items()},
            {file: tag for tag, pages in self.pages.items() for file in pages},
            self.follow,
        )
        for name, elements in self.versions.switches.items():
            if elements:
                leave_out(self.versions.pages[name].tree, elements)

    def follow(self, page: OldPage, href: str) -> Target:
        """Where a link on a page leads."""
        return self.resolver.target(page.file, href)

    def _home(self, resolver: Resolver, pages: set[str]) -> str | None:
        for page in self.redirects:
            led = resolver.target(page.file, page.leads_on).file
            if page.file.lower() in _HOMES and led in pages:
                return led  # the front door only leads into the house
        return _front(pages)

    def _base_said(self) -> Base | None:
        page = next((pages[self.home] for pages in self.pages.values() if self.home in pages), None)
        if page is None or "://" not in page.canonical:
            return None
        folder = page.file.rpartition("/")[0]
        said = page.canonical.rpartition("/")[0]
        return parse_base(said.removesuffix(f"/{folder}") if folder else said)[0]


def _says(page: OldPage) -> tuple[str, bool]:
    links = any("hreflang" in link.attributes for link in page.body.links)
    return page.language, links or bool(page.translations) or is_in_name(page.file, page.language)


def _front(pages: Iterable[str]) -> str | None:
    """The file that is most like a front page."""
    pages = list(pages)
    at_top = {file.lower(): file for file in pages if "/" not in file}
    found = next((at_top[name] for name in _HOMES if name in at_top), None)
    found = found or next((file for name, file in at_top.items() if _HOME_IN_LANGUAGE.fullmatch(name)), None)
    return found or min(pages, key=lambda file: (file.count("/"), len(file), file), default=None)


class _Analysis:
    """What the pages of one language are."""

    def __init__(self, read: _Reading, language: str, home: str | None) -> None:
        self.read, self.pages = read, read.pages[language]
        self.home = home if home in self.pages else _front(self.pages)
        self.not_found = read.not_found.get(language)
        self.redirects = read.redirects if language == read.languages[0] else []
        self.marked: dict[str, str] = {}
        self.follow: Follow = read.follow

    def done(self, main: str, others: bool = True) -> ImportedSite:
        """Everything, put together; with the ``others``, which are no pages, if that is asked for."""
        named = {file: named_blocks(page) for file, page in self.pages.items()}
        titles = plain_titles(self.pages.values())
        sequences = self._of_kind(named, {}, lambda one, page: is_sequence(one, page, self.follow, titles))
        trails = self._of_kind(named, sequences, lambda one, page: is_trail(one, page, self.home or "", self.follow))
        taken = {file: (*trails.get(file, ()), *sequences.get(file, ())) for file in self.pages}
        shared = [block for block in shared_blocks(named, self.follow) if not _within(block, taken)]
        menus, parts = self._menus_and_parts(shared)
        kept = [block for block in shared if block in parts or any(menu.block is block for menu in menus)]
        ways = {file: self._trail(self.pages[file], elements[0]) for file, elements in trails.items()}
        chosen = self._main(menus, main)
        sections = self._section_menus(named, kept, taken)
        trees = [menu.entries for menu in (*(m for m in menus if m is not chosen), *sections, *filter(None, [chosen]))]
        above = parents_of(list(self.pages), self.home, ways, trees)
        sections = [replace(menu, of_page=_shared_parent(menu.section, above)) for menu in sections]
        sections = [menu for menu in sections if menu.of_page is not None]
        drift, all_menus = self._drift(
            [*menus, *sections], parts, above, ways, {file: elements[0] for file, elements in trails.items()}
        )
        chosen = next((menu for menu in all_menus if chosen is not None and menu.block is chosen.block), None)
        pattern, name = title_pattern([page.title for page in self.pages.values() if page.title])
        blocks = [*kept, *(menu.block for menu in sections)]
        cuts = self._cuts(blocks, taken)
        places = self._places(self._cuts(blocks, trails))
        of_menus = {menu.block.name for menu in menus}
        within = {one.name for one in parts if one.name not in of_menus and self._is_within(one, cuts, places)}
        cuts = self._cuts([block for block in blocks if block.name not in within], taken)
        pages = self._pages(above, all_menus, chosen, pattern, name, ways, cuts, places)
        languages = Counter(page.language for page in self.pages.values() if page.language)
        was, gone = self._led_on()
        return ImportedSite(
            name=name or (pages[self.home].title if self.home else ""),
            title_pattern=pattern,
            language=languages.most_common(1)[0][0] if languages else "",
            base=str(self.read.base).rstrip("/") if self.read.base else "",
            home=self.home,
            pages={file: replace(page, was=was.get(file, ())) for file, page in pages.items()},
            menus=tuple(all_menus),
            main=chosen,
            parts=tuple(parts),
            before=self._before(kept, cuts, places),
            within=frozenset(within),
            drift=tuple(drift),
            others=tuple(sorted(self.read.others)) if others else (),
            gone=gone,
            not_found=self.not_found,
            not_found_content=self._of_not_found(kept),
            notes=tuple(self._notes(chosen)),
            with_sequence=frozenset(sequences),
            trails={file: elements[0] for file, elements in trails.items()},
            switches={file: tuple(self.read.versions.switches[file]) for file in self.pages},
            follow=self.follow,
        )

    # What the files say

    def _led_on(self) -> tuple[dict[str, tuple[str, ...]], dict[str, str]]:
        """By page, the files that only lead to it, at once or through others; and those that lead elsewhere, with where
        (empty: nowhere)."""
        was: dict[str, tuple[str, ...]] = {}
        gone: dict[str, str] = {}
        by_file = {page.file: page for page in self.redirects}
        for page in self.redirects:
            met, at = [page.file], page
            target = self.follow(at, at.leads_on)
            while target.file in by_file and target.file not in met:
                at = by_file[target.file]
                met.append(at.file)
                target = self.follow(at, at.leads_on)
            if target.file in self.pages:
                was[target.file] = (*was.get(target.file, ()), page.file)
            else:
                gone[page.file] = target.url if target.url.startswith(("https:", "http:")) else ""
        return was, gone

    # Blocks

    def _menus_and_parts(self, shared: Iterable[SharedBlock]) -> tuple[list[FoundMenu], list[SharedBlock]]:
        menus, parts = [], []
        for block in shared:
            model = block.model
            core = innermost_with_links(model.element)
            is_menu = looks_like_menu(core, model.page, self.follow)
            if is_menu:
                elements = {file: innermost_with_links(one.element) for file, one in block.blocks.items()}
                menus.append(self._menu(block, elements))
            more = len(block.words.split()) > len(core.text.split())
            is_heading = model.element.tag in _HEADINGS
            everywhere = not is_menu and not is_heading and len(block.blocks) >= _PART_SHARE * len(self.pages)
            if (is_menu and more) or everywhere:
                parts.append(block)
        return menus, parts

    def _menu(self, block: SharedBlock, element_of: Mapping[str, Element], section: tuple[str, ...] = ()) -> FoundMenu:
        entries = {file: entries_of(self.pages[file], one, self.follow) for file, one in element_of.items()}
        model = entries[next(file for file in block.blocks if file in block.same)]
        led = targets_by_label(entries[file] for file in block.same)

        def with_targets(found: tuple[FoundEntry, ...]) -> tuple[FoundEntry, ...]:
            return tuple(
                FoundEntry(one.label, led.get(one.label, one.target), with_targets(one.items), one.look, one.element)
                for one in found
            )

        share = len(block.blocks) / len(section or self.pages)
        return FoundMenu(block, element_of, with_targets(model), share, "", section)

    def _of_kind(
        self,
        named: Mapping[str, Mapping[str, Block]],
        taken: Mapping[str, tuple[Element, ...]],
        holds: Callable[[Element, OldPage], bool],
    ) -> dict[str, tuple[Element, ...]]:
        """By file, the blocks of one kind, such as breadcrumbs: those whose name stands for that kind on most pages
        that have one, the outermost."""
        found: dict[str, dict[str, Element]] = defaultdict(dict)
        for file, blocks in named.items():
            for name, block in blocks.items():
                free = not any(one.holds(block.element) for one in taken.get(file, ()))
                if free and holds(block.element, block.page):
                    found[name][file] = block.element
        chosen: dict[str, list[Element]] = defaultdict(list)
        for name, of_page in found.items():
            if len(of_page) < max(2, _SHARE * sum(name in blocks for blocks in named.values())):
                continue
            words = Counter(element.text for element in of_page.values())
            if words.most_common(1)[0][1] > _ALIKE * len(of_page):
                continue  # what is alike on most pages, like the name of the site, is shared
            for file, element in of_page.items():
                chosen[file].append(element)
        return {
            file: tuple(one for one in elements if not any(other is not one and other.holds(one) for other in elements))
            for file, elements in chosen.items()
        }

    def _section_menus(
        self,
        named: Mapping[str, Mapping[str, Block]],
        shared: Iterable[SharedBlock],
        taken: Mapping[str, tuple[Element, ...]],
    ) -> list[FoundMenu]:
        """Menus that only some pages share: the same words on at least two, which are among those that they lead to."""
        places: dict[str, list[tuple[str, Block]]] = defaultdict(list)
        for file, blocks in named.items():
            around = [*(one.blocks[file].element for one in shared if file in one.blocks), *taken[file]]
            for name, block in blocks.items():
                links = block.element.links
                free = not any(_meet(one, block.element) for one in around)
                if free and len(links) >= 2 and looks_like_menu(block.element, block.page, self.follow):
                    places[f"{name}\0{block.words}"].append((file, block))
        everywhere = {
            self.follow(one.model.page, link.attributes["href"]).file
            for one in shared
            for link in one.model.element.links
        }
        found: list[FoundMenu] = []
        used: dict[str, list[Element]] = defaultdict(list)
        for name, where in sorted(places.items(), key=lambda one: (-len(one[1]), -len(one[0]))):
            files = tuple(file for file, _ in where)
            if len(files) < 2 or any(self._is_taken(used[file], block) for file, block in where):
                continue
            led = {
                self.follow(block.page, link.attributes["href"]).file
                for _, block in where[:1]
                for link in block.element.links
            }
            if sum(file in led for file in files) < len(files) / 2:
                continue
            blocks, block_name = dict(where), name.partition("\0")[0]
            lacking = self._lacking(files, led - everywhere, block_name, where[0][1].words, named)
            blocks |= {
                file: block for file, block in lacking.items() if block and not self._is_taken(used[file], block)
            }
            files += tuple(lacking)
            same = SharedBlock(block_name, where[0][1].words, blocks, frozenset(one for one, _ in where), 0)
            elements = {file: innermost_with_links(block.element) for file, block in blocks.items()}
            found.append(self._menu(same, elements, files))
            for file, one in blocks.items():
                used[file].append(one.element)
        return found

    def _lacking(
        self,
        files: tuple[str, ...],
        led: set[str | None],
        name: str,
        words: str,
        named: Mapping[str, Mapping[str, Block]],
    ) -> dict[str, Block | None]:
        """Of the pages to which the menu of a section leads, those beside ``files`` that should have it as well, each
        with what it has in its place (None: nothing). Where many are without it, that is meant."""
        folders = {file.rpartition("/")[0] for file in files}
        found: dict[str, Block | None] = {}
        for file in sorted(one for one in led if one is not None):
            if file in self.pages and file not in files and file.rpartition("/")[0] in folders:
                block = named[file].get(name)
                if block is None or similarity(block.words, words) >= _SECTION_LIKE:
                    found[file] = block
        return found if len(found) <= _SECTION_LACKS * len(files) else {}

    @staticmethod
    def _is_taken(used: Iterable[Element], block: Block) -> bool:
        return any(_meet(one, block.element) for one in used)

    def _trail(self, page: OldPage, element: Element) -> tuple[str, ...]:
        targets = (self.follow(page, link.attributes["href"]).file for link in element.links)
        return tuple(file for file in targets if file is not None and file in self.pages)

    def _main(self, menus: list[FoundMenu], wanted: str) -> FoundMenu | None:
        """The menu that is taken for the main one: the one that is asked for, else the one to most pages; of two, the
        first."""
        named = next((menu for menu in menus if menu.name == wanted), None)

        def weight(menu: FoundMenu) -> tuple[int, int]:
            led = {entry.target.file for entry in all_entries(menu.entries) if entry.target and entry.target.file}
            return len(led & set(self.pages)), -menu.block.order

        return named or max(menus, key=weight, default=None)

    # Pages

    def _cuts(
        self, blocks: Iterable[SharedBlock], taken: Mapping[str, tuple[Element, ...]]
    ) -> dict[str, list[Element]]:
        """By file, what is not the page's own."""
        cuts = {
            file: [*taken.get(file, ()), *self.read.versions.switches[file], *skip_link(page)]
            for file, page in self.pages.items()
        }
        for block in blocks:
            for file, here in block.blocks.items():
                cuts[file].append(here.element)
        return cuts

    def _places(self, cuts: Mapping[str, list[Element]]) -> dict[str, tuple[int, int] | None]:
        """By file, where its own content stands; links to the page before and the one after go with that."""
        return {file: content_place(page, cuts[file]) for file, page in self.pages.items()}

    def _of_not_found(self, shared: Iterable[SharedBlock]) -> str:
        """The own content of the page for addresses that do not exist: all but the blocks that others have too."""
        if self.not_found is None:
            return ""
        named = named_blocks(self.not_found)
        blocks = (named[one.name].element for one in shared if one.name in named)
        return own_content(self.not_found, [*blocks, *skip_link(self.not_found)])

    def _before(
        self,
        shared: Iterable[SharedBlock],
        cuts: Mapping[str, list[Element]],
        places: Mapping[str, tuple[int, int] | None],
    ) -> frozenset[str]:
        """The shared blocks that stand before a page's own words: seen on the page with most of these."""
        return frozenset(block.name for block in shared if self._count_words(block, cuts, places)[0] < _FEW)

    def _is_within(
        self,
        block: SharedBlock,
        cuts: Mapping[str, list[Element]],
        places: Mapping[str, tuple[int, int] | None],
    ) -> bool:
        """Whether a shared block is between words of a page's own. It stays there: as a part of header or footer it
        would come before or after the words that it belongs to."""
        before, behind = self._count_words(block, cuts, places)
        return before >= _FEW and behind >= _FEW

    @staticmethod
    def _count_words(
        block: SharedBlock, cuts: Mapping[str, list[Element]], places: Mapping[str, tuple[int, int] | None]
    ) -> tuple[int, int]:
        """How many words of its own a page has before a shared block and behind it, on the page with most of them."""
        file = max(block.blocks, key=lambda file: _length(places[file]))
        page, element = block.blocks[file].page, block.blocks[file].element
        before = behind = 0
        for one in page.body.walk():
            if one.tag in ("script", "style") or any(cut.holds(one) for cut in cuts[page.file]):
                continue
            words = sum(len(piece.split()) for piece in one.pieces if isinstance(piece, str))
            if one.start < element.start:
                before += words if one.tag not in _HEADINGS or not words else max(words, _FEW)
            else:
                behind += words
        return before, behind

    def _pages(
        self,
        above: Mapping[str, str | None],
        menus: list[FoundMenu],
        main: FoundMenu | None,
        pattern: str,
        name: str,
        ways: Mapping[str, tuple[str, ...]],
        cuts: Mapping[str, list[Element]],
        places: Mapping[str, tuple[int, int] | None],
    ) -> dict[str, ImportedPage]:
        labels: dict[str, str] = {}
        for menu in (*([main] if main else []), *menus):
            for entry in all_entries(menu.entries):
                if entry.target is not None and entry.target.file in self.pages and not entry.target.fragment:
                    labels.setdefault(entry.target.file, entry.label)
        taken: dict[str | None, set[str]] = defaultdict(set)
        found: dict[str, ImportedPage] = {}
        order = [self.home, *self._in_menu_order(main)] if self.home else list(self.pages)
        for file in dict.fromkeys([*order, *self.pages]):
            if file is None:
                continue
            page = self.pages[file]
            title = without_site(page.title, pattern, name) or labels.get(file) or _in_words(file)
            id_ = "home" if file == self.home else id_from(_in_words(file), taken[above[file]])
            taken[above[file]].add(id_)
            content = own_content(page, cuts[file])
            trail = ways.get(file, ())
            highlight = self.marked.get(file)
            label = labels.get(file, title)
            found[file] = ImportedPage(
                page, id_, title, label, above[file], (), content, places[file], trail, highlight
            )
        return found

    def _in_menu_order(self, main: FoundMenu | None) -> list[str]:
        entries = all_entries(main.entries) if main else ()
        return [e.target.file for e in entries if e.target is not None and e.target.file in self.pages]

    def _drift(
        self,
        menus: list[FoundMenu],
        parts: list[SharedBlock],
        above: Mapping[str, str | None],
        ways: Mapping[str, tuple[str, ...]],
        trails: Mapping[str, Element],
    ) -> tuple[list[Drift], list[FoundMenu]]:
        drift: list[Drift] = []
        named = []
        for menu in menus:
            entries = {file: entries_of(self.pages[file], one, self.follow) for file, one in menu.element_of.items()}
            mark, wrong, marked = mark_of(menu.entries, entries, above)
            unlinked = {one.file for one in wrong} if NO_LINK in mark else set()
            drift += (
                one
                for one in menu_drift(menu, entries, self.pages)
                if not (one.kind is DriftKind.NOT_LINKED and one.file in unlinked)
            )
            self.marked |= marked
            drift += [Drift(one.file, menu.name, one.kind, one.words, *self._place(menu, one.file)) for one in wrong]
            named.append(replace(menu, mark=mark))
        in_menus = {menu.name for menu in menus}
        for part in parts:
            if part.name not in in_menus:
                drift += block_drift(part, self.pages, self.follow)
        drift += trail_drift(ways, trails, self.pages)
        styles = {file: frozenset(self._style(page, one) for one in page.styles) for file, page in self.pages.items()}
        drift += head_drift(self.pages, styles)
        drift = self._of_same_kind(drift, {*in_menus})
        framed = self._framed()
        drift = mistakes((one for one in drift if one.file not in framed), len(self.pages))
        order = {file: number for number, file in enumerate(self.pages)}
        return sorted(drift, key=lambda one: (order[one.file], one.block, one.line)), named

    def _of_same_kind(self, drift: list[Drift], menus: set[str]) -> list[Drift]:
        """Without the parts that home lacks, and that a page lacks of which several are not there: such a page is of
        another kind, like a search or an index, and lacks them on purpose."""
        lacking = Counter(one.file for one in drift if one.kind is DriftKind.MISSING and one.block not in menus)
        return [
            one
            for one in drift
            if one.kind is not DriftKind.MISSING
            or one.block in menus
            or not one.block
            or (one.file != self.home and lacking[one.file] < _OTHER_KIND)
        ]

    def _framed(self) -> set[str]:
        """The pages that are shown in frames of others, and lack on purpose what those have."""
        found = set()
        for page in self.pages.values():
            for element in page.body.walk():
                if element.tag == "iframe" and element.attributes.get("src"):
                    target = self.follow(page, element.attributes["src"])
                    if target.file is not None:
                        found.add(target.file)
        return found

    def _place(self, menu: FoundMenu, file: str) -> tuple[int, int]:
        return self.pages[file].place(menu.element_of[file].start)

    def _style(self, page: OldPage, href: str) -> str:
        target = self.follow(page, href)
        return target.file or target.url or unquote(href)

    def _notes(self, main: FoundMenu | None) -> Iterable[str]:
        if main is None:
            yield "No menu was found that most pages share, so the main menu follows the tree of pages."
        guessed = [page.file for page in self.pages.values() if not page.says_charset]
        if guessed:
            more = f", and {len(guessed) - 1} more," if len(guessed) > 1 else ""
            yield f"{guessed[0]}{more} does not say its encoding; it was guessed."


def _within(block: SharedBlock, taken: Mapping[str, tuple[Element, ...]]) -> bool:
    """Whether a block is, or is within, something that is no menu."""
    return any(_meet(one, block.model.element) for one in taken[block.model.page.file])


def _meet(one: Element, two: Element) -> bool:
    """Whether one of two elements stands in the other."""
    return one.holds(two) or two.holds(one)


def _shared_parent(files: tuple[str, ...], above: Mapping[str, str | None]) -> str | None:
    """The nearest page that all of some pages are, or stand below."""
    ways = []
    for file in files:
        way, at = [file], above[file]
        while at is not None:
            way.append(at)
            at = above[at]
        ways.append(way)
    return next((file for file in ways[0] if all(file in way for way in ways)), None)


def _in_words(file: str) -> str:
    """What a file is called, in words: that of its folder for the front page of one."""
    folder, _, name = file.rpartition("/")
    stem = name.rpartition(".")[0]
    if name.lower() in INDEXES and folder:
        stem = folder.rpartition("/")[2]
    return " ".join(stem.replace("_", " ").replace("-", " ").split()) or stem


def _length(place: tuple[int, int] | None) -> int:
    return place[1] - place[0] if place is not None else 0
