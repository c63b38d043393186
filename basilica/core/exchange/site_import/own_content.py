"""What is a page's own: its body without what pages share."""

from __future__ import annotations

from collections.abc import Iterable

from basilica.core.exchange.site_import.old_page import OldPage
from basilica.core.exchange.site_import.source_tree import Element

_AROUND = frozenset(["body", "center", "div", "form", "font", "main", "table", "tbody", "tr", "td"])
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
_UNSEEN = frozenset(["script", "style", "noscript", "template", "link", "meta", "title", "head"])


def own_content(page: OldPage, shared: Iterable[Element]) -> str:
    """The inside of the smallest element that holds all of a page but what is shared, letter for letter, without what
    is shared in it."""
    cuts = sorted(shared, key=lambda element: element.start)
    return without(page, _around(page.body, cuts), cuts)


def content_place(page: OldPage, shared: Iterable[Element]) -> tuple[int, int] | None:
    """Where a page's own content stands, in its bytes: the longest piece of it that holds nothing shared; None where
    there is none."""
    cuts = sorted(shared, key=lambda element: element.start)
    around = _around(page.body, cuts)
    best: tuple[int, int] | None = None
    start = around.inner
    for child in (*around.children, None):
        end = child.start if child is not None else around.inner_end
        if child is not None and not any(child.holds(cut) or cut.holds(child) for cut in cuts):
            continue
        if page.data[start:end].strip() and (best is None or end - start > best[1] - best[0]):
            best = start, end
        start = child.end if child is not None else end
    return best


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
