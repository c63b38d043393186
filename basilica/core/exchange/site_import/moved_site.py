"""An imported site as a map of its own, with the content of its pages and every other file, at the same addresses."""

from __future__ import annotations

import html
import re
from collections.abc import Container, Iterable, Iterator, Mapping
from dataclasses import dataclass

from basilica.core.exchange.site_import.imported_site import FoundMenu, ImportedPage, ImportedSite
from basilica.core.exchange.site_import.map_text import MapText, free_name, plain_name
from basilica.core.exchange.site_import.old_page import OldPage
from basilica.core.exchange.site_import.own_content import without
from basilica.core.exchange.site_import.shared_blocks import SharedBlock
from basilica.core.exchange.site_import.source_tree import Element
from basilica.core.language.sections.part_words import BUILT_IN_PARTS
from basilica.core.map.map_files import PUBLIC
from basilica.core.plan.content_links import NOT_FOUND_KEY, Content
from basilica.core.shared.locales import MENU_NAMES, phrases

_LEADING = re.compile(r"\s*(?:<!--.*?-->\s*)*<h([1-4])\b([^>]*)>(.*?)</h\1\s*>", re.IGNORECASE | re.DOTALL)
_HEADING = re.compile(r"(</?h)([1-6])(?=[\s>/])", re.IGNORECASE)
_TAGS = re.compile(r"<[^>]*>")
_REGIONS = ("header", "section-menus", "footer")
"""The regions of the usual layout in which menus stand."""
_AROUND = {"li": "<ul>{}</ul>", "tr": "<table>{}</table>", "tbody": "<table>{}</table>"}
"""What stands around the piece of a list or a table by itself."""


@dataclass(frozen=True, slots=True)
class MovedSite:
    """What becomes of an imported site: the text of its map, the content by page key, and the files beside the map by
    name. ``keys`` are the keys of pages by their old file, ``languages`` the tags of those that are in another language
    than the first, and ``notes`` what could not be brought along, in words."""

    text: str
    contents: Mapping[str, Content]
    files: Mapping[str, bytes]
    keys: Mapping[str, str]
    languages: Mapping[str, str]
    notes: tuple[str, ...]


def moved_site(site: ImportedSite, files: Mapping[str, bytes], exceptions: Iterable[str] = ()) -> MovedSite:
    """Make the map of an imported site. ``files`` are the bytes of its files by name; ``exceptions`` are pages whose
    parts and menus differ on purpose: they keep them."""
    return _Move(site, files, frozenset(exceptions)).done()


