"""A site that stays as it is: its pages remain, with marks set around what they share, and a map says what stands there
from then on."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Container, Iterable, Iterator, Mapping
from dataclasses import dataclass, replace
from urllib.parse import quote

from basilica.core.exchange.site_import.found_menus import FoundEntry, entries_of
from basilica.core.exchange.site_import.imported_site import FoundMenu, ImportedSite
from basilica.core.exchange.site_import.learned_markup import Role, WrittenEntries, learned, roles, written_on
from basilica.core.exchange.site_import.map_text import MapText, free_name, plain_name
from basilica.core.exchange.site_import.missing_blocks import put_in
from basilica.core.exchange.site_import.shared_blocks import SharedBlock
from basilica.core.language.sections.part_words import BUILT_IN_PARTS
from basilica.core.map.document.scalar_writer import write_scalar
from basilica.core.map.site.shared_values import EntryMarkup
from basilica.core.outputs.inlay import CONTENT, PutIn

_CLEARLY = 0.6
"""On so many of the pages that have a block it must say the same to be set in everywhere."""
_IN_LIST = EntryMarkup()
_IN_LINE = EntryMarkup(entry='<a href="{address}">{label}</a>', between=" | ")
_MARKUP_WORDS = ("entry", "current", "section", "holds", "group", "between", "below")

Mark = tuple[int, int, str]
"""Where a region begins and ends, in the bytes of a file, and what it is called."""


@dataclass(frozen=True, slots=True)
class StayedSite:
    """What a map and its marks are for a site that stays: the text of the map, the files beside it by name, and by file
    of a page its marks, and what it lacks and gets. ``keys`` are the keys of pages by their file, and ``notes`` what a
    person should look at."""

    text: str
    files: Mapping[str, bytes]
    keys: Mapping[str, str]
    marks: Mapping[str, tuple[Mark, ...]]
    put_in: Mapping[str, tuple[PutIn, ...]]
    regions: Mapping[str, str]
    """By region, the block that it is found by on the pages."""
    notes: tuple[str, ...]
    languages: Mapping[str, str]
    """By the file of a page in another language than the first, the tag of that."""


def stayed_site(
    site: ImportedSite,
    left: Iterable[str] = (),
    breadcrumbs: bool = True,
    folder: str = "",
    own: Iterable[tuple[str, str]] = (),
) -> StayedSite:
    """Make the map of a site that stays. ``left`` names pages that get nothing that they lack; without ``breadcrumbs``
    these stay the pages' own. ``folder`` is where the pages are, if the map is to say that. ``own`` are regions, by
    file and name, that get no marks: they differ on purpose, or are written in a way of their own."""
    return _Stay(site, frozenset(left), folder, frozenset(own)).done(breadcrumbs)


class _Stay:
    def __init__(self, site: ImportedSite, left: frozenset[str], folder: str, own: frozenset[tuple[str, str]]) -> None:
        self.site, self.left, self.folder, self.own, self.map = site, left, folder, own, MapText(site)
        self.notes = self.map.notes
        self.marks: dict[str, list[Mark]] = defaultdict(list)
        self.put_in: dict[str, list[PutIn]] = defaultdict(list)
        self.markups: dict[str, dict[str, EntryMarkup]] = {}
        """By the name of a menu in the map, how its entries are written in each language."""
        self.parts: dict[str, bytes] = {}
        self.regions: dict[str, str] = {}
        self.versions = {each.tag: _of_pages(each.version, self.map.language_of) for each in self.map.translations}
        """By tag, the site in other languages, as far as its pages are in the map."""
        self.pages = {file: page for one in (site, *self.versions.values()) for file, page in one.pages.items()}
        self.differs = {(one.file, one.block) for each in (site, *self.versions.values()) for one in each.drift}

    def done(self, breadcrumbs: bool) -> StayedSite:
        menus = self.map.menus()
        for menu in self.site.menus:
            if menu.key in self.map.menu_names:
                name = self.map.menu_names[menu.key]
                self._menu(self.site, menu, name, "")
                for each in self.map.translations:
                    twin = each.twin(self.site, menu)
                    if twin is not None:
                        self._menu(self.versions[each.tag], twin, name, each.tag)
        for block in self.site.parts:
            self._part(block)
        crumbs = {"": self._breadcrumbs(self.site)} if breadcrumbs else {}
        if crumbs.get("") is not None:
            crumbs |= {tag: self._breadcrumbs(version) for tag, version in self.versions.items()}
        trails = {tag: markup for tag, markup in crumbs.items() if markup is not None}
        for file, page in self.pages.items():
            if page.content_place is not None and self.marks.get(file):
                self._mark(file, *page.content_place, CONTENT)
        style, paths = self.map.paths()
        home = self.site.home
        if home is not None and home != "index.html" and not self.map.tag:
            paths = paths | {home: "/" + quote(home, safe="!$&'()*+,;=:@-._~/")}
        text = self.map.text(style, paths, menus, self._inlay_lines(trails), self._link_style())
        marks = {file: tuple(self._with_mark_of_order(file, spans)) for file, spans in self.marks.items() if spans}
        put_in = {file: tuple(ones) for file, ones in self.put_in.items()}
        wide = [file for file, page in self.pages.items() if page.page.charset.startswith("utf-16")]
        if wide:
            self.notes.append(f"{', '.join(wide[:3])}: pages in UTF-16 get no marks. Save them as UTF-8.")
        notes = tuple(dict.fromkeys(self.notes))
        return StayedSite(text, self.parts, self.map.keys, marks, put_in, self.regions, notes, self.map.language_of)

    # Regions

    def _menu(self, site: ImportedSite, menu: FoundMenu, name: str, tag: str) -> None:
        """A menu of the site in one language, called ``name`` in the map; the first language has no ``tag`` here."""
        pages: dict[str, WrittenEntries] = {}
        for file, element in menu.element_of.items():
            if file not in site.pages:
                continue
            page = site.pages[file].page
            entries = entries_of(page, element, site.follow)
            written = written_on(page, element, entries, roles(file, menu.entries, self._way(site, file)))
            if written is not None:
                pages[file] = written
        usual = {file: one for file, one in pages.items() if (file, menu.name) not in self.differs}
        markup = learned(usual)
        if not pages:
            self.notes.append(f"{menu.name} is written in no way that could be learned, so it stays as it is.")
            return
        if markup is None:
            self.notes.append(f"{menu.name} is written in several ways; its entries are written as plain links now.")
            model = menu.block.model.element
            markup = _IN_LIST if any(one.tag in ("ul", "ol") for one in model.walk()) else _IN_LINE
        region = f"entries {name}"
        self.markups.setdefault(name, {})[tag] = markup
        self.regions[region] = menu.name
        for file, one in pages.items():
            self._mark(file, one.start, one.end, region)
        lacking = [file for file in menu.section or site.pages if file not in menu.element_of and file in site.pages]
        model_file = next((file for file in menu.block.blocks if file in menu.block.same and file in pages), None)
        if model_file is None:
            return
        where = pages[model_file]
        for file in lacking:
            if (file, menu.name) in self.differs and file not in self.left:
                self._put(file, menu.block, model_file, (where.start, where.end), region)

    def _part(self, block: SharedBlock) -> None:
        """A shared block that holds no menu, in every language."""
        if _holds_menu(self.site, block):
            return
        if len(block.same) < _CLEARLY * len(block.blocks):
            self.notes.append(f"{block.name} says something else on many pages, so it stays as it is.")
            return
        name = free_name(plain_name(block.name), {each[6:-5] for each in self.parts} | {*BUILT_IN_PARTS, "none"})
        self.regions[f"part {name}"] = block.name
        self._part_in(self.site, block, name, name)
        for tag, version in self.versions.items():
            twin = next((one for one in version.parts if one.name == block.name), None)
            is_clear = twin is not None and len(twin.same) >= _CLEARLY * len(twin.blocks)
            if twin is not None and is_clear and not _holds_menu(version, twin):
                self._part_in(version, twin, name, f"{name}.{tag}")

    def _part_in(self, site: ImportedSite, block: SharedBlock, name: str, file_name: str) -> None:
        model, region = block.model, f"part {name}"
        start, end = _trimmed(model.page.data, model.element.inner, model.element.inner_end)
        markup = model.page.data[start:end].decode(model.page.encoding, "replace").replace("\r\n", "\n")
        self.parts[f"parts/{file_name}.html"] = (self.map.linked(model.page, markup) + "\n").encode()
        for file, here in block.blocks.items():
            if here.element.tag == model.element.tag and file in site.pages:
                self._mark(file, *_trimmed(here.page.data, here.element.inner, here.element.inner_end), region)
        for file in site.pages:
            if file not in block.blocks and (file, block.name) in self.differs and file not in self.left:
                self._put(file, block, model.page.file, (start, end), region)

    def _breadcrumbs(self, site: ImportedSite) -> EntryMarkup | None:
        """Breadcrumbs, where all in a language that have some write them in one way, from home to the page itself."""
        pages: dict[str, WrittenEntries] = {}
        for file, element in site.trails.items():
            if file not in site.pages:
                continue
            page = site.pages[file].page
            entries = entries_of(page, element, site.follow)
            if not entries or entries[-1].target is not None:
                return None
            written = written_on(page, element, entries, _role_in_trail(entries[-1]))
            if written is None:
                return None
            pages[file] = written
        markup = learned(pages)
        if markup is None or len(pages) < 2:
            return None
        self.regions["breadcrumbs"] = "breadcrumbs"
        for file, one in pages.items():
            self._mark(file, one.start, one.end, "breadcrumbs")
        return markup

    def _put(self, file: str, block: SharedBlock, model: str, inside: tuple[int, int], region: str) -> None:
        """Put a block into a page that lacks it."""
        pages = self.pages
        found = put_in(pages[model].page, block.blocks[model].element, inside, pages[file].page, region)
        if found is None:
            self.notes.append(f"{file} has no place for {block.name} as other pages have. Add its marks by hand.")
        else:
            self.put_in[file].append(found)

    def _mark(self, file: str, start: int, end: int, name: str) -> None:
        """Note a mark, unless it would stand in another, or what it is for stands there already."""
        if self.pages[file].page.charset.startswith("utf-16") or (file, name) in self.own:
            return
        switches = (one for each in (self.site, *self.versions.values()) for one in each.switches.get(file, ()))
        if name != CONTENT and any(start < one.end and one.start < end for one in switches):
            self.notes.append(f"{name}: it contains links to other languages, so it stays as it is.")
            return
        if start < end and all(end <= one[0] or start >= one[1] for one in self.marks[file]):
            self.marks[file].append((start, end, name))

    def _with_mark_of_order(self, file: str, spans: Iterable[Mark]) -> Iterator[Mark]:
        """Marks by their place in the file itself, which may begin with a mark of byte order."""
        more = self.pages[file].page.mark_length
        return ((start + more, end + more, name) for start, end, name in sorted(spans))

    @staticmethod
    def _way(site: ImportedSite, file: str) -> Iterator[str]:
        """A page and those above it, each followed by the one whose entry it marks."""
        at: str | None = file
        while at is not None:
            yield at
            named = site.pages[at].highlight
            if named is not None:
                yield named
            at = site.pages[at].parent

    # The map

    def _inlay_lines(self, trails: Mapping[str, EntryMarkup]) -> Iterator[str]:
        if not self.markups and not trails and not self.folder:
            return
        yield ""
        yield "inlay:"
        if self.folder:
            yield f"  folder: {write_scalar(self.folder)}"
        if self.markups:
            yield "  menus:"
            for name, markups in self.markups.items():
                yield f"    {name}:"
                yield from _markup_lines(markups, "      ")
        if trails:
            yield "  breadcrumbs:"
            yield from _markup_lines(trails, "    ")

    def _link_style(self) -> str:
        """How most links in menus are written: from the root, in full, or relative."""
        styles: dict[str, int] = defaultdict(int)
        for menu in self.site.menus:
            for element in menu.element_of.values():
                for link in element.links:
                    href = link.attributes["href"].strip()
                    if href.startswith("/") and not href.startswith("//"):
                        styles["root"] += 1
                    elif "://" in href:
                        styles["absolute"] += bool(self.site.base and href.startswith(self.site.base))
                    else:
                        folder = href.partition("#")[0].partition("?")[0].endswith(("/", ".."))
                        styles["document" if folder else "file"] += 1
        return max(styles, key=lambda style: styles[style], default="file")


def _holds_menu(site: ImportedSite, block: SharedBlock) -> bool:
    model = block.model
    holds = (menu.element_of.get(model.page.file) for menu in site.menus)
    return any(one is not None and (model.element.holds(one) or one.holds(model.element)) for one in holds)


def _of_pages(version: ImportedSite, known: Container[str]) -> ImportedSite:
    """A site in another language with no more pages than are in the map."""
    return replace(version, pages={file: page for file, page in version.pages.items() if file in known})


def _markup_lines(markups: Mapping[str, EntryMarkup], indent: str) -> Iterator[str]:
    """How entries are written in each language, by its tag: the first one's own, and what is otherwise in others."""
    (_, first), *others = markups.items()
    yield from _markup_words(first, EntryMarkup(), indent)
    for tag, markup in others:
        words = tuple(_markup_words(_in_full(markup, first), first, indent + "  "))
        if words:
            yield f"{indent}{tag}:"
            yield from words


