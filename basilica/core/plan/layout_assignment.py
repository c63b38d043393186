"""Which parts stand where on which pages, and what is off about that."""

from __future__ import annotations

import re
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace

from basilica.core.content import layouts_of, references
from basilica.core.language.sections.part_words import IDENTITY, MENU_PART, PLAIN_LAYOUT
from basilica.core.map.site import Site
from basilica.core.map.site.shared_values import Part, Slots
from basilica.core.shared.markdown import Content, as_html
from basilica.core.shared.text_metrics import text_width


@dataclass(frozen=True, slots=True)
class LayoutAssignment:
    """What stands where on some pages: the layout, the parts in each of its slots, and the parts that are kept out."""

    layout: str
    slots: Slots = ()
    without: frozenset[str] = frozenset()

    def in_slot(self, name: str) -> tuple[str, ...]:
        """The parts that fill a slot, those that are kept out left away."""
        filled = dict(self.slots).get(name, ())
        return tuple(part for part in filled if part not in self.without)


@dataclass(frozen=True, slots=True)
class LayoutAssignments:
    """Every layout assignment of a site: the one of most pages first; ``which`` has the pages with another."""

    all: tuple[LayoutAssignment, ...]
    which: Mapping[str, int]

    def of(self, key: str | None) -> LayoutAssignment:
        """The layout assignment of a page, or of one that is not in the map."""
        return self.all[self.which.get(key, 0) if key is not None else 0]


def part_html(part: Part) -> str:
    """The text of a part as HTML, with names still in it."""
    return as_html(Content("part.md", part.text)).html if part.markup == "markdown" else part.text


def assign_layouts(site: Site) -> LayoutAssignments:
    """Work out what stands where. In place of a layout that cannot be used stands the one above it."""
    layouts = layouts_of(site.files)
    usable = {*layouts.good}
    plain = LayoutAssignment(site.layout if site.layout in usable else PLAIN_LAYOUT, site.slots)
    found: dict[LayoutAssignment, int] = {plain: 0}
    which: dict[str, int] = {}
    of: dict[str, LayoutAssignment] = {}
    for key, page in site.pages.items():  # parents come first
        above = of.get(page.parent, plain) if page.parent is not None else plain
        extra = page.options.extra
        if extra.layout or extra.slots or extra.without:
            layout = extra.layout if extra.layout in usable else above.layout
            slots = {**dict(above.slots), **dict(extra.slots)}
            above = replace(
                above,
                layout=layout,
                slots=tuple(sorted((name, parts) for name, parts in slots.items() if parts)),
                without=above.without | frozenset(extra.without),
            )
        if above is not plain:
            of[key] = above
            number = found.setdefault(above, len(found))
            if number:
                which[key] = number
    return LayoutAssignments(tuple(found), which)


def included_parts(site: Site, assignment: LayoutAssignment) -> tuple[str, ...]:
    """The names of the parts that stand on a page so arranged, in the order in which they come to stand, each once:
    those of the layout, those in its slots, and those in these."""
    parts, slots, _ = layouts_of(site.files).contained.get(assignment.layout, ((), (), True))
    names = [name for name in parts if name not in assignment.without]
    names += [IDENTITY] if "header" in names and IDENTITY in site.parts else []
    for slot in (*slots, *inner_slots(assignment, parts)):
        names += assignment.in_slot(slot)
    found: dict[str, None] = {}
    waiting = names[::-1]
    while waiting:
        name = waiting.pop()
        if name not in found and name not in assignment.without:
            found[name] = None
            waiting += reversed(held(site, name))
    return tuple(found)


def inner_slots(assignment: LayoutAssignment, parts: Iterable[str]) -> tuple[str, ...]:
    """The slots in parts that the map gives: two in the header, above its bar and in it, and one in the footer."""
    there = {"header": "header", "bar": "header", "footer": "footer"}
    return tuple(slot for slot, part in there.items() if part in parts and part not in assignment.without)


def held(site: Site, name: str) -> tuple[str, ...]:
    """The parts in the text of a part; for one that lists a menu, that menu."""
    part = site.parts.get(name)
    if part is None:
        return ()
    menu = part.value("menu")
    return (*references(part_html(part)), *([MENU_PART + menu] if menu else []))


def width_in_row(site: Site, assignments: LayoutAssignments) -> float:
    """The width, CSS px, of what fills the slot in the row above the header, where it fills it most; 0 for nothing."""
    if not any(assignment.in_slot("header") for assignment in assignments.all):
        return 0
    return max(
        sum(text_width(_words(site, name), 14) * 1.06 + 24 for name in assignment.in_slot("header"))
        for assignment in assignments.all
    )


def _words(site: Site, name: str) -> str:
    """The words of a part and of those that stand in it, without their markup."""
    names = dict.fromkeys((name, *held(site, name)))
    parts = [site.parts[each] for each in names if each in site.parts]
    return " ".join(re.sub(r"<[^>]*>", "", part_html(part)).strip() for part in parts)