class _Move:
    def __init__(self, site: ImportedSite, files: Mapping[str, bytes], exceptions: frozenset[str]) -> None:
        self.site, self.files, self.map = site, files, MapText(site)
        parents = {page.parent for page in site.pages.values() if page.parent is not None}
        self.exceptions = [file for file in site.pages if file in exceptions and file not in parents]
        """Pages under one would have what that has, so one with pages under it is no exception."""
        for file in sorted(exceptions & parents):
            self.map.notes.append(
                f"{file} has pages under it that would inherit its parts, so it gets the parts of all pages."
            )
        self.others: dict[str, dict[str, str]] = {file: {} for file in self.exceptions}
        """By exception, what it has in place of a part: the name of another, or nothing."""
        self.layouts: dict[str, bytes] = {}
        self.phrases = phrases(site.language or "en", {})
        self.notes = self.map.notes
        self.parts: dict[str, bytes] = {}
        self.known: dict[str, str] = {}
        """By the name of a block, that of the part which is made of it."""
        self.slots: dict[str, list[str]] = {"header": [], "footer": []}

    def done(self) -> MovedSite:
        contents: dict[str, Content] = {}
        for site, tag in ((self.site, ""), *((each.version, each.tag) for each in self.map.translations)):
            for file, page in site.pages.items():
                if self.map.language_of.get(file, "") == tag and file in self.map.keys:
                    markup = self._titled(self.map.linked(page.page, page.content), page, site)
                    if tag:
                        markup = self._with_blocks_of_one_language(markup, file, site)
                    contents |= _content(self.map.keys[file], tag, markup)
            if site.not_found is not None and site.not_found_content:
                markup = self.map.linked(site.not_found, site.not_found_content)
                contents |= _content(NOT_FOUND_KEY, tag, markup)
        for block in self.site.parts:
            if block.name in self.site.within:
                continue
            self._part(block.model.page, block.model.element, block.name, block.words)
            self._except(block)
        self._say_exceptions()
        styles = sorted({style for page in self.site.pages.values() for style in page.page.styles})
        if styles:
            self.notes.append("The old style sheets are among the files, and no page of the new site loads them.")
        menus = self.map.menus()
        self._except_menus()
        style, paths = self.map.paths()
        files = {f"{PUBLIC}/{name}": self.files[name] for name in self.map.public}
        return MovedSite(
            self.map.text(style, paths, menus, self._slot_lines()),
            contents,
            {**files, **self.parts, **self.layouts},
            self.map.keys,
            {file: tag for file, tag in self.map.language_of.items() if tag},
            tuple(self.notes),
        )

    def _with_blocks_of_one_language(self, markup: str, file: str, site: ImportedSite) -> str:
        """The content of a page with the blocks that the pages of its language share and those of the first do not:
        there is no part that they could be a translation of."""
        known = {block.name for block in self.site.parts}
        for block in site.parts:
            here = block.blocks.get(file)
            if block.name not in known | site.within and here is not None and block.words != site.name:
                own = self.map.linked(here.page, _apart(site, here.page, here.element)).strip()
                markup = f"{own}\n{markup}" if block.name in site.before else f"{markup}\n{own}"
        return markup

    @staticmethod
    def _titled(markup: str, page: ImportedPage, site: ImportedSite) -> str:
        """Content whose first heading is the page's title, as a heading of the first level; those below it come up with
        it."""
        found = _LEADING.match(markup)
        if found is None or found[1] == "1" or re.search(r"<h1\b", markup, re.IGNORECASE):
            return markup
        words = " ".join(_TAGS.sub(" ", found[3]).split()).casefold()
        if words not in (page.title.casefold(), page.label.casefold()) and page.file != site.home:
            return markup
        up = int(found[1]) - 1
        rest = _HEADING.sub(lambda one: f"{one[1]}{max(2, int(one[2]) - up)}", markup[found.end() :])
        return f"<h1{found[2]}>{found[3]}</h1>{rest}"

    # Parts

    def _slot_lines(self) -> Iterator[str]:
        slots = {name: parts for name, parts in self.slots.items() if parts}
        if slots:
            yield ""
            yield "slots:"
            yield from (f"  {name}: [{', '.join(parts)}]" for name, parts in slots.items())

    def _except(self, block: SharedBlock) -> None:
        """What the exceptions have in place of the part that was made last."""
        known = self.known.get(block.name)
        for file in self.exceptions if known is not None else ():
            if known is None or not any(one.file == file and one.block == block.name for one in self.site.drift):
                continue
            here = block.blocks.get(file)
            other = ""
            if here is not None:
                other = free_name(f"{known}-{self.site.pages[file].id}"[:60], {each[6:-5] for each in self.parts})
                menus = [menu.element_of[file] for menu in self.site.menus if file in menu.element_of]
                markup = self.map.linked(here.page, without(here.page, here.element, menus)).strip()
                self.parts[f"parts/{other}.html"] = (markup + "\n").encode()
            self.others[file][known] = other

    def _say_exceptions(self) -> None:
        for file, others in self.others.items():
            said = []
            for slot, parts in self.slots.items():
                if others.keys() & set(parts):
                    own = [name for name in (others.get(part, part) for part in parts) if name]
                    said.append(f"{slot}: [{', '.join(own)}]" if own else f"{slot}: none")
            if said:
                self.map.more_words.setdefault(file, {})["slots"] = "{" + ", ".join(said) + "}"

    def _except_menus(self) -> None:
        """The layouts of the exceptions whose menus differ: what they have stands where the menu of all would."""
        for file in self.exceptions:
            differs = {one.block for one in self.site.drift if one.file == file}
            own = dict.fromkeys(_REGIONS, "")
            taken = set()
            for menu in (one for one in self.site.menus if one.name in differs and one.key in self.map.menu_names):
                if menu.section and file not in menu.section:
                    continue
                region = "section-menus" if menu.section else "header" if self._is_above(menu) else "footer"
                taken.add(region)
                if file in menu.element_of:
                    own[region] += f'{{{{ part("{self._menu_part(menu, file)}") }}}}'
            if taken:
                name = free_name(f"as-{self.site.pages[file].id}"[:60], {each[13:-5] for each in self.layouts})
                self.layouts[f"page-layouts/{name}.html"] = self._layout(own, taken).encode()
                self.map.more_words.setdefault(file, {})["layout"] = name

    def _is_above(self, menu: FoundMenu) -> bool:
        return menu is self.site.main or menu.name in self.site.before

    def _menu_part(self, menu: FoundMenu, file: str) -> str:
        """The menu of one page as a part, in a landmark of its own."""
        page, element = self.site.pages[file].page, menu.element_of[file]
        called = self.map.menu_names[menu.key]
        markup = page.inside(element) if element.tag in ("td", "th") else page.whole(element)
        markup = _AROUND.get(element.tag, "{}").format(self.map.linked(page, markup).strip())
        if element.tag != "nav":
            label = self.phrases[called] if called in MENU_NAMES else called.replace("-", " ").capitalize()
            # By a name of its own: it is another menu than that of all pages.
            label = html.escape(f"{label}: {self.site.pages[file].label}")
            markup = f'<nav aria-label="{label}">{markup}</nav>'
        name = free_name(f"{called}-of-{self.site.pages[file].id}"[:60], {each[6:-5] for each in self.parts})
        self.parts[f"parts/{name}.html"] = (markup + "\n").encode()
        return name

    def _layout(self, own: Mapping[str, str], taken: Container[str]) -> str:
        """The usual layout, with what one page has of its own in some regions of it."""
        regions = {region: own[region] if region in taken else f'{{{{ part("{region}") }}}}' for region in _REGIONS}
        if "header" in taken:
            skip = f'<a class="b-skip" href="#content">{html.escape(self.phrases["skip"])}</a>'
            regions["header"] = f'{skip}\n{{{{ slot("header") }}}}{own["header"]}'
        top = f'{regions["header"]}{{{{ part("breadcrumbs") }}}}{regions["section-menus"]}'
        bottom = regions["footer"] + ('{{ slot("footer") }}' if "footer" in taken else "")
        lines = ['{% extends "plain" %}', "{% block top %}", top, "{% endblock %}", "{% block bottom %}", bottom]
        return "\n".join([*lines, "{% endblock %}"]) + "\n"

    def _part(self, page: OldPage, element: Element, name: str, words: str) -> None:
        """A shared block as a part, in the row above the header or in the footer. One that says no more than the site's
        name does not come along, since the header says that."""
        markup = _apart(self.site, page, element)
        if words == self.site.name or not _TAGS.sub(" ", markup).strip():
            return
        known = free_name(plain_name(name), {each[6:-5] for each in self.parts} | {*BUILT_IN_PARTS, "none"})
        self.parts[f"parts/{known}.html"] = (self.map.linked(page, markup).strip() + "\n").encode()
        self.slots["header" if name in self.site.before else "footer"].append(known)
        self.known[name] = known
        for each in self.map.translations:
            block = next((one for one in each.version.parts if one.name == name), None)
            if block is not None:
                there = block.model.page
                markup = self.map.linked(there, _apart(each.version, there, block.model.element)).strip()
                self.parts[f"parts/{known}.{each.tag}.html"] = (markup + "\n").encode()


