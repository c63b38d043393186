"""From which width of the window on the entries of a menu stand in one line, worked out from their letters."""

from __future__ import annotations

from collections.abc import Iterable
from typing import TYPE_CHECKING

from basilica.core.map.map_files import picture_size
from basilica.core.map.schema.part_words import IDENTITY
from basilica.core.map.site.model import Site, Theme
from basilica.core.shared.text_metrics import text_width
from basilica.core.shared.theme import DIVIDERS

if TYPE_CHECKING:
    from basilica.core.navigation.menus import MenuPlan, PlannedEntry

EM = 16
"""CSS px of the browsers' own letter size, on which widths in em depend."""
_ROOM = {"entry": 19.2, "button": 28, "icon": 27, "divider": 14, "as button": 8}
"""CSS px that an entry takes beside its letters."""
_LEAST = 480


PICTURE = 40
"""The height of a picture beside the name, CSS px."""
_GAP = 10


def picture_width(site: Site) -> float:
    """The width of the picture beside the name, CSS px."""
    identity = site.parts.get(IDENTITY)
    size = picture_size(site.files, f"files/{identity.value('picture')}") if identity else None
    return round(min(PICTURE * size[0] / size[1], 4 * PICTURE), 2) if size else PICTURE


def bar_fits_from(main: MenuPlan, site: Site, name_width: int) -> int:
    """The least width, CSS px, at which the site's name and the main menu stand in one line."""
    theme = site.theme
    width = _menu_width(main, EM * theme.size / 100, theme)
    if DIVIDERS[theme.divider]:
        width += _ROOM["divider"] * len(main.top)
    identity = site.parts.get(IDENTITY)
    name = (identity.value("name") if identity else "") or site.name
    picture = picture_width(site) + _GAP if identity and identity.value("picture") else 0
    shown = min(text_width(name, 20) * 1.06 + picture, name_width)  # a longer one is broken over lines
    return round(max(width + shown + 24 + 40, _LEAST))


def row_fits_from(menus: Iterable[MenuPlan], theme: Theme, beside: float) -> int:
    """The same of the row above the header, ``beside`` being the width of what else stands in it; 0 where there is
    none."""
    width = beside + sum(_menu_width(menu, EM * 15 / 16 * theme.size / 100, theme) for menu in menus)
    return round(width + 40) if width else 0


def _menu_width(menu: MenuPlan, size: float, theme: Theme) -> float:
    return sum(_entry_width(menu, menu.entries[number], size, theme.spacing) for number in menu.top)


def _entry_width(menu: MenuPlan, entry: PlannedEntry, size: float, spacing: int) -> float:
    if entry.kind == "separator":
        return _ROOM["divider"]
    width = _ROOM["entry"]
    if entry.display.show != "icon":
        # The current one is bold, which is wider.
        width += text_width(entry.label, size) * 1.04 + len(entry.label) * size * max(spacing, 0) / 1000
    width += _ROOM["icon"] if entry.display.icon else 0
    width += _ROOM["icon"] if entry.url else 0
    width += _ROOM["button"] if entry.items else 0
    width += _ROOM["as button"] if entry.display.show == "button" else 0
    return width
