"""What surrounds the text of pages: rendered once for each layout assignment, with slots for what differs."""

from __future__ import annotations

import copy
from collections.abc import Callable, Mapping
from functools import cached_property
from typing import Any, NamedTuple

from markupsafe import Markup

from basilica.core.content import layouts_of
from basilica.core.header.breakpoints import bar_part_label, shown_name
from basilica.core.language.sections.part_words import IDENTITY
from basilica.core.map.site.shared_values import PageExtras, Part
from basilica.core.navigation.menus import PlannedEntry
from basilica.core.outputs.static_site.indentation import indented
from basilica.core.outputs.static_site.part_renderer import Pieces
from basilica.core.outputs.static_site.slot_template import SlotTemplate
from basilica.core.outputs.static_site.slots import (
    CANONICAL,
    CONTENT,
    DATA,
    DESCRIPTION,
    EXTRA,
    HEAD_TITLE,
    LANGUAGES,
    EntryAddress,
    HomeAddress,
    NavigationFile,
    OwnContent,
    PageValue,
    RegionSlot,
    Slot,
    room_for,
)
from basilica.core.outputs.static_site.template_environment import environment
from basilica.core.outputs.static_site.template_renderer import OwnMarkup
from basilica.core.plan import MenuPlan, Plan
from basilica.core.plan.layout_assignment import LayoutAssignment

Frame = tuple[LayoutAssignment, tuple[str, ...]]
"""How a page is arranged, and the slots for which it has content of its own."""


IN_HEADER = ("main", "utility")
"""The pieces that stand in the header."""


_SAYS = ("title", "label", "section", "description", "key")
"""What a layout can say of its page."""


class Shape(NamedTuple):
    """What a page has in its head, and around its body: pages of one shape differ in texts alone."""

    variant: str
    description: bool
    canonical: bool
    noindex: bool
    data: bool
    extra: bool
    css_class: str
    js: str


_DEPTHS = {"header": 1, "utility": 1, "footer": 1, "main": 4, "section": 2, "menu": 0, "list": 0}
"""How many elements of a page each piece stands in, by the first word of its name; others are left as they are."""


def _slotted(pieces: Mapping[str, str]) -> dict[str, SlotTemplate]:
    depths = {piece: _DEPTHS.get(piece.partition(" ")[0]) for piece in pieces}
    return {
        piece: SlotTemplate(rendered if (depth := depths[piece]) is None else indented(str(rendered), depth))
        for piece, rendered in pieces.items()
    }


