"""A page as a tree of elements that know where they stand in its bytes, so that each can be taken out as it is written.

Browsers mend what is not closed; this follows the same rules where hand-made pages need them (HTML, 13.1.2.4 optional
tags), and takes the rest as it comes.
"""

from __future__ import annotations

import html
from collections.abc import Container, Iterable, Iterator
from dataclasses import dataclass, field

from basilica.core.map.site.field_reader import UNSEEN
from basilica.core.rules import limits
from basilica.core.shared.html_scanner import attributes, scan

VOID = frozenset(
    [
        "area",
        "base",
        "br",
        "col",
        "embed",
        "hr",
        "img",
        "input",
        "link",
        "meta",
        "param",
        "source",
        "track",
        "wbr",
        "basefont",
        "frame",
    ]
)
_BLOCKS = frozenset(
    [
        "address",
        "article",
        "aside",
        "blockquote",
        "center",
        "div",
        "dl",
        "fieldset",
        "footer",
        "form",
        "h1",
        "h2",
        "h3",
        "h4",
        "h5",
        "h6",
        "header",
        "hr",
        "main",
        "menu",
        "nav",
        "ol",
        "p",
        "pre",
        "section",
        "table",
        "ul",
    ]
)
_CLOSED_BY = {
    "li": (frozenset(["li"]), frozenset(["ul", "ol", "menu"])),
    "dt": (frozenset(["dt", "dd"]), frozenset(["dl"])),
    "dd": (frozenset(["dt", "dd"]), frozenset(["dl"])),
    "tr": (frozenset(["tr", "td", "th"]), frozenset(["table"])),
    "td": (frozenset(["td", "th"]), frozenset(["tr", "table"])),
    "th": (frozenset(["td", "th"]), frozenset(["tr", "table"])),
    "tbody": (frozenset(["tbody", "thead", "tr", "td", "th"]), frozenset(["table"])),
    "option": (frozenset(["option"]), frozenset(["select"])),
    **{tag: (frozenset(["p"]), frozenset(["td", "th", "li", "div"])) for tag in _BLOCKS},
}
"""By tag that opens, the open elements that it closes, and those that it does not look behind."""
_WALLS = frozenset(["td", "th", "table"])
"""A stray closing tag inside one of these closes nothing outside."""


@dataclass(eq=False, slots=True)
class Element:
    """An element: where its opening tag begins, its inside begins and ends, and where it ends, as offsets in the bytes
    of the page. ``pieces`` are its texts and elements in their order."""

    tag: str
    attributes: dict[str, str]
    start: int
    inner: int
    inner_end: int = 0
    end: int = 0
    parent: Element | None = None
    pieces: list[Element | str] = field(default_factory=list)
    order: Order = field(default_factory=lambda: Order(), repr=False)
    spans: tuple[tuple[int, int], ...] = ((0, 0), (0, 0), (0, 0))
    """Which words, links and pictures of ``order`` are in it; none in what is not read, such as a template."""

    @property
    def children(self) -> Iterator[Element]:
        """The elements in it, one level deep."""
        return (piece for piece in self.pieces if isinstance(piece, Element))

    def walk(self, closed: Container[str] = ()) -> Iterator[Element]:
        """The elements in it, itself first, in document order; without what is inside those that are ``closed``."""
        waiting = [self]
        while waiting:
            element = waiting.pop()
            yield element
            if element.tag not in closed:
                waiting.extend(reversed(list(element.children)))

    def holds(self, other: Element) -> bool:
        """Whether another element stands in it, or is it."""
        return self.start <= other.start and other.end <= self.end

    @property
    def text(self) -> str:
        """Its words, with single spaces."""
        start, end = self.spans[0]
        return " ".join("".join(self.order.words[start:end]).split())

    def text_behind(self, inner: Element) -> str:
        """Its words behind an element that stands in it."""
        return " ".join("".join(self.order.words[inner.spans[0][1] : self.spans[0][1]]).split())

    @property
    def links(self) -> list[Element]:
        """The links in it."""
        start, end = self.spans[1]
        return self.order.links[start:end]

    @property
    def has_pictures(self) -> bool:
        """Whether a picture stands in it."""
        start, end = self.spans[2]
        return end > start


