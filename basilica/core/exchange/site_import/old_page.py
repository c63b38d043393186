"""A page of a site that exists, as it is found: what its head says, and its body as a tree."""

from __future__ import annotations

import codecs
import re
from collections.abc import Iterable
from dataclasses import dataclass
from functools import cached_property

from basilica.core.exchange.site_import.source_tree import Element, plain, read_tree
from basilica.core.rules import limits
from basilica.core.shared.output_file import File
from basilica.core.shared.page_encoding import ascii_like, encoding_of

PAGE_ENDINGS = (".html", ".htm", ".xhtml", ".shtml")
_REFRESH = re.compile(r"\s*(\d+)[^;,]*[;,]\s*(?:url\s*=\s*)?[\"']?([^\"']+)", re.IGNORECASE)
_AT_ONCE = 10
"""Seconds after which a page that sends its readers on still counts as one that only does that."""
_WORDS_OF_REDIRECT = 40


@dataclass(frozen=True)
class OldPage:
    """A page: its ``file``, its bytes in an encoding whose markup is ASCII, and the ``charset`` it is written in.
    ``says_charset`` is whether it says that itself."""

    file: str
    data: bytes
    encoding: str
    charset: str
    says_charset: bool
    has_mark: bool = False
    """Whether its file begins with a mark of byte order, which is not among its bytes here."""

    @property
    def mark_length(self) -> int:
        """How many bytes that mark takes in the file."""
        return len(codecs.BOM_UTF8) if self.has_mark else 0

    @cached_property
    def tree(self) -> Element:
        """All of it."""
        return read_tree(self.data, self.encoding)

    @cached_property
    def body(self) -> Element:
        """Its body; the whole page where it has no such tag."""
        return next((element for element in self.tree.walk() if element.tag == "body"), self.tree)

    @cached_property
    def _head(self) -> dict[str, str]:
        """What its head says, by name."""
        found: dict[str, str] = {}
        # A template is no part of the document, and the title of a drawing is none of the page.
        for element in self.tree.walk(closed=("template", "svg")):
            if element.tag == "title":
                found.setdefault("title", element.text)
            elif element.tag == "html":
                found.setdefault("language", element.attributes.get("lang") or element.attributes.get("xml:lang", ""))
            elif element.tag == "base" and element.attributes.get("href"):
                found.setdefault("base", element.attributes["href"])
            elif element.tag == "link" and "canonical" in element.attributes.get("rel", "").lower().split():
                found.setdefault("canonical", element.attributes.get("href", ""))
            elif element.tag == "meta":
                name = (element.attributes.get("name") or element.attributes.get("http-equiv", "")).lower()
                found.setdefault(name, plain(element.attributes.get("content", "")))
        return found

    @property
    def title(self) -> str:
        """Its title; empty where it has none."""
        return plain(self._head.get("title", ""))

    @property
    def description(self) -> str:
        """What it says of itself for results of searches."""
        return self._head.get("description", "")

    @property
    def language(self) -> str:
        """The language that it says it is in."""
        return plain(self._head.get("language") or self._head.get("content-language", ""))

    @property
    def base(self) -> str:
        """The address from which its links are followed, where it gives one."""
        return self._head.get("base", "")

    @property
    def canonical(self) -> str:
        """The address that it says is its own."""
        return self._head.get("canonical", "")

    @property
    def is_hidden(self) -> bool:
        """Whether search engines are asked to leave it out."""
        return "noindex" in self._head.get("robots", "").lower()

    @cached_property
    def styles(self) -> tuple[str, ...]:
        """The style sheets that it loads, as they are written."""
        links = (element for element in self.tree.walk() if element.tag == "link")
        return tuple(
            one.attributes["href"]
            for one in links
            if "stylesheet" in one.attributes.get("rel", "").lower().split() and one.attributes.get("href")
        )

    @cached_property
    def neighbours(self) -> tuple[str, ...]:
        """The addresses that its head gives for the page before and the one after (HTML, link types)."""
        links = (element.attributes for element in self.tree.walk() if element.tag == "link")
        kinds = {"prev", "previous", "next"}
        return tuple(
            one["href"] for one in links if one.get("href") and not kinds.isdisjoint(one.get("rel", "").lower().split())
        )

    @cached_property
    def translations(self) -> tuple[tuple[str, str], ...]:
        """The languages and the addresses that its head gives for its translations (HTML, link type alternate)."""
        links = (element.attributes for element in self.tree.walk() if element.tag == "link")
        return tuple(
            (one["hreflang"], one["href"])
            for one in links
            if one.get("hreflang") and one.get("href") and "alternate" in one.get("rel", "").lower().split()
        )

    @property
    def leads_on(self) -> str:
        """Where it sends its readers, if that is all it does; else empty."""
        found = _REFRESH.match(self._head.get("refresh", ""))
        if not found or int(found[1]) > _AT_ONCE or len(self.body.text.split()) > _WORDS_OF_REDIRECT:
            return ""
        return plain(found[2])

    def inside(self, element: Element) -> str:
        """What stands in an element, letter for letter."""
        return self.data[element.inner : element.inner_end].decode(self.encoding, "replace")

    def whole(self, element: Element) -> str:
        """An element as it is written, with its tags."""
        return self.data[element.start : element.end].decode(self.encoding, "replace")

    def place(self, at: int) -> tuple[int, int]:
        """The line and the column of an offset, both from 1, the column in characters."""
        begins = self.data.rfind(b"\n", 0, at) + 1
        return self.data.count(b"\n", 0, at) + 1, len(self.data[begins:at].decode(self.encoding, "replace")) + 1


def is_page(file: File) -> bool:
    """Whether a file is a page, and not a piece of one that something else puts together."""
    return (
        file.path.lower().endswith(PAGE_ENDINGS)
        and re.search(rb"<(html|body|head|title|!doctype)\b", ascii_like(file.data[:8000])[0], re.I) is not None
    )


def read_old_page(file: File) -> OldPage:
    """A page from the bytes of its file."""
    data, encoding, charset = ascii_like(file.data)
    return OldPage(file.path, data, encoding, charset, encoding_of(file.data)[1], file.data.startswith(codecs.BOM_UTF8))


def can_be_compared(files: Iterable[File]) -> bool:
    """Whether the pages among some files are few enough to be compared with each other in memory."""
    return sum(len(file.data) for file in files if is_page(file)) <= limits.IMPORTED_PAGES_BYTES
