"""Where a block that most pages have belongs on a page that lacks it."""

from __future__ import annotations

from basilica.core.exchange.site_import.old_page import OldPage
from basilica.core.exchange.site_import.source_tree import Element
from basilica.core.outputs.inlay import PutIn
from basilica.core.shared.html_scanner import replaced, scan
from basilica.core.shared.moved_links import moved_links


def put_in(model: OldPage, element: Element, inside: tuple[int, int], page: OldPage, region: str) -> PutIn | None:
    """The block ``element`` of a page, whose region is ``inside`` it, for another page: in the like element, before the
    same neighbour or behind it. None where that page has no such place."""
    parent = element.parent
    around = _like(page, parent) if parent is not None else None
    if around is None or parent is None or page.charset.startswith("utf-16"):
        return None
    siblings = list(parent.children)
    number = siblings.index(element)
    at = None
    for sibling in reversed(siblings[:number]):
        here = _child_like(around, sibling)
        if here is not None:
            at = here.end
            break
    if at is None:
        following = (_child_like(around, sibling) for sibling in siblings[number + 1 :])
        at = next((one.start for one in following if one is not None), around.inner)
    before, after = model.data[element.start : inside[0]], model.data[inside[1] : element.end]
    if model.file != page.file:
        before, after = (_moved(piece, model.file, page.file) for piece in (before, after))

    def written(piece: bytes) -> bytes:
        return piece.decode(model.encoding, "replace").encode(page.encoding, "xmlcharrefreplace")

    return PutIn(at + page.mark_length, b"\n" + written(before), region, written(after))


def _like(page: OldPage, element: Element) -> Element | None:
    """The element of a page that is called as one of another page is."""
    if element.tag in ("body", "html") or element.parent is None:
        return page.body
    wanted = _called(element)
    if not wanted[1] and not wanted[2]:
        above = _like(page, element.parent)
        alone = [one for one in above.children if one.tag == element.tag] if above is not None else []
        return alone[0] if len(alone) == 1 else None
    found = [one for one in page.body.walk() if _called(one) == wanted]
    return found[0] if len(found) == 1 else None


def _child_like(around: Element, sibling: Element) -> Element | None:
    found = [one for one in around.children if _called(one) == _called(sibling)]
    return found[0] if len(found) == 1 else None


def _called(element: Element) -> tuple[str, str, str]:
    return element.tag, element.attributes.get("id", ""), element.attributes.get("class", "")


def _moved(data: bytes, source: str, target: str) -> bytes:
    """A piece of a page as it is written on another page."""
    return replaced(data, moved_links(data, list(scan(data)), source, target))
