"""From which width of the window on the entries of a menu stand in one line, worked out from their letters."""

from __future__ import annotations

from collections.abc import Iterable
from typing import TYPE_CHECKING

from basilica.core.header.header_settings import EM, NAME, Settings
from basilica.core.language.sections.part_words import IDENTITY
from basilica.core.language.sections.theme_words import Theme
from basilica.core.map.map_files import picture_size
from basilica.core.map.site.model import Site
from basilica.core.shared.text_metrics import text_width
from basilica.core.shared.theme import DIVIDERS

if TYPE_CHECKING:
    from basilica.core.navigation.menus import MenuPlan, PlannedEntry

_ROOM = {"entry": 19.2, "button": 28, "icon": 27, "divider": 14, "as button": 8}
"""CSS px that an entry takes beside its letters."""
_LEAST = 480
_FOLD_ROOM = 56
"""CSS px that the button of the folded menu takes beside its letters."""
_FOLD_WORD = 344
"""From this width of the bar on, CSS px, that button has its word beside it."""
_NAME_LEAST = 160
"""Below this width, CSS px, the name has a line of its own."""


PICTURE = 40
"""The height of a picture beside the name where the map does not say, CSS px."""
NAME_ROOM = 260
"""The most of a bar in which the entries stand beside the name that is kept for it, where the map does not say."""
_PICTURE_GAP, BAR_GAP = 10, 24
_NARROWEST = 320
"""The narrowest window (WCAG 2.2, 1.4.10), CSS px."""


def picture_box(site: Site) -> tuple[float, int]:
    """Width and height of the picture beside the name, CSS px."""
    identity = site.parts.get(IDENTITY)
    height = int(identity.value("height") or PICTURE) if identity else PICTURE
    size = picture_size(site.files, f"files/{identity.value('picture')}") if identity else None
    return (round(min(height * size[0] / size[1], 8 * height), 2) if size else height), height


def shown_name(site: Site) -> str:
    """The name in the header; empty where a picture stands for it."""
    identity = site.parts.get(IDENTITY)
    if identity and identity.value("picture") and identity.value("show-name") == "no":
        return ""
    return (identity.value("name") if identity else "") or site.name


def _picture_width(site: Site) -> float:
    """What the picture takes of the width of the name, CSS px."""
    identity = site.parts.get(IDENTITY)
    return picture_box(site)[0] + _PICTURE_GAP if identity and identity.value("picture") else 0


def least_name_room(
    site: Site, main: MenuPlan, settings: Settings, narrowest: int, in_bar: Iterable[str] = ()
) -> float:
    """The least width that is left for the letters of the name in windows of at least so many CSS px: beside the
    button of the folded menu, or beside its entries."""
    room = max(_NARROWEST, narrowest) - 2.0 * settings.padding - _bar_part_width(site, in_bar)
    if main.entries and main.settings.fold != "never":
        button = _FOLD_ROOM + (text_width(site.phrases["menu"], EM) if room >= _FOLD_WORD else 0)
        beside = room - button - BAR_GAP
        room = min(beside if beside >= _NAME_LEAST else room, NAME_ROOM)
    return min(room, settings.name_width or room) - _picture_width(site)


def bar_part_label(site: Site, parts: Iterable[str]) -> str:
    """What opens the parts in the bar is called: by the first one's title, or by what it asks for."""
    first = next((site.parts[name] for name in parts if name in site.parts), None)
    if first is None:
        return site.phrases["more"]
    if first.value("title"):
        return first.value("title")
    return site.phrases["search"] if first.value("form") == "search" else first.name.replace("-", " ").capitalize()


def _bar_part_width(site: Site, parts: Iterable[str]) -> float:
    """What that takes of the width of the bar, CSS px."""
    parts = tuple(parts)
    return text_width(bar_part_label(site, parts), EM) + _ROOM["entry"] + BAR_GAP if parts else 0


def bar_fits_from(main: MenuPlan, site: Site, settings: Settings, in_bar: Iterable[str] = ()) -> int:
    """The least width, CSS px, at which the site's name and the main menu stand in one line, or the menu in its own;
    ``in_bar`` are the parts in the bar, which open from one word beside the menu."""
    theme = site.theme
    width = _menu_width(main, EM * theme.size / 100, theme)
    if DIVIDERS[theme.divider]:
        width += _ROOM["divider"] * len(main.top)
    shown = text_width(shown_name(site), NAME) * 1.06 + _picture_width(site)
    shown = min(shown, settings.name_width or NAME_ROOM)  # a longer one is broken over lines
    shown = 0 if settings.arranged else shown + _bar_part_width(site, in_bar)
    return round(max(width + shown + BAR_GAP + 40, _LEAST))


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
