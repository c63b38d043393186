"""Parts as they stand in pages, rendered once, with room for addresses, marks and values of the page."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any
from urllib.parse import unquote

from jinja2 import Environment
from markupsafe import Markup, escape

from basilica.core.content.assets import Assets
from basilica.core.content.markup import rewrite
from basilica.core.language.sections.part_words import BUILT_IN_PARTS, MENU_PART
from basilica.core.map.map_files import linked_file
from basilica.core.map.site.references import References, query_of, split_reference
from basilica.core.outputs.static_site.slots import FileAddress, PageAddress, PageValue, RegionSlot, room_for
from basilica.core.plan import Plan
from basilica.core.plan.layout_assignment import LayoutAssignment, part_html
from basilica.core.plan.parameters import filled


class Pieces:
    """Renders the parts of one plan. What they link to is noted, so that its addresses can be filled in."""

    def __init__(self, plan: Plan, assets: Assets, environment: Environment, shared: dict[str, Any]) -> None:
        self._plan = plan
        self.assets = assets
        self._environment = environment
        self._shared = shared
        self._references = References(plan.site.pages)
        self.targets: set[PageAddress] = set()
        """The pages to which links in parts lead."""
        self.files: set[FileAddress] = set()
        """The files whose addresses stand in parts."""

    def in_slot(self, name: str, assignment: LayoutAssignment) -> Markup:
        """The parts that fill a slot."""
        parts = [self.part(part, assignment) for part in assignment.in_slot(name)]
        return Markup("".join(parts))

    def part(self, name: str, assignment: LayoutAssignment, within: tuple[str, ...] = ()) -> Markup:
        """A part by name. Those that the map gives have room here, which each page fills."""
        if name in assignment.without or name in within:
            return Markup("")
        if name in BUILT_IN_PARTS:
            return room_for(RegionSlot(name))
        if name.startswith(MENU_PART):
            menu = self._plan.menus.get(name[len(MENU_PART) :])
            if menu is None or not menu.entries:
                return Markup("")
            return Markup(self._environment.get_template("parts/_menu_alone.html").render(self._shared, menu=menu))
        return self.own(name, lambda inside: self.part(inside, assignment, (*within, name)))

    def own(self, name: str, inside: Callable[[str], Markup]) -> Markup:
        """A part that the map or a file has written; ``inside`` gives the parts in its text."""
        part = self._plan.site.parts.get(name)
        if part is None:
            return Markup("")
        text = self.markup(part_html(part), inside, with_values=True)
        menu = self._plan.menus.get(part.value("menu"))
        template = self._environment.get_template(f"parts/{part.kind}.html")
        picture = part.value("picture")
        rendered = template.render(
            self._shared,
            part=part,
            text=text,
            menu=menu if menu and menu.entries else None,
            to=self._plan.addresses.rooted(part.value("to")),
            picture=self.file_slot(picture) if picture in self.assets else "",
            size=self.assets.size(picture) if picture in self.assets else None,
        )
        return Markup(f'<div class="b-part b-part-{part.kind}" data-part="{name}">\n{rendered}</div>\n')

    def text_of(self, name: str, assignment: LayoutAssignment) -> Markup:
        """The text of a part that the map or a file has written, with nothing around it."""
        part = self._plan.site.parts.get(name)
        if part is None:
            return Markup("")
        return self.markup(part_html(part), lambda inside: self.part(inside, assignment, (name,)), with_values=True)

    def markup(self, text: str, part: Callable[[str], Markup], with_values: bool) -> Markup:
        """Text with room for what is written in it by name. A link to no page loses its address and keeps its words;
        a file that is not there keeps its name."""
        value = (lambda name: room_for(PageValue(name))) if with_values else None
        return Markup(rewrite(text, self._address, part, value, self._plan.site.facts.get))

    def file_slot(self, name: str) -> Markup:
        """Room for the address of a file."""
        file = FileAddress(name)
        self.files.add(file)
        return room_for(file)

    def _address(self, scheme: str, written: str) -> str | None:
        if scheme == "file":
            name = linked_file(unquote(written), self._plan.site.files)
            return self.file_slot(name) if name is not None else str(escape(written))
        reference, fragment = split_reference(written)
        found = self._references.find(reference)
        if len(found) != 1 or found[0] not in self._plan.routes or found[0] in self._plan.drafts:
            return None
        query = query_of(written)
        if filled(self._plan.routes[found[0]].path, query)[2]:
            return None
        target = PageAddress(found[0], fragment, query)
        self.targets.add(target)
        return room_for(target)
