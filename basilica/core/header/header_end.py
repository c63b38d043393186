"""Where a header that sticks ends: with the page, with its content, or where a slot, a part or a menu begins."""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from basilica.core.language.sections.part_words import IDENTITY, MENU_PART, SLOTS
from basilica.core.map.site.model import Site
from basilica.core.shared.css_text import css_string

PLAIN = ("page", "content")
"""What style alone can do; what else is named pushes the header out of the window by script."""

_BUILT_IN = {
    "breadcrumbs": ".b-breadcrumbs",
    "section-menus": ".b-section",
    "list": ".b-page-list",
    "sequence": ".b-sequence",
    "footer": ".b-footer",
}
"""The parts that the map gives, by the element in which each stands; a header does not end with itself."""
_SLOTS = {"before": ".b-before", "after": ".b-after", "aside": ".b-aside", "footer": ".b-footer"}


def names_of_ends(site: Site) -> tuple[str, ...]:
    """What a header can stick until: the plain ends, then slots, parts and menus by name."""
    parts = (*(part for part in site.parts if part != IDENTITY), *_BUILT_IN)
    return tuple(dict.fromkeys((*PLAIN, *(slot for slot in SLOTS if slot != "header"), *parts, *_menus(site))))


def end_selectors(
    until: str, site: Site, in_slots: Mapping[str, Iterable[str]], labels: Mapping[str, str]
) -> tuple[str, ...]:
    """The elements at the first of which the header ends, as CSS selectors; none for a plain end. ``in_slots`` are the
    parts of each slot, on any page; ``labels`` those of menus, by which their landmarks are known."""
    if until in PLAIN:
        return ()
    found: dict[str, None] = {}
    for name in (until, *in_slots.get(until, ())):
        if name in site.parts and name != IDENTITY:
            found[f'[data-part="{name}"]'] = None
        elif name in _BUILT_IN:
            found[_BUILT_IN[name]] = None
        elif name in _menus(site):
            found[f"nav[aria-label={css_string(labels[name.removeprefix(MENU_PART)])}]"] = None
    if until in _SLOTS:
        found[_SLOTS[until]] = None
    return tuple(found)


def _menus(site: Site) -> tuple[str, ...]:
    return tuple(f"{MENU_PART}{name}" for name, menu in site.menus.items() if menu.place not in ("header", "utility"))
