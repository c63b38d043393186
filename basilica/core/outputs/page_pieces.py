"""The pages of a site in pieces, for servers that put them together: what pages share, once for all that are arranged
alike, and what each page puts into it."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass

from markupsafe import Markup, escape

from basilica.core.outputs.static_site import Renderer
from basilica.core.outputs.static_site.slot_template import SlotTemplate
from basilica.core.outputs.static_site.slots import (
    CurrentMark,
    OwnContent,
    OwnMenu,
    PageValue,
    PathMark,
    RegionSlot,
    Slot,
)

LAYOUT = "layout"
SHARED = (LAYOUT, "header", "main", "utility", "footer")
"""The pieces that surround pages which are arranged alike; the layout has room for the others."""


def slot_name(slot: Slot) -> str:
    """A slot by a name that any language can look up. Addresses have none: they stand in the pieces."""
    match slot:
        case RegionSlot(name):
            return name
        case PageValue(name):
            return f"value {name}"
        case OwnContent(name):
            return f"own {name}"
        case OwnMenu(menu, place):
            return f"menu {menu} {place}"
        case CurrentMark(menu, entry):
            return f"mark {menu} {entry}"
        case PathMark(menu, entry):
            return f"path {menu} {entry}"
        case _:
            return ""


@dataclass(frozen=True)
class PageParts:
    """What one page puts into what pages share."""

    layout: int
    """Which arrangement it has, from 1."""
    before: str
    after: str
    """The document around what the layout places."""
    texts: Mapping[str, str]
    """What fills slots, by their names."""
    menus: Mapping[str, int]
    """By the name of a slot, which of the menus that an own template writes fills it, from 1."""
    content: str
    """Its heading and its own text."""


class PagePieces:
    """The pieces of the pages of one renderer."""

    def __init__(self, renderer: Renderer) -> None:
        self._renderer = renderer
        self.layouts: list[dict[str, SlotTemplate]] = []
        self.own_menus: list[SlotTemplate] = []
        """The menus that an own template writes: one for each mark, at each place."""
        self._numbers: dict[object, int] = {}
        self._menu_numbers: dict[tuple[OwnMenu, str], int] = {}

    def menu(self, name: str) -> SlotTemplate:
        """A menu by itself, with every entry in view."""
        return self._renderer.frame(next(iter(self._renderer.pages), None))[f"menu {name}"]

    def of(self, key: str | None) -> PageParts:
        """What a page puts in; None is the one for addresses that do not exist."""
        renderer, site = self._renderer, self._renderer.plan.site
        title = site.pages[key].title if key is not None else site.phrases["not-found"]
        marks = renderer.mark_texts(key)
        before, after = renderer.ends(key)
        body = renderer.body(key) if key is not None else renderer.not_found_body()
        given: dict[Slot, str] = {**renderer.values(key, title), **marks, **renderer.own_slots(key)}
        texts = {slot_name(slot): _written(text) for slot, text in given.items() if not isinstance(slot, OwnMenu)}
        if key is not None:
            regions = {
                "breadcrumbs": renderer.breadcrumbs(key),
                "section-menus": renderer.section_menus(key, marks),
                "list": renderer.page_list(key),
                "sequence": renderer.sequence(key),
            }
            without = renderer.plan.assignment_of(key).without
            texts |= {name: str(text) for name, text in regions.items() if name not in without}
        menus = {slot: text for slot, text in marks.items() if isinstance(slot, OwnMenu)}
        heading = "" if body.has_title else f"<h1>{escape(title)}</h1>\n"
        return PageParts(
            self._layout(key),
            before,
            after,
            texts,
            {slot_name(slot): self._menu_number(slot, text) for slot, text in menus.items()},
            heading + body.html,
        )

    def _layout(self, key: str | None) -> int:
        which = self._renderer.arranged(key)
        if which not in self._numbers:
            frame = self._renderer.frame(key)
            self.layouts.append({name: frame[name] for name in SHARED})
            self._numbers[which] = len(self.layouts)
        return self._numbers[which]

    def _menu_number(self, slot: OwnMenu, text: str) -> int:
        if (slot, text) not in self._menu_numbers:
            self.own_menus.append(SlotTemplate(text))
            self._menu_numbers[slot, text] = len(self.own_menus)
        return self._menu_numbers[slot, text]


def _written(text: str) -> str:
    """A text as it stands in a page."""
    return str(text if isinstance(text, Markup) else escape(text))


_TAG = r"<{name}\b((?:\"[^\"]*\"|'[^']*'|[^>\"'])*)>"
_HEAD = re.compile(r"<head\b[^>]*>\n?(.*?)</head>", re.DOTALL)
_HTML, _BODY = (re.compile(_TAG.format(name=name)) for name in ("html", "body"))


@dataclass(frozen=True)
class DocumentParts:
    """What surrounds the body of a page, for those who write the rest of the document themselves."""

    html_attributes: str
    body_attributes: str
    head: str
    """What stands in its `head`."""


def document_of(before: str) -> DocumentParts:
    """What stands before the text of a page, taken apart."""
    html, head, body = _HTML.search(before), _HEAD.search(before), _BODY.search(before)
    return DocumentParts(
        html[1].strip() if html else "", body[1].strip() if body else "", head[1].rstrip("\n") if head else ""
    )