@dataclass(eq=False, slots=True)
class Order:
    """What stands on a page as one reads: its words, its links, its pictures. Each element knows which of them are in
    it, so that nothing is walked through twice."""

    words: list[str] = field(default_factory=list)
    links: list[Element] = field(default_factory=list)
    pictures: int = 0

    def take(self, root: Element) -> None:
        """Go through a page."""
        waiting: list[tuple[Element | str, bool]] = [(root, True)]
        while waiting:
            piece, begins = waiting.pop()
            if isinstance(piece, str):
                self.words.append(UNSEEN.sub(" ", piece))
                continue
            here = len(self.words), len(self.links), self.pictures
            if not begins:
                if piece.tag in _APART:
                    self.words.append(" ")
                ends = len(self.words), len(self.links), self.pictures
                piece.spans = tuple((begin, end) for (begin, _), end in zip(piece.spans, ends, strict=True))
                continue
            piece.order, piece.spans = self, tuple((at, at) for at in here)
            if piece.tag in _APART:
                self.words.append(" ")
            if piece.tag in ("a", "area") and piece.attributes.get("href", "").strip():
                self.links.append(piece)
            self.pictures += piece.tag == "img"
            waiting.append((piece, False))
            if piece.tag not in ("script", "style", "noscript", "template"):
                waiting.extend((one, True) for one in reversed(piece.pieces))


_APART = _BLOCKS | frozenset(["br", "li", "td", "th", "tr", "dt", "dd"])
"""Elements whose words are apart from those around them."""


def read_tree(data: bytes, charset: str) -> Element:
    """The tree of a page. Its root has no tag; what is nested too deeply is taken flat."""
    root = Element("", {}, 0, 0, len(data), len(data))
    open_now = [root]
    done = 0

    def text_up_to(end: int) -> None:
        nonlocal done
        if end > done:
            raw = data[done:end].decode(charset, "replace")
            open_now[-1].pieces.append(html.unescape(raw) if open_now[-1].tag not in ("script", "style") else raw)
        done = max(done, end)

    def close(count: int, inner_end: int, end: int) -> None:
        for _ in range(count):
            element = open_now.pop()
            element.inner_end, element.end = inner_end, end
            end = inner_end  # those around it are closed by the same tag, before it

    for piece in scan(data):
        text_up_to(piece.start)
        done = piece.end
        tag = piece.name.decode("latin-1")
        if piece.kind == "open":
            close(_implied(open_now, tag), piece.start, piece.start)
            found = {
                one.name.decode("latin-1"): html.unescape(
                    data[one.value_start : one.value_end].decode(charset, "replace")
                )
                for one in reversed(attributes(data, piece))
            }
            element = Element(tag, found, piece.start, piece.end, piece.end, piece.end, open_now[-1])
            open_now[-1].pieces.append(element)
            if tag not in VOID and len(open_now) < limits.ELEMENT_DEPTH:
                open_now.append(element)
        elif piece.kind == "close":
            depth = _closes(open_now, tag)
            if depth:
                close(depth - 1, piece.start, piece.start)
                close(1, piece.start, piece.end)
    text_up_to(len(data))
    close(len(open_now) - 1, len(data), len(data))
    Order().take(root)
    return root


def leave_out(root: Element, elements: Iterable[Element]) -> None:
    """Leave elements out of the tree of a page, as if they did not stand there."""
    for element in elements:
        if element.parent is not None:
            element.parent.pieces.remove(element)
    Order().take(root)


def _implied(open_now: list[Element], tag: str) -> int:
    """How many of the open elements an opening tag closes."""
    if tag not in _CLOSED_BY:
        return 0
    closed, walls = _CLOSED_BY[tag]
    most = 0
    for depth, element in enumerate(reversed(open_now), 1):
        if element.tag in walls or not element.tag:
            break
        if element.tag in closed:
            most = depth
    return most


def _closes(open_now: list[Element], tag: str) -> int:
    """How many of the open elements a closing tag closes; 0 where it is stray."""
    for depth, element in enumerate(reversed(open_now), 1):
        if element.tag == tag:
            return depth
        if not element.tag or (element.tag in _WALLS and tag not in ("table", "tr", "tbody", "thead", "body", "html")):
            return 0
    return 0


def plain(text: str) -> str:
    """A text on one line, without what no page can show, no longer than a label may be."""
    return " ".join(UNSEEN.sub(" ", text).split())[: limits.LABEL_CHARACTERS].strip()
