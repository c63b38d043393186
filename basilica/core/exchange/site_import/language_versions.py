"""The languages of a site that exists: which pages are in which, how they lead from one to another, and which are
translations of each other."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Callable, Iterable, Iterator, Mapping
from typing import TypeVar

from basilica.core.exchange.site_import.follow import Follow
from basilica.core.exchange.site_import.found_menus import label_of
from basilica.core.exchange.site_import.old_page import OldPage
from basilica.core.exchange.site_import.source_tree import Element
from basilica.core.shared.locales import own_name, primary

_BETWEEN = re.compile(r"[\s|·•/,–—-]+")
_AROUND = frozenset(["", "html", "body", "main"])
_SHARE = 0.2
"""On more than so many of its pages a site says a language that is one of its own."""

Page = TypeVar("Page")


def by_language(pages: Iterable[Page], says: Callable[[Page], tuple[str, bool]]) -> dict[str, list[Page]]:
    """Pages by the language that they are in, without its region. ``says`` is what a page says that it is in, and
    whether it shows that it is a version of others. A language that few say, and that shows in nothing else, was copied
    along with a page; such a page, and one that says none, is among those of most pages."""
    order = list(pages)
    said = [(primary(tag), is_version) for tag, is_version in map(says, order)]
    count = Counter(tag for tag, _ in said if tag)
    most = count.most_common(1)[0][0] if count else ""
    shown = {tag for tag, is_version in said if tag and is_version}
    kept = {most, *shown, *(tag for tag in count if count[tag] > max(1, _SHARE * len(order)))}
    together: dict[str, list[Page]] = {}
    for page, (tag, _) in zip(order, said, strict=True):
        together.setdefault(tag if tag in kept else most, []).append(page)
    return together


def is_in_name(file: str, language: str) -> bool:
    """Whether the name of a file, or of a folder that it lies in, tells its language."""
    return bool(language) and _plain_name(file, primary(language)) != file.lower()


class LanguageVersions:
    """What leads from pages to their translations. ``language_of`` has the language of every page, by file."""

    def __init__(self, pages: Mapping[str, OldPage], language_of: Mapping[str, str], follow: Follow) -> None:
        self.pages, self._language_of, self._follow = pages, language_of, follow
        names = {name for tag in set(language_of.values()) for name in (tag, own_name(tag))}
        self._heads: dict[str, set[str | None]] = {}
        self._names = {word for name in names for word in _words(name)}
        one = len(set(language_of.values())) < 2
        self.switches = {file: [] if one else self._switch(page) for file, page in pages.items()}
        """By file, the links of a page to itself in other languages; with what stands around them, where that holds no
        more."""

    def _switch(self, page: OldPage) -> list[Element]:
        links = [link for link in page.body.links if self._leads_over(page, link)]
        found: list[Element] = []
        for link in links:
            around = link
            while around.parent is not None and around.parent.tag not in _AROUND and self._is_all(page, around.parent):
                around = around.parent
            if around not in found:
                found.append(around)
        return found

    def _leads_over(self, page: OldPage, link: Element) -> bool:
        target = self._follow(page, link.attributes["href"]).file
        there = self._language_of.get(target or "")
        if target is None or there is None or there == self._language_of[page.file]:
            return False
        told = link.attributes.get("hreflang") or link.attributes.get("lang", "")
        named = _words(label_of(link))[:1]
        return primary(told) == there or target in self._told(page) or named in (_words(own_name(there))[:1], [there])

    def _told(self, page: OldPage) -> set[str | None]:
        """The files that the head of a page names as its translations."""
        if page.file not in self._heads:
            self._heads[page.file] = {self._follow(page, href).file for _, href in page.translations}
        return self._heads[page.file]

    def _is_all(self, page: OldPage, element: Element) -> bool:
        """Whether an element holds links to other languages, names of languages, and nothing else."""
        for link in element.links:
            target = self._follow(page, link.attributes["href"]).file
            if not self._leads_over(page, link) and not (target == page.file and self._are_names(label_of(link))):
                return False
        own = "".join(_texts_beside_links(element))
        return self._are_names(own)

    def _are_names(self, text: str) -> bool:
        return self._names.issuperset(_words(text))

    def _led(self, file: str) -> set[str | None]:
        links = (link for element in self.switches[file] for link in element.links)
        return {self._follow(self.pages[file], link.attributes["href"]).file for link in links}

    def partners(self, first: str, language: str) -> dict[str, str]:
        """By the file of a page in the ``first`` language, that of its translation in another: as heads say it, else as
        both lead to one another, else by the names of their files."""
        here = [file for file, tag in self._language_of.items() if tag == first]
        there = {file for file, tag in self._language_of.items() if tag == language}
        found: dict[str, str] = {}
        taken: set[str] = set()

        def take(file: str, other: str | None) -> None:
            if other is not None and other in there and file not in found and other not in taken:
                found[file] = other
                taken.add(other)

        for file in here:
            for other in sorted(there.intersection(self._told(self.pages[file]))):
                take(file, other)
        for file in here:
            for other in sorted(there.intersection(self._led(file))):
                take(file, other if file in self._led(other) else None)
        by_name = {_plain_name(other, language): other for other in sorted(there)}
        for file in here:
            take(file, by_name.get(_plain_name(file, first)))
        return found


def _plain_name(file: str, language: str) -> str:
    """The name of a file without what tells its language: `cy/visit.html`, `visit.cy.html`, `visit_cy.html`."""
    pieces = [piece for piece in file.lower().split("/") if primary(piece) != language or "." in piece]
    return re.sub(rf"[._-]{re.escape(language)}(?=\.[a-z]+$)", "", "/".join(pieces))


def _words(text: str) -> list[str]:
    return [word for word in _BETWEEN.sub(" ", text).casefold().strip("()[]").split() if word]


def _texts_beside_links(element: Element) -> Iterator[str]:
    for piece in element.pieces:
        if isinstance(piece, str):
            yield piece
        elif piece.tag not in ("a", "script", "style"):
            yield " "
            yield from _texts_beside_links(piece)
            yield " "