_WITH_TAGS = frozenset(["address", "blockquote", "dl", "fieldset", "form", "map", "menu", "ol", "table", "ul"])
"""Blocks that are something else without their tags: a form would send nowhere, and items would be in no list."""


def _apart(site: ImportedSite, page: OldPage, element: Element) -> str:
    """What stands in an element, but for menus and for what leads to other languages."""
    menus = [menu.element_of[page.file] for menu in site.menus if page.file in menu.element_of]
    switches = [one for one in site.switches.get(page.file, ()) if element.holds(one)]
    inside = without(page, element, [*menus, *switches])
    if element.tag in _WITH_TAGS:
        begin, end = page.data[element.start : element.inner], page.data[element.inner_end : element.end]
        return begin.decode(page.encoding, "replace") + inside + end.decode(page.encoding, "replace")
    name = element.attributes.get("id", "").strip()
    links = (link.attributes["href"] for each in site.pages.values() for link in each.page.body.links)
    if name and any(href.endswith(f"#{name}") for href in links):
        return f'<div id="{html.escape(name)}">{inside}</div>'  # links lead there
    return inside


def _content(key: str, tag: str, markup: str) -> dict[str, Content]:
    """A text by its name, which has its language behind it; nothing where there are no words."""
    name = f"{key}.{tag}" if tag else key
    return {name: Content(f"content/{name}.html", markup + "\n")} if markup.strip() else {}