def _in_full(markup: EntryMarkup, first: EntryMarkup) -> EntryMarkup:
    """The markup of another language with what it lacks as in the first; where the first tells two kinds of entry apart
    that are the same in this one, each is said."""
    said = {word: text for word in _MARKUP_WORDS if (text := getattr(markup, word))}
    if first.section and markup.current:
        said.setdefault("section", markup.current)
    if first.holds:
        said.setdefault("holds", markup.entry)
    return replace(first, **(said | {"between": markup.between}))


def _markup_words(markup: EntryMarkup, known: EntryMarkup, indent: str) -> Iterator[str]:
    for word in _MARKUP_WORDS:
        text = getattr(markup, word)
        if text != getattr(known, word):
            yield f"{indent}{word}: {write_scalar(text)}"


def _role_in_trail(last: FoundEntry) -> Role:
    """What a level of breadcrumbs is: a link, the page itself, or a name alone."""
    return lambda entry: "current" if entry is last else "entry" if entry.target is not None else "group"


def _trimmed(data: bytes, start: int, end: int) -> tuple[int, int]:
    """A span without the white space at its ends."""
    inside = data[start:end]
    left = len(inside) - len(inside.lstrip())
    return (start + left, start + len(inside.rstrip())) if inside.strip() else (start, start)
