"""The text of a map for a site that was read: its pages, its menus and where old addresses lead."""

from __future__ import annotations

import html
import re
from collections.abc import Container, Iterable, Iterator, Mapping
from dataclasses import dataclass
from urllib.parse import quote

from basilica.core.content.markup import with_links
from basilica.core.exchange.site_import.found_menus import FoundEntry
from basilica.core.exchange.site_import.imported_site import FoundMenu, ImportedPage, ImportedSite
from basilica.core.exchange.site_import.old_page import OldPage
from basilica.core.map.document.scalar_writer import write_scalar
from basilica.core.map.map_files import PUBLIC, is_file_name
from basilica.core.map.site.entry_reader import outside_address
from basilica.core.map.site.redirects_reader import GONE
from basilica.core.map.site.references import query_of
from basilica.core.pipeline import compile_map
from basilica.core.plan.routes import GENERATED, ROBOTS, comparable

_STYLES = ("files", "folders")
_ROUNDS = 4


class MapText:
    """The names that a site gets in its map, and the lines of that."""

    def __init__(self, site: ImportedSite) -> None:
        self.site, self.follow = site, site.follow
        self.notes: list[str] = []
        """What could not be brought along, in words."""
        self.more_words: dict[str, dict[str, str]] = {}
        """By file of a page, what is said of it besides."""
        self.menu_names: dict[str, str] = {}
        """By the name a menu is found by, the one that it has in the map."""
        self.keys = {file: self._key(page) for file, page in site.pages.items()}
        self.led = {old: file for file, page in site.pages.items() for old in page.was}
        self.public = self._public()
        self.at = self._places()
        others = (at for file, at in self.at.items() if file != site.home)
        self.used = {comparable(name) for name in ("index.html", *self.public, *others)}
        """Where something else stands, so that nothing can lead on from there."""
        for old in (*site.gone, *(name for page in site.pages.values() for name in page.was)):
            if comparable(old) in self.used and old != "index.html":
                self.notes.append(
                    f"{old} leads on no more: elsewhere it would be one with a file that differs in case."
                )

    # Names

    def _key(self, page: ImportedPage) -> str:
        way = [page.id]
        above = page.parent
        while above is not None:
            way.append(self.site.pages[above].id)
            above = self.site.pages[above].parent
        return "/".join(reversed(way))

    def _places(self) -> dict[str, str]:
        """By file, the file that a page will be: the same, unless another page differs from it in case alone, which is
        one place on many servers."""
        taken = {comparable(name) for name in ("index.html", *self.public, *GENERATED)}
        found = {}
        for file in self.site.pages:
            place = file
            stem, dot, ending = file.rpartition(".")
            number = 2
            while comparable(place) in taken and file != self.site.home:
                place = f"{stem}-{number}{dot}{ending}"
                number += 1
            if place != file:
                self.notes.append(
                    f"{file} is at /{place} now: elsewhere it would be one with a file that differs in case."
                )
            taken.add(comparable(place))
            found[file] = place
        return found

    def _public(self) -> list[str]:
        """The files that go along as they are."""
        found = []
        made = {comparable(name) for name in GENERATED if name != ROBOTS}
        for name in self.site.others:
            if comparable(name) in made:
                self.notes.append(f"{name} is made anew.")
            elif is_file_name(f"{PUBLIC}/{name}"):
                found.append(name)
            else:
                self.notes.append(f"{name[:80]} has a name that not every file system takes, so it is left out.")
        return found

    def linked(self, page: OldPage, markup: str) -> str:
        """Markup in which links to pages and files of the site are written by name."""
        return with_links(markup, lambda written: self._named(page, written))

    def _named(self, page: OldPage, written: str) -> str | None:
        """A link by name, as markup; None for one that stays as it is."""
        if written.startswith("#") or not written.strip():
            return None
        target = self.follow(page, written)
        file = self.led.get(target.file or "", target.file)
        if file in self.keys:
            query = html.escape(query_of(written))
            behind = (f"?{query}" if query else "") + (f"#{quote(target.fragment)}" if target.fragment else "")
            return f"page:{self.keys[file]}{behind}"
        return f"file:{quote(file)}" if file in self.public else None

    # Menus

    def menus(self) -> dict[str, list[str]]:
        """By name, the lines of each menu."""
        found: dict[str, list[str]] = {}
        for menu in self.site.menus:
            is_main = menu is self.site.main
            entries = self._entries(menu.entries)
            if not entries:
                continue
            name = "main" if is_main else self._menu_name(menu, found)
            lines = listed(entries, 4 if is_main or not (menu.section or menu.name in self.site.before) else 6)
            section = self.keys[menu.of_page] if menu.of_page is not None else None
            if section is not None:
                lines = [f"    section: {section}", "    entries:", *lines]
            elif not is_main and menu.name in self.site.before:
                lines = ["    place: utility", "    entries:", *lines]
            found[name] = lines
            self.menu_names[menu.name] = name
        return found

    def _menu_name(self, menu: FoundMenu, taken: Mapping[str, object]) -> str:
        is_last = menu.name not in self.site.before and not menu.section
        return free_name("footer" if is_last else plain_name(menu.name), {*taken, "main"})

    def _entries(self, entries: Iterable[FoundEntry]) -> list[_Entry]:
        found = []
        for entry in entries:
            below = self._entries(entry.items)
            written = self._entry(entry, bool(below))
            if written is not None:
                found.append(_Entry(written, tuple(below)))
            else:
                found += below
        return found

    def _entry(self, entry: FoundEntry, has_items: bool) -> tuple[tuple[str, str], ...] | None:
        """The words of an entry with their values; None for one that leads nowhere."""
        target = entry.target
        if target is None:
            return (("group", entry.label),) if has_items else None
        file = self.led.get(target.file or "", target.file)
        if file in self.keys:
            page = self.site.pages[file]
            reference = self.keys[file] + (f"#{target.fragment}" if target.fragment else "")
            label = () if entry.label == page.label and not target.fragment else (("label", entry.label),)
            return (("page", reference), *label)
        if has_items:
            return (("group", entry.label),)
        if file in self.public:
            return (("file", file), ("label", entry.label))
        if target.outside and outside_address(target.url):
            return (("label", entry.label), ("url", target.url))
        self.notes.append(f"The entry “{entry.label}” led nowhere, so it is left out of the menu.")
        return None

    # The map

    def paths(self) -> tuple[str, dict[str, str]]:
        """The style of addresses in which most pages are where they were, and the paths of the others, by file."""
        best: tuple[str, dict[str, str]] | None = None
        in_folders = sum(file.endswith("/index.html") for file in self.keys) > len(self.keys) / 2
        for style in reversed(_STYLES) if in_folders else _STYLES:
            paths: dict[str, str] = {}
            for _ in range(_ROUNDS):
                plan = compile_map("\n".join(self._site_lines(style, paths)) + "\n").plan
                assert plan is not None
                off = {
                    file: self._path(self.at[file], style)
                    for file, key in self.keys.items()
                    if file != self.site.home and plan.routes[key].file != self.at[file] and file not in paths
                }
                if not off:
                    break
                paths |= off
            if best is None or len(paths) < len(best[1]):
                best = style, paths
        assert best is not None
        return best

    @staticmethod
    def _path(file: str, style: str) -> str:
        """The path of a page in a file: that of its folder where addresses are those of folders."""
        written = "/" + quote(file, safe="!$&'()*+,;=:@-._~/")
        return written.removesuffix("index.html") if style == "folders" and file.endswith("/index.html") else written

    def text(
        self,
        style: str,
        paths: Mapping[str, str],
        menus: Mapping[str, list[str]],
        more: Iterable[str] = (),
        links: str = "",
    ) -> str:
        """The map, with ``more`` lines below its menus; ``links`` is how links are written, where that is said."""
        return "\n".join([*self._site_lines(style, paths, links), *self._more_lines(menus, more)]) + "\n"

    def _site_lines(self, style: str, paths: Mapping[str, str], links: str = "") -> Iterator[str]:
        """What is said of the site, and its pages."""
        site = self.site
        yield "site:"
        yield f"  name: {write_scalar(site.name)}"
        if site.title_pattern:
            yield f"  title: {write_scalar(site.title_pattern)}"
        if site.base:
            yield f"  base: {write_scalar(site.base)}"
        yield f"  language: {write_scalar(site.language or 'en')}"
        yield f"  urls: {style}"
        if links:
            yield f"  links: {links}"
        yield ""
        yield "pages:"
        below: dict[str | None, list[ImportedPage]] = {}
        for page in site.pages.values():
            below.setdefault(page.parent, []).append(page)
        yield from self._page_lines(below, None, "  ", paths)

    def _more_lines(self, menus: Mapping[str, list[str]], more: Iterable[str]) -> Iterator[str]:
        if menus:
            yield ""
            yield "menus:"
            for name, lines in menus.items():
                yield f"  {name}:"
                yield from lines
        yield from more
        gone = {file: to for file, to in self.site.gone.items() if comparable(file) not in self.used}
        if gone:
            yield ""
            yield "redirects:"
            yield from (f"  {write_scalar('/' + quote(file))}: {write_scalar(to or GONE)}" for file, to in gone.items())

    def _page_lines(
        self, below: Mapping[str | None, list[ImportedPage]], above: str | None, indent: str, paths: Mapping[str, str]
    ) -> Iterator[str]:
        for page in below.get(above, ()):
            children = below.get(page.file, ())
            words = self._page_words(page, paths)
            if list(words) == ["title"] and not children:
                yield f"{indent}{page.id}: {write_scalar(page.title)}"
                continue
            yield f"{indent}{page.id}:"
            yield from (f"{indent}  {word}: {value}" for word, value in words.items())
            if children:
                yield f"{indent}  pages:"
                yield from self._page_lines(below, page.file, indent + "    ", paths)

    def _page_words(self, page: ImportedPage, paths: Mapping[str, str]) -> dict[str, str]:
        words = {}
        was = list(page.was)
        if page.file == self.site.home:
            words["path"] = write_scalar(paths.get(page.file, "/"))
            was += [page.file] if words["path"] == "/" else []
        was = ["/" + quote(old) for old in was if comparable(old) not in self.used]
        words["title"] = write_scalar(page.title)
        if page.label != page.title:
            words["label"] = write_scalar(page.label)
        if page.page.description:
            words["description"] = write_scalar(page.page.description)
        if page.file in paths and page.file != self.site.home:
            words["path"] = write_scalar(paths[page.file])
        if was:
            listed = ", ".join(map(write_scalar, was))
            words["was"] = listed if len(was) == 1 else f"[{listed}]"
        if page.highlight is not None:
            words["highlight"] = self.keys[page.highlight]
        if page.page.is_hidden:
            words["noindex"] = "yes"
        return words | self.more_words.get(page.file, {})


