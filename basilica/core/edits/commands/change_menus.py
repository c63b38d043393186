"""Menus themselves: a new one, another name, a copy, one less."""

from __future__ import annotations

import copy
import re
from collections import Counter

from basilica.core.edits.accounted_words import COMMENT
from basilica.core.edits.command import Command, EditInProgress, EditRejected
from basilica.core.edits.map_data import data_of, dict_of, menu_in, value_in
from basilica.core.map.document.scalar_writer import write_scalar
from basilica.core.map.site import Site

_NAME = re.compile(r"[a-z0-9]+(-[a-z0-9]+)*")


def _must_be_free(site: Site, name: str) -> None:
    if not _NAME.fullmatch(name):
        raise EditRejected(f"A menu cannot be called `{name}`: write lower-case letters, digits and hyphens.")
    if name in site.menus:
        raise EditRejected(f"There is a menu `{name}` already. Nothing was changed.")


class NewMenu(Command, frozen=True, tag="new-menu"):
    """A new menu, at a ``place`` (`utility`, `footer`, `part`), or (``section``) on a page and those under it. Its
    entries are a copy of those of the menu ``like``, or else the pages of the tree."""

    name: str
    place: str = "footer"
    section: str = ""
    like: str = ""

    def change(self, work: EditInProgress) -> None:
        """Do it, to the site and to the text."""
        _must_be_free(work.site, self.name)
        data = work.data()
        entries: object = "auto"
        flow = "auto"
        if self.like and self.like not in work.site.menus:
            raise EditRejected(f"The menu `{self.like[:80]}` is not there any more. Nothing was changed.")
        if self.like and work.text.has_menu(self.like):
            written = work.text.entries_of(self.like)
            entries, flow = copy.deepcopy(data_of(written)), work.patcher.flow_of(written)
        settings = {"section": self.section} if self.section else {"place": self.place}
        menu_in(data, self.name).update({**settings, "entries": entries})
        for word, value in settings.items():
            work.text.set_under(None, ("menus", self.name), word, write_scalar(value))
        work.text.set_under(None, ("menus", self.name), "entries", flow)
        work.take_data(data)

    def describe(self, before: Site) -> str:
        """What was done, in words."""
        return f"Added the menu {self.name}" + (f", a copy of {self.like}" if self.like else "")


class RenameMenu(Command, frozen=True, tag="rename-menu"):
    """Another name for a menu; parts that show it follow."""

    name: str
    new: str

    def change(self, work: EditInProgress) -> None:
        """Do it, to the site and to the text."""
        _must_be_free(work.site, self.new)
        if self.name == "main":
            raise EditRejected("The main menu keeps its name: the header shows the menu of that name.")
        data = work.data()
        menus = dict_of(data.get("menus"))
        data["menus"] = {self.new if name == self.name else name: value for name, value in menus.items()}
        for part in (data.get("parts") or {}).values():
            if isinstance(part, dict) and part.get("menu") == self.name:
                part["menu"] = self.new
        work.removes(("menus", self.name))  # all of it is under the new name
        work.text.rename_menu(self.name, self.new)
        work.take_data(data)

    def describe(self, before: Site) -> str:
        """What was done, in words."""
        return f"Renamed the menu {self.name} to {self.new}"


class DeleteMenu(Command, frozen=True, tag="delete-menu"):
    """A menu is taken out of the map, with its entries; the pages stay."""

    name: str

    def change(self, work: EditInProgress) -> None:
        """Do it, to the site and to the text."""
        data = work.data()
        if self.name == "main" and value_in(data, ("menus", "main")) in (None, "auto"):
            raise EditRejected(
                "The main menu follows the pages, with or without its line in the map. To have none, write `main: []` "
                "in the code. Nothing was changed."
            )
        if self.name not in dict_of(data.get("menus") or {}):
            raise EditRejected(f"The menu `{self.name[:80]}` is not there any more. Nothing was changed.")
        del data["menus"][self.name]
        if not data["menus"]:
            del data["menus"]
        work.removes(("menus", self.name))
        comments = Counter(work.patcher.comments)
        work.text.cut_menu(self.name)
        work.text.prune_under(None, ("menus",))
        work.removes(*((COMMENT, text.strip()) for text in comments - Counter(work.patcher.comments)))
        work.take_data(data)

    def describe(self, before: Site) -> str:
        """What was done, in words."""
        return f"Deleted the menu {self.name}"
