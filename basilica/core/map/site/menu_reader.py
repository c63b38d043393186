"""Menus by name: their entries, how they are drawn, and where they stand."""

from __future__ import annotations

import re
from collections.abc import Callable
from collections.abc import Mapping as Map

from basilica.core.language.sections.menu_words import MENU, MenuSettings
from basilica.core.map.document import Mapping, Node, Scalar
from basilica.core.map.site import site_rules
from basilica.core.map.site.auto_entries import auto, expand
from basilica.core.map.site.entry_reader import AUTO_LEVELS, read_entries
from basilica.core.map.site.field_reader import (
    Context,
    keys_of,
    kind_of,
)
from basilica.core.map.site.model import Entry, Menu, Page
from basilica.core.map.site.references import References
from basilica.core.map.site.word_reader import read_words

_NAME = re.compile(r"[a-z0-9-]+")


def read_menus(node: Node, pages: Map[str, Page], references: References, context: Context) -> dict[str, Menu]:
    """Every menu by name; `main` is there always, made from the tree where the map does not give it."""
    menus: dict[str, Menu] = {}
    reader = _MenuReader(pages, references, context)
    if isinstance(node, Mapping):
        for name, value in node.pairs:
            if not _NAME.fullmatch(name.value):
                context.say(
                    site_rules.BAD_ID,
                    name.start,
                    f"`{name.value[:60]}` cannot be the name of a menu.",
                    "Use lower-case letters, digits and hyphens, such as `footer`.",
                )
                continue
            menus[name.value] = reader.menu(name, value)
    elif not (isinstance(node, Scalar) and node.is_nothing):
        context.say(
            site_rules.WRONG_SHAPE,
            node.start,
            f"`menus` is {kind_of(node)} where menus by name are expected.",
            "Write `main:` below it, and its entries below that.",
        )
    if "main" not in menus:
        written = (auto(None, AUTO_LEVELS, node.start),)
        menus = {"main": Menu("main", written, expand(written, pages), at=node.start), **menus}
    return menus


def is_settings(node: Node) -> bool:
    """Whether a menu is written with settings beside its entries: a set of keys, and not `auto: N` alone."""
    return isinstance(node, Mapping) and [key.value for key, _ in node.pairs] != ["auto"]


class _MenuReader:
    def __init__(self, pages: Map[str, Page], references: References, context: Context) -> None:
        self.pages = pages
        self.references = references
        self.context = context

    def menu(self, name: Scalar, node: Node) -> Menu:
        """A menu under its name."""
        settings = MenuSettings()
        entries: Node | None = node
        if isinstance(node, Mapping) and self.is_entries(node):
            first = node.pairs[0][0].value
            message = f"The entries of the menu `{name.value}` are keys where a list is expected."
            self.context.say(
                site_rules.WRONG_SHAPE, node.start, message, f"Write `- {first}` for each, on a line of its own."
            )
            entries = None
        elif is_settings(node):
            keys = keys_of(node, MENU, f"The menu `{name.value}`", self.context)
            settings = self.settings(name.value, keys)
            entries = keys["entries"][1] if "entries" in keys else None
        below, levels = settings.section, 1 if settings.section else AUTO_LEVELS
        if entries is None:
            written: tuple[Entry, ...] = (auto(below, levels, node.start),)
        else:
            written = read_entries(entries, below, levels, self.pages, self.references, self.context)
        return Menu(name.value, written, expand(written, self.pages, self.twice(name.value)), settings, name.start)

    def is_entries(self, node: Mapping) -> bool:
        """Whether the keys of a menu are pages, and no words of a menu."""
        words = {each for word in MENU for each in (word.name, word.old_name, *word.synonyms)}
        names = [key.value for key, _ in node.pairs]
        return bool(names) and not words & {*names} and all(self.references.find(name) for name in names)

    def twice(self, name: str) -> Callable[[Entry], None]:
        """What says that an entry stands twice in a menu."""

        def say(entry: Entry) -> None:
            anchor = f"The anchor `{entry.page}#{entry.fragment}`"
            what = f"The page `{entry.page}`" if entry.fragment is None else anchor
            message = f"{what} appears more than once in the menu `{name}`."
            self.context.say(site_rules.DUPLICATE_ENTRY, entry.at, message)

        return say

    def settings(self, name: str, keys: dict[str, tuple[Scalar, Node]]) -> MenuSettings:
        """What stands beside the entries of a menu."""
        where = f"the menu `{name}`"

        section = self.section(keys["section"][1], name) if "section" in keys else None
        fits_here = {
            "fold": name == "main",
            "submenus": name == "main",
            "place": name != "main" and "section" not in keys,
        }
        for word, fits in fits_here.items():
            if word in keys and not fits:
                self.context.say(
                    site_rules.KEY_WITHOUT_USE,
                    keys[word][0].start,
                    f"`{word}` has no effect for {where}.",
                    "Remove it." if word == "place" else "Only the main menu has it; remove it.",
                )
        return MenuSettings(section=section, **read_words(keys, MENU, self.context, where))

    def section(self, node: Node, name: str) -> str | None:
        if not isinstance(node, Scalar) or not node.value.strip():
            self.context.say(site_rules.WRONG_SHAPE, node.start, "`section` names no page.", "Write a page's key.")
            return None
        if name == "main":
            message = "The main menu is on every page and belongs to no section."
            self.context.say(site_rules.WRONG_SHAPE, node.start, message, "Give the section a menu of another name.")
            return None
        return self.references.resolve(node, self.context)
