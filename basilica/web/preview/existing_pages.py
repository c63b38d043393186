"""Pages of a site that is being brought in, at the origin of previews: with the place of a menu shown in them."""

from __future__ import annotations

import mimetypes
from urllib.parse import unquote

from basilica.core.exchange.site_import.framed_page import framed_page, place_of_menu
from basilica.core.shared.output_file import File
from basilica.services.site_imports import SiteImport


def answered(
    found: SiteImport, files: tuple[File, ...], number: int, path: str, prefix: str
) -> tuple[bytes, str] | None:
    """What stands at a path of the site, and its media type; None where there is nothing."""
    place = place_of_menu(found.site, number)
    if place is None:
        return None
    name = unquote(path) or place[0]
    page = found.site.pages.get(name)
    if page is not None:
        element = found.site.menus[number].block.model.element if name == place[0] else None
        return framed_page(page.page, element, prefix), f"text/html; charset={page.page.encoding}"
    data = next((file.data for file in files if file.path == name), None)
    return (data, mimetypes.guess_type(name)[0] or "application/octet-stream") if data is not None else None
