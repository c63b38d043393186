"""What the fields of commands name, so that it is looked up in one place before anything is changed, and so that
commands can be made from their fields."""

from __future__ import annotations

import typing
from collections.abc import Iterator
from functools import cache
from typing import Annotated, Any

from msgspec import Meta, Struct

from basilica.core.map.site import Entry, Site

_NAMES, _WORD = "names", "word"

PageKey = Annotated[str, Meta(extra={_NAMES: "page"})]
"""The key of a page that is there."""
MenuName = Annotated[str, Meta(extra={_NAMES: "menu"})]
"""The name of a menu that is there."""
EntryNumber = Annotated[int, Meta(ge=0, extra={_NAMES: "entry"})]
"""The number of an entry, from 0 and in document order, of the command's ``menu``."""
PartName = Annotated[str, Meta(extra={_NAMES: "part"})]
"""The name of a part that is there."""
LanguageTag = Annotated[str, Meta(extra={_NAMES: "language"})]
"""The tag of a language of the site that is not its first."""
EntryWords = Annotated[dict[str, str], Meta(extra={_WORD: "entries"})]
"""Values by the words of an entry."""
AutoWords = Annotated[dict[str, str], Meta(extra={_WORD: "auto"})]
"""Values by the words of `auto`."""
PageWords = Annotated[dict[str, str], Meta(extra={_WORD: "pages"})]
"""Values by the words of a page."""
PageWord = Annotated[str, Meta(extra={_WORD: "pages"})]
"""A word of a page."""
HeaderWord = Annotated[str, Meta(extra={_WORD: "header"})]
"""A word of the header."""
PartWord = Annotated[str, Meta(extra={_WORD: "parts"})]
"""A word of a part."""
Index = Annotated[int, Meta(ge=0)]
"""A place among others, from 0."""


def missing(command: Struct, site: Site) -> str:
    """The sentence about what a command names and the site does not have; empty if all is there."""
    menu = getattr(command, "menu", "")
    for field, kind in named_fields(type(command)):
        value = getattr(command, field)
        if value is None:
            continue
        if kind == "page" and value not in site.pages:
            return f"The page `{value[:80]}` is not there any more."
        if kind == "menu" and value not in site.menus:
            return f"The menu `{value[:80]}` is not there any more."
        if kind == "part" and value not in site.parts:
            return f"There is no part `{value[:80]}`."
        if kind == "language" and value not in site.languages[1:]:
            return f"`{value[:80]}` is not another language of this site."
        if kind == "entry" and (menu not in site.menus or value >= len(numbered(site.menus[menu].entries))):
            return f"This entry of the menu `{menu[:80]}` is not there any more."
    return ""


@cache
def named_fields(command: type[Struct]) -> tuple[tuple[str, str], ...]:
    """The fields of a command that name something of the map, each with what it names."""
    return _fields(command, _NAMES)


@cache
def word_fields(command: type[Struct]) -> tuple[tuple[str, str], ...]:
    """The fields of a command that hold words of the map language, each with the section that has them."""
    return _fields(command, _WORD)


def _fields(command: type[Struct], asked: str) -> tuple[tuple[str, str], ...]:
    hints = typing.get_type_hints(command, include_extras=True)
    return tuple((field, value) for field in command.__struct_fields__ for value in _extras(hints[field], asked))


def _extras(hint: Any, asked: str) -> Iterator[str]:
    for each in (hint, *typing.get_args(hint)):
        for meta in getattr(each, "__metadata__", ()):
            if isinstance(meta, Meta) and meta.extra and asked in meta.extra:
                yield meta.extra[asked]


def numbered(entries: tuple[Entry, ...]) -> list[Entry]:
    """Every entry of a menu, in document order."""
    return [one for entry in entries for one in (entry, *numbered(entry.items))]
