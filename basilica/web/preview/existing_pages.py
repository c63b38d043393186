"""Pages of a site that is being brought in, at the origin of previews: with the place of a menu shown in them."""

from __future__ import annotations

import mimetypes
from urllib.parse import unquote

from basilica.core.exchange.site_import.old_page import OldPage
from basilica.core.exchange.site_import.source_tree import Element
from basilica.core.shared.html_scanner import attributes, scan
from basilica.core.shared.output_file import File
from basilica.services.site_imports import SiteImport

SHOWN = "basilica-shown"
_STYLE = b"""
<style>
  [data-basilica-shown] { outline: 4px solid #a3122b !important; outline-offset: 3px !important; scroll-margin: 3rem; }
</style>
"""
_FROM_ROOT = (b"href", b"src", b"background", b"action", b"poster")


def place_of_menu(found: SiteImport, number: int) -> tuple[str, str] | None:
    """Where the menu of a number is shown: the file of a page that has it as most have, and its anchor; None where
    there is no such menu."""
    menus = found.site.menus
    if not 0 <= number < len(menus):
        return None
    model = menus[number].block.model
    return model.page.file, model.element.attributes.get("id", "").strip() or SHOWN


def shown_page(page: OldPage, element: Element | None, prefix: str) -> bytes:
    """A page with links from the root below ``prefix``, and an element of it framed."""
    changes: list[tuple[int, int, bytes]] = []
    for piece in scan(page.data):
        for one in attributes(page.data, piece) if piece.kind == "open" else ():
            value = page.data[one.value_start : one.value_end]
            if one.name in _FROM_ROOT and value.startswith(b"/") and not value.startswith(b"//"):
                changes.append((one.value_start, one.value_start, prefix.encode()))
    if element is not None:
        at = element.start + 1 + len(element.tag)
        named = "" if element.attributes.get("id", "").strip() else f' id="{SHOWN}"'
        changes.append((at, at, f" data-basilica-shown{named}".encode()))
    made, done = [], 0
    for start, end, text in sorted(changes, key=lambda one: one[:2]):
        made += [page.data[done:start], text]
        done = end
    return b"".join([*made, page.data[done:], _STYLE if element is not None else b""])


def answered(
    found: SiteImport, files: tuple[File, ...], number: int, path: str, prefix: str
) -> tuple[bytes, str] | None:
    """What stands at a path of the site, and its media type; None where there is nothing."""
    place = place_of_menu(found, number)
    if place is None:
        return None
    name = unquote(path) or place[0]
    page = found.site.pages.get(name)
    if page is not None:
        element = found.site.menus[number].block.model.element if name == place[0] else None
        return shown_page(page.page, element, prefix), f"text/html; charset={page.page.encoding}"
    data = next((file.data for file in files if file.path == name), None)
    return (data, mimetypes.guess_type(name)[0] or "application/octet-stream") if data is not None else None