class PageShells:
    """Renders what surrounds the pages of one plan."""

    def __init__(
        self,
        plan: Plan,
        pieces: Pieces,
        shared: dict[str, Any],
        menus_alone: tuple[str, ...],
        names: Callable[[], Mapping[str, str]],
        slots_of: Callable[[], Mapping[str, tuple[str, ...]]],
        file_at: Callable[[str, str | None], str | None],
        own: OwnMarkup,
    ) -> None:
        """``names`` gives the files of the navigation by the name they have in a build; ``slots_of``, by page, the
        slots for which it has content of its own; ``file_at`` the address of a file as it is written on a page."""
        self._plan = plan
        self._pieces = pieces
        self._shared = shared
        self._menus_alone = menus_alone
        self._own = own
        self._names, self._slots_of, self._file_at = names, slots_of, file_at
        self._section_menus = [menu for menu in plan.menus.values() if menu.place == "section" and menu.entries]
        self._framed: dict[Frame, tuple[str, dict[str, SlotTemplate]]] = {}
        self._wholes: dict[tuple[Frame, Shape], tuple[str, SlotTemplate]] = {}
        self._rendered: dict[Frame, dict[str, SlotTemplate]] = {}

    def sharing(self, slots_of: Callable[[], Mapping[str, tuple[str, ...]]]) -> PageShells:
        """The same for other content: what was rendered is shared."""
        other = copy.copy(self)
        other._slots_of = slots_of
        return other

    def whole(self, key: str | None, shape: Shape) -> SlotTemplate:
        """A whole page but for what is its own."""
        place = self._place(key)
        which = self.arranged(key), shape
        known = self._wholes.get(which)  # other threads may put another place's there
        if known is None or known[0] != place:
            frame = self.frame(key)
            header = frame["header"].inlined({RegionSlot(name): frame[name] for name in IN_HEADER})
            layout = frame["layout"].inlined({RegionSlot("header"): header, RegionSlot("footer"): frame["footer"]})
            whole = self.without_layout(key, shape).inlined({RegionSlot("body"): layout})
            known = self._wholes[which] = (place, whole)
        return known[1]

    def without_layout(self, key: str | None, shape: Shape) -> SlotTemplate:
        """A page with room for what its layout places."""
        return SlotTemplate(self._page(shape)).inlined({RegionSlot("links"): self.frame(key)["links"]})

    def _page(self, shape: Shape) -> str:
        """A page of a shape around its links and its body."""
        values = {
            **self._shared,
            "variant": shape.variant,
            "title": room_for(HEAD_TITLE),
            "description": room_for(DESCRIPTION) if shape.description else "",
            "canonical": room_for(CANONICAL) if shape.canonical else "",
            "noindex": shape.noindex,
            "data": room_for(DATA) if shape.data else "",
            "extra": room_for(EXTRA) if shape.extra else "",
            "own": PageExtras(css_class=shape.css_class, js=shape.js),
            "links": room_for(RegionSlot("links")),
            "body": room_for(RegionSlot("body")),
        }
        if not self._own.has("page"):
            return environment().get_template("page.html").render(values)
        names = {"head": "_head", "body": "_body", "html_attributes": "_html_attributes"}
        pieces = {
            name: Markup(environment().get_template(f"parts/{file}.html").render(values))
            for name, file in {**names, "body_attributes": "_body_attributes"}.items()
        }
        return self._own.page(**pieces)

    def header(self, key: str | None, texts: Mapping[Slot, str]) -> Markup:
        """The header of a page with all that stands in it."""
        frame = self.frame(key)
        return frame["header"].text({RegionSlot(name): frame[name].text(texts) for name in IN_HEADER})

    def _place(self, key: str | None) -> str:
        return self._plan.addresses.place_of(key) if key is not None else ""

    def arranged(self, key: str | None) -> Frame:
        """How a page is arranged: pages for which this is equal differ in values, marks and addresses alone."""
        return self._plan.assignment_of(key), self._slots_of().get(key, ()) if key is not None else ()

    def frame(self, key: str | None) -> dict[str, SlotTemplate]:
        """What surrounds a page, part by part, with its addresses as pages at the same place write them."""
        place = self._place(key)
        which = self.arranged(key)
        framed = self._framed.get(which)  # other threads may put another place's there
        if framed is None or framed[0] != place:
            parts = self.unfilled(which)
            texts = self.addresses_at(key)
            framed = self._framed[which] = (place, {part: slotted.fill(texts) for part, slotted in parts.items()})
        return framed[1]

    def addresses_at(self, key: str | None) -> dict[Slot, str]:
        """What fills the slots for addresses on a page."""
        write = self._plan.addresses
        texts: dict[Slot, str] = {HomeAddress(): self.home(key)}
        texts |= {NavigationFile(known): write.to_file(name, key) for name, known in self._names().items()}
        for name, menu in self._plan.menus.items():
            for entry in menu.entries:
                address = self.entry_address(entry, key)
                if address is not None:
                    texts[EntryAddress(name, entry.number)] = address
        for target in self._pieces.targets | self._own.targets:
            texts[target] = write.to_page(target.key, key, target.fragment, target.query)
        return texts | {file: self._file_at(file.name, key) or "" for file in self._pieces.files | self._own.files}

    def entry_address(self, entry: PlannedEntry, key: str | None) -> str | None:
        """Where an entry leads within the site, as it is written on a page; None for one that leads nowhere there."""
        if entry.file:
            return self._file_at(entry.file, key) or ""
        if entry.page is None or entry.page not in self._plan.routes:
            return None
        return self._plan.addresses.to_page(entry.page, key, entry.fragment, entry.query)

    def home(self, key: str | None) -> str:
        """The address of home as it is written on a page."""
        home = self._plan.site.home
        return self._plan.addresses.to_page(home, key) if home else "#content"

    def unfilled(self, which: Frame) -> dict[str, SlotTemplate]:
        """What surrounds the pages that are laid out alike, rendered once."""
        if which not in self._rendered:
            assignment, owns = which

            def filled(name: str) -> Markup:
                own = room_for(OwnContent(name)) if name in owns else Markup("")
                other = room_for(LANGUAGES) if name == "header" and self._plan.languages else Markup("")
                return self._pieces.in_slot(name, assignment) + own + other

            identity = self._plan.site.parts.get(IDENTITY) if IDENTITY not in assignment.without else None
            parts = {
                "header": self._header(assignment, identity, filled),
                "utility": environment().get_template("parts/_utility.html").render(self._context, filled=filled),
                "footer": self._footer(filled),
                "layout": layouts_of(self._plan.site.files).render(
                    assignment.layout,
                    lambda name: self._in_layout(name, assignment),
                    filled,
                    content=room_for(CONTENT),
                    reach=self._shared["reach"],
                    page={name: room_for(PageValue(name)) for name in _SAYS},
                    site={"name": self._plan.site.name},
                ),
            }
            self._rendered[which] = {**self._everywhere, **_slotted(parts)}
        return self._rendered[which]

    def _header(
        self, assignment: LayoutAssignment, identity: Part | None, filled: Callable[[str], Markup]
    ) -> Markup | str:
        """What stands above every page."""
        picture = identity.value("picture") if identity else ""
        small = identity.value("small-picture") if identity else ""
        alone = bool(picture) and not shown_name(self._plan.site)
        size = self._pieces.assets.size(picture) if picture else None
        label = bar_part_label(self._plan.site, assignment.in_slot("bar"))
        if self._own.has("header"):
            write = self._pieces.file_slot
            logo = self._own.picture(write(picture), size, write(small) if small else "", alone) if picture else None
            return self._own.header(identity, logo, label, filled)
        return (
            environment()
            .get_template("parts/header.html")
            .render(
                self._context,
                shown=(identity.value("name") if identity else "") or self._plan.site.name,
                picture=picture,
                alone=alone,
                size=size,
                small=small,
                tool=label,
                filled=filled,
            )
        )

    def _footer(self, filled: Callable[[str], Markup]) -> Markup | str:
        """What stands below every page."""
        if not self._own.has("footer"):
            return environment().get_template("parts/footer.html").render(self._context, filled=filled)
        menus = [menu for menu in self._plan.menus.values() if menu.place == "footer" and menu.entries]
        if self._own.has("menu"):
            return self._own.footer(tuple(self._own.room(menu.name, "footer") for menu in menus), filled)
        one = environment().get_template("parts/_footer_menu.html")
        return self._own.footer(tuple(Markup(one.render(self._context, menu=menu)) for menu in menus), filled)

    def _in_layout(self, name: str, assignment: LayoutAssignment) -> Markup:
        """A part that the layout itself names. Breadcrumbs may stand above the footer in place of below the header."""
        last = self._plan.site.crumbs.place == "bottom"
        if last and name == "breadcrumbs":
            return Markup("")
        part = self._pieces.part(name, assignment)
        return self._pieces.part("breadcrumbs", assignment) + part if last and name == "footer" else part

    @cached_property
    def _context(self) -> dict[str, Any]:
        menus = self._plan.menus

        def at(place: str) -> list[MenuPlan]:
            return [menu for menu in menus.values() if menu.place == place and menu.entries]

        return {
            **self._shared,
            "tagline": self._plan.header.plain.tagline,
            "main": menus["main"],
            "utility_menus": at("utility"),
            "footer_menus": at("footer"),
            "head": self._plan.site.head,
            "file": self._pieces.file_slot,
        }

    @cached_property
    def _everywhere(self) -> dict[str, SlotTemplate]:
        """The parts that are the same in every layout assignment, rendered once."""
        env = environment()
        templates = {"main": "parts/_main.html", "links": "links.html"}
        parts = {part: env.get_template(name).render(self._context) for part, name in templates.items()}
        section = env.get_template("parts/_section.html")
        parts |= {f"section {menu.name}": section.render(self._context, menu=menu) for menu in self._section_menus}
        alone, bare = env.get_template("parts/_menu_alone.html"), env.get_template("parts/_menu_list.html")
        for name, menu in self._plan.menus.items():
            if name in self._menus_alone:
                parts[f"menu {name}"] = alone.render(self._context, menu=menu)
                parts[f"list {name}"] = bare.render(self._context, menu=menu)
        return _slotted(parts)
