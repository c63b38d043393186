"""A page of a site that exists, with one of its elements framed, so that a person sees what was found."""

from __future__ import annotations

from basilica.core.exchange.site_import.imported_site import ImportedSite
from basilica.core.exchange.site_import.old_page import OldPage
from basilica.core.exchange.site_import.source_tree import Element
from basilica.core.shared.html_scanner import Replacement, attributes, replaced, scan

SHOWN = "basilica-shown"
_STYLE = b"""
<style>
  [data-basilica-shown] { outline: 4px solid #a3122b !important; outline-offset: 3px !important; scroll-margin: 3rem; }
</style>
"""
_FROM_ROOT = (b"href", b"src", b"background", b"action", b"poster")


def place_of_menu(site: ImportedSite, number: int) -> tuple[str, str] | None:
    """Where the menu of a number is shown: the file of a page that has it as most have, and its anchor; None where
    there is no such menu."""
    if not 0 <= number < len(site.menus):
        return None
    model = site.menus[number].block.model
    return model.page.file, model.element.attributes.get("id", "").strip() or SHOWN


def framed_page(page: OldPage, element: Element | None, prefix: str) -> bytes:
    """A page with links from the root below ``prefix``, and an element of it framed."""
    changes: list[Replacement] = []
    for piece in scan(page.data):
        for one in attributes(page.data, piece) if piece.kind == "open" else ():
            value = page.data[one.value_start : one.value_end]
            if one.name in _FROM_ROOT and value.startswith(b"/") and not value.startswith(b"//"):
                changes.append((one.value_start, one.value_start, prefix.encode()))
    if element is not None:
        at = element.start + 1 + len(element.tag)
        named = "" if element.attributes.get("id", "").strip() else f' id="{SHOWN}"'
        changes.append((at, at, f" data-basilica-shown{named}".encode()))
        changes.append((len(page.data), len(page.data), _STYLE))
    return replaced(page.data, sorted(changes))
