"""What is a page's own: its body without what pages share."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator

from basilica.core.exchange.site_import.old_page import OldPage
from basilica.core.exchange.site_import.source_tree import Element

_AROUND = frozenset(["", "html", "body", "center", "div", "form", "font", "main", "table", "tbody", "tr", "td"])
"""Elements that may stand around all of a page's own content, and are none of it."""
_SEEN = frozenset(
    [
        "img",
        "iframe",
        "video",
        "audio",
        "object",
        "embed",
        "canvas",
        "svg",
        "hr",
        "input",
        "button",
        "select",
        "textarea",
        "form",
    ]
)
_DEEPEST = 40
_OF_PIECES = frozenset(["table", "tbody", "thead", "tfoot", "tr", "ul", "ol", "dl", "menu"])
_TAGS = re.compile(rb"<[^>]*>")
_OF_HEADS = frozenset(["head", "meta", "title", "link", "base"])
_DOCTYPE = re.compile(r"\s*<!doctype[^>]*>\s*", re.IGNORECASE)
_UNSEEN = frozenset(["script", "style", "noscript", "template", "link", "meta", "title", "head"])


def own_content(page: OldPage, shared: Iterable[Element]) -> str:
    """The inside of the smallest element that holds all of a page but what is shared, letter for letter, without what
    is shared in it."""
    cuts = sorted([*shared, *_head_without_body(page)], key=lambda element: element.start)
    return _DOCTYPE.sub("", without(page, _around(page.body, cuts), cuts))


def _head_without_body(page: OldPage) -> Iterator[Element]:
    """What belongs to the head of a page that has no tags for head and body (HTML, 13.1.2.4 optional tags)."""
    if page.body.tag != "body":
        yield from (one for one in page.body.walk() if one.tag in _OF_HEADS)


def content_place(page: OldPage, shared: Iterable[Element]) -> tuple[int, int] | None:
    """Where a page's own content stands, in its bytes: the longest piece of it that holds nothing shared; None where
    there is none."""
    cuts = sorted(shared, key=lambda element: element.start)
    found = _longest(page, _around(page.body, cuts), cuts, 0)
    return found[1:] if found is not None and found[0] else None


def skip_link(page: OldPage) -> list[Element]:
    """The first link of a page, if nothing is before it and it leads past links to other pages, to a place on the same
    page; else nothing."""
    for link in page.body.links[:1]:
        name = link.attributes["href"].strip()
        words = " ".join("".join(page.body.order.words[page.body.spans[0][0] : link.spans[0][0]]).split())
        if page.body.tag != "body":
            words = words.removeprefix(page.title)
        if not name.startswith("#") or words or _is_in_words(link):
            return []
        target = next(
            (one for one in page.body.walk() if name[1:] in (one.attributes.get("id"), one.attributes.get("name"))),
            None,
        )
        if target is not None and (target.tag == "main" or target.attributes.get("role") == "main"):
            return [link]
        passed = (one for one in page.body.links[1:] if target is not None and one.start < target.start)
        if any(not one.attributes["href"].strip().startswith("#") for one in passed):
            return [link]
    return []


def _is_in_words(link: Element) -> bool:
    """Whether the paragraph or item of a link has other words too."""
    around = link.parent
    return around is not None and around.tag in ("p", "li", "td", "dd", "span", "em", "b") and around.text != link.text


def _longest(page: OldPage, element: Element, cuts: list[Element], depth: int) -> tuple[int, int, int] | None:
    """The piece of an element with the most words of its own that nothing shared stands in: these, and where it is."""
    best: tuple[int, int, int] | None = None
    start = element.inner
    alone = element.tag in _OF_PIECES  # text stands in its pieces, and not between them
    for child in (*element.children, None):
        end = child.start if child is not None else element.inner_end
        shares = child is not None and any(child.holds(cut) or cut.holds(child) for cut in cuts)
        if child is not None and not shares and not alone:
            continue
        pieces = [] if alone else [_within(page, element, start, end)]
        if child is not None and depth < _DEEPEST and not any(cut.holds(child) for cut in cuts):
            inside = _longest(page, child, cuts, depth + 1)
            pieces += [inside] if inside is not None else []
        best = max([*([best] if best else []), *pieces], key=lambda one: one[0], default=None)
        start = child.end if child is not None else end
    return best


def _within(page: OldPage, element: Element, start: int, end: int) -> tuple[int, int, int]:
    """A piece of an element with its words; where it is a single box, what is in that."""
    words = _words_in(page, start, end)
    boxes = [child for child in element.children if start <= child.start and child.end <= end]
    while len(boxes) == 1 and boxes[0].tag in ("div", "main", "center", "article", "section"):
        if (page.data[start : boxes[0].start] + page.data[boxes[0].end : end]).strip():
            break
        start, end = boxes[0].inner, boxes[0].inner_end
        boxes = list(boxes[0].children)
    return words, start, end


def _words_in(page: OldPage, start: int, end: int) -> int:
    """How many words, and pictures, stand in a piece of a page."""
    data = page.data[start:end]
    return len(_TAGS.sub(b" ", data).split()) + data.lower().count(b"<img")


def without(page: OldPage, around: Element, cuts: Iterable[Element]) -> str:
    """The inside of an element, letter for letter, without some that stand in it."""
    cuts = sorted(cuts, key=lambda element: element.start)
    pieces, done = [], around.inner
    for cut in cuts:
        if around.inner <= cut.start and cut.end <= around.inner_end and cut.start >= done:
            pieces.append(page.data[done : cut.start])
            done = cut.end
    pieces.append(page.data[done : around.inner_end])
    return b"".join(pieces).decode(page.encoding, "replace").strip()


def _around(element: Element, cuts: list[Element]) -> Element:
    while True:
        inner = None
        for piece in element.pieces:
            if isinstance(piece, str):
                if piece.strip(" \t\r\n\xa0|·•-–—"):
                    return element
                continue
            if piece.tag in _UNSEEN or not _has_own(piece, cuts):
                continue
            if inner is not None or piece.tag not in _AROUND:
                return element
            inner = piece
        if inner is None:
            return element
        element = inner


def _has_own(element: Element, cuts: list[Element]) -> bool:
    """Whether an element holds anything to be seen that is not shared."""
    if any(cut.holds(element) for cut in cuts):
        return False
    if element.tag in _SEEN and element.tag != "form":
        return True
    for piece in element.pieces:
        if isinstance(piece, str):
            if piece.strip(" \t\r\n\xa0|·•-–—"):
                return True
        elif piece.tag not in _UNSEEN and _has_own(piece, cuts):
            return True
    return False