def plain_name(name: str) -> str:
    """The name of a block as that of a part or a menu: its id or class, where it has one."""
    last = name.rpartition(" > ")[2].rpartition("#")[2].rpartition(".")[2].partition(" ")[0]
    plain = re.sub(r"[^a-z0-9]+", "-", last.lower()).strip("-")[:40]
    return plain if plain and ":" not in last else "block"


def free_name(name: str, taken: Container[str]) -> str:
    """A name that none of those that are taken is."""
    number = 1
    while (known := name if number == 1 else f"{name}-{number}") in taken or known.startswith("menu-"):
        number += 1
        name = f"a-{name}" if known.startswith("menu-") else name
    return known


@dataclass(frozen=True, slots=True)
class _Entry:
    words: tuple[tuple[str, str], ...]
    items: tuple[_Entry, ...] = ()


def listed(entries: Iterable[_Entry], indent: int) -> list[str]:
    """The lines of a list of entries."""
    lines = []
    space = " " * indent
    for entry in entries:
        (word, value), *more = entry.words
        if word == "page" and not more:
            lines.append(f"{space}- {write_scalar(value)}" + (":" if entry.items else ""))
            lines += listed(entry.items, indent + 4)
            continue
        lines.append(f"{space}- {word}: {write_scalar(value)}")
        lines += [f"{space}  {name}: {write_scalar(text)}" for name, text in more]
        if entry.items:
            lines.append(f"{space}  items:")
            lines += listed(entry.items, indent + 4)
    return lines


def with_levels(text: str, codes: Iterable[str], reason: str) -> str:
    """A map in which some checks warn where they would stop the build, with a reason."""
    lines = ["", "checks:", "  levels:"]
    for code in codes:
        lines += [f"    {code}:", "      level: warning", f"      reason: {write_scalar(reason)}"]
    return text + "\n".join(lines) + "\n" if len(lines) > 3 else text
