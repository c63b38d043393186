"""The text of a map for a site that was read: its pages, its menus and where old addresses lead."""

from __future__ import annotations

import html
import re
from collections import defaultdict
from collections.abc import Container, Iterable, Iterator, Mapping
from dataclasses import dataclass
from urllib.parse import quote

from basilica.core.compile import compile_map
from basilica.core.content.markup import with_links
from basilica.core.exchange.site_import.found_menus import FoundEntry, all_entries
from basilica.core.exchange.site_import.imported_site import FoundMenu, ImportedPage, ImportedSite
from basilica.core.exchange.site_import.old_page import OldPage
from basilica.core.exchange.site_import.titles import without_site
from basilica.core.exchange.site_import.translations import TranslatedSite, folder_of, led_from, translations_of
from basilica.core.map.document.scalar_writer import write_scalar
from basilica.core.map.map_files import PUBLIC, is_file_name
from basilica.core.map.site.entry_reader import outside_address
from basilica.core.map.site.redirects_reader import GONE
from basilica.core.map.site.references import query_of
from basilica.core.plan.routes import GENERATED, ROBOTS, comparable
from basilica.core.shared.locales import own_name, primary

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
        self.menu_names: dict[tuple[str, str | None], str] = {}
        """By what tells a menu from others, the name that it has in the map."""
        self.keys = {file: self._key(page) for file, page in site.pages.items()}
        self.translations = translations_of(site)
        self.language_of = {one.file: each.tag for each in self.translations for one in each.all_pages}
        """By the file of a page in another language than the first, the tag of that."""
        self.keys |= {page.file: self.keys[file] for each in self.translations for file, page in each.pages.items()}
        self.alone = self._alone()
        self.tag = folder_of(site.pages, primary(site.language)) if self.translations else ""
        if self.tag and not all(file.startswith(f"{self.tag}/") for file in site.pages):
            self.tag = ""  # the first language has no folder of its own
        self.untranslated = self._untranslated()
        self.led = {old: file for file, page in site.pages.items() for old in page.was}
        self.public = self._public()
        self.at = self._places()
        others = (at for file, at in self.at.items() if file != site.home)
        self.used = {comparable(name) for name in ("index.html", *self.public, *others, *self.language_of)}
        """Where something else stands, so that nothing can lead on from there."""
        for old in (*site.gone, *(name for page in site.pages.values() for name in page.was)):
            if comparable(old) in self.used and old != "index.html":
                self.notes.append(
                    f"{old} leads on no more: elsewhere it would be one with a file that differs in case."
                )

    # Names

    def _alone(self) -> dict[str | None, list[tuple[str, ImportedPage]]]:
        """By the key of the page above them (None: none), the pages that are there in one language alone, with its tag;
        each gets a key."""
        taken: dict[str | None, set[str]] = defaultdict(set)
        for above, _, page_id in (key.rpartition("/") for key in self.keys.values()):
            taken[above or None].add(page_id)
        found: dict[str | None, list[tuple[str, ImportedPage]]] = defaultdict(list)
        for tag, page in ((each.tag, page) for each in self.translations for page in each.alone.values()):
            over = self.keys[page.parent] if page.parent is not None else None
            page_id = free_name(page.id, taken[over])
            taken[over].add(page_id)
            self.keys[page.file] = f"{over}/{page_id}" if over else page_id
            found[over].append((tag, page))
        return found

    def _untranslated(self) -> tuple[str, ...]:
        """The files of pages in other languages that are no translations that a map can say; they stay as they are."""
        found = []
        for version in self.site.versions.values():
            own = [file for file in version.pages if file not in self.language_of]
            if version.not_found is not None and all(each.version is not version for each in self.translations):
                own.append(version.not_found.file)
            if own:
                more = f" and {len(own) - 1} more pages" if len(own) > 1 else ""
                self.notes.append(
                    f"{own[0]}{more} in {own_name(version.language)} stay as they are: in a map the pages of another"
                    " language lie below a folder with its tag, and below pages that are there in it too."
                )
            found += own
        return tuple(found)

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
        for name in (*self.site.others, *self.untranslated):
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
        if file in self.keys and self.language_of.get(file or "") == self.language_of.get(page.file):
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
            twins = [(each, each.twin(self.site, menu)) for each in self.translations]
            beside = {each.tag: twin.entries for each, twin in twins if twin is not None}
            there = {tag: tuple(all_entries(entries)) for tag, entries in beside.items()}
            entries = self._entries(menu.entries, there, beside)
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
            self.menu_names[menu.key] = name
        return found

    def _menu_name(self, menu: FoundMenu, taken: Mapping[str, object]) -> str:
        is_last = menu.name not in self.site.before and not menu.section
        return free_name("footer" if is_last else plain_name(menu.name), {*taken, "main"})

    def _entries(
        self,
        entries: Iterable[FoundEntry],
        there: Mapping[str, tuple[FoundEntry, ...]],
        beside: Mapping[str, tuple[FoundEntry, ...]],
    ) -> list[_Entry]:
        """Entries of the first language, with what they are called ``there`` in the others, of which those ``beside``
        stand at the same place; and those for pages that are in one of these alone."""
        found: list[_Entry] = []
        for entry in entries:
            twins = {
                tag: next((one for one in others if self._is_for(one, entry)), None) for tag, others in beside.items()
            }
            below = self._entries(
                entry.items, there, {tag: twin.items for tag, twin in twins.items() if twin is not None}
            )
            written = self._entry(entry, bool(below))
            if written is not None:
                words = ((each.tag, each.word(entry, there.get(each.tag, ()))) for each in self.translations)
                found.append(_Entry((*written, *(pair for pair in words if pair[1])), tuple(below)))
            else:
                found += below
        for each in self.translations:
            self._add_alone(found, each, beside.get(each.tag, ()))
        return found

    def _is_for(self, entry: FoundEntry, other: FoundEntry) -> bool:
        """Whether two entries in different languages lead to the same page, or hold some that do."""
        if entry.target is None and other.target is None:
            own, others = ({self.keys.get(file) for file in led_from(one)} - {None} for one in (entry, other))
            return bool(own & others)
        keys = [self.keys.get(one.target.file or "") if one.target is not None else None for one in (entry, other)]
        return keys[0] is not None and keys[0] == keys[1]

    def _add_alone(self, found: list[_Entry], each: TranslatedSite, there: Iterable[FoundEntry]) -> None:
        """Add entries for pages that are in one language alone, each behind what it stands behind in that."""
        place = 0
        for entry in there:
            file = (entry.target.file if entry.target is not None else None) or ""
            key, page = self.keys.get(file, ""), each.alone.get(file)
            if page is not None:
                below: list[_Entry] = []
                self._add_alone(below, each, entry.items)
                label = () if entry.label == page.label else ((each.tag, entry.label),)
                found.insert(place, _Entry((("page", key), *label), tuple(below)))
                place += 1
            else:
                same = (number for number, one in enumerate(found) if one.words[0] == ("page", key))
                place = next(same, place - 1) + 1

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
        in_folders = sum(file.endswith("/index.html") for file in self.at) > len(self.at) / 2
        for style in reversed(_STYLES) if in_folders else _STYLES:
            paths: dict[str, str] = {}
            for _ in range(_ROUNDS):
                plan = compile_map("\n".join(self._site_lines(style, paths)) + "\n").plan
                assert plan is not None
                off = {
                    file: self._path(self.at[file].removeprefix(f"{self.tag}/") if self.tag else self.at[file], style)
                    for file in self.site.pages
                    if file != self.site.home and plan.routes[self.keys[file]].file != self.at[file]
                }
                off |= {
                    page.file: self._path(page.file.removeprefix(f"{each.tag}/"), style)
                    for each in self.translations
                    for page in each.all_pages
                    if plan.languages[each.tag].routes[self.keys[page.file]].file != page.file
                }
                off = {file: path for file, path in off.items() if file not in paths}
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
            home = site.pages[site.home].page.title if site.home is not None else ""
            if without_site(home, site.title_pattern, site.name) != home:  # home has the pattern too
                yield f"  home-title: {write_scalar(site.title_pattern)}"
        if site.base:
            yield f"  base: {write_scalar(site.base)}"
        if self.translations:
            tags = [self.tag or site.language or "en", *(each.tag for each in self.translations)]
            yield f"  languages: [{', '.join(map(write_scalar, tags))}]"
            if self.tag:
                yield "  language-prefix: all"
            for each in self.translations:
                yield from self._version_lines(each)
        else:
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

    def _alone_lines(self, above: str | None, indent: str, paths: Mapping[str, str]) -> Iterator[str]:
        """Pages below one with a key that are there in one language alone: drafts, which are none in that."""
        for tag, page in self.alone.get(above, ()):
            key = self.keys[page.file]
            yield f"{indent}{key.rpartition('/')[2]}:"
            yield f"{indent}  title: {write_scalar(page.title)}"
            yield f"{indent}  draft: yes"
            if page.page.is_hidden:
                yield f"{indent}  noindex: yes"
            yield f"{indent}  {tag}:"
            yield from self._translated_lines(page, indent + "    ", paths)
            yield f"{indent}    draft: no"
            if page.highlight is not None and page.highlight in self.keys:
                yield f"{indent}    highlight: {self.keys[page.highlight]}"
            if key in self.alone:
                yield f"{indent}  pages:"
                yield from self._alone_lines(key, indent + "    ", paths)

    def _version_lines(self, each: TranslatedSite) -> Iterator[str]:
        """What the site is called in another language."""
        version = each.version
        said = {"name": version.name, "title": version.title_pattern}
        first = {"name": self.site.name, "title": self.site.title_pattern}
        words = {word: text for word, text in said.items() if text and text != first[word]}
        if words:
            yield f"  {each.tag}:"
            yield from (f"    {word}: {write_scalar(text)}" for word, text in words.items())

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
            children = [*self._page_lines(below, page.file, indent + "    ", paths)]
            words = self._page_words(page, paths)
            translated = any(page.file in each.pages for each in self.translations)
            if list(words) == ["title"] and not children and not translated:
                yield f"{indent}{page.id}: {write_scalar(page.title)}"
                continue
            yield f"{indent}{page.id}:"
            yield from (f"{indent}  {word}: {value}" for word, value in words.items())
            for each in self.translations:
                if page.file in each.pages:
                    yield f"{indent}  {each.tag}:"
                    yield from self._translated_lines(each.pages[page.file], indent + "    ", paths)
            if children:
                yield f"{indent}  pages:"
                yield from children
        yield from self._alone_lines(self.keys[above] if above is not None else None, indent, paths)

    @staticmethod
    def _translated_lines(page: ImportedPage, indent: str, paths: Mapping[str, str]) -> Iterator[str]:
        """What a page is called in another language."""
        yield f"{indent}title: {write_scalar(page.title)}"
        if page.label != page.title:
            yield f"{indent}label: {write_scalar(page.label)}"
        if page.page.description:
            yield f"{indent}description: {write_scalar(page.page.description)}"
        if page.file in paths:
            yield f"{indent}path: {write_scalar(paths[page.file])}"

    def _page_words(self, page: ImportedPage, paths: Mapping[str, str]) -> dict[str, str]:
        words = {}
        was = list(page.was)
        if page.file == self.site.home:
            words["path"] = write_scalar(paths.get(page.file, "/"))
            was += [page.file] if words["path"] == "/" and not self.tag else []
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
