"""A map as plain data: keys, lists and texts, without comments and without its way of writing.

An edit that sets words which the site's own values do not have one by one is made to this data as well. What it says,
read as a map, must be what the patched text says.
"""

from __future__ import annotations

import json
from collections.abc import Callable, Sequence
from contextlib import suppress
from typing import Any

from basilica.core.edits.source_patcher import NotHere, SourcePatcher
from basilica.core.language.sections.menu_words import AUTO_WORD
from basilica.core.map.document import Mapping, Node, Scalar
from basilica.core.map.document.scalar_writer import write_scalar
from basilica.core.map.map_files import NO_FILES, Files
from basilica.core.map.site.included_files import included_file

MapData = Any
"""A set of keys (dict), a list, a text, or None for a place that was left empty."""


def data_of(node: Node) -> MapData:
    """The data of a node, free to be changed."""
    if isinstance(node, Scalar):
        return None if node.is_nothing else node.value
    if isinstance(node, Mapping):
        return {key.value: data_of(value) for key, value in node.pairs}
    return [data_of(item) for item in node.items]


def text_of(data: MapData) -> str:
    """A map that says the data, in brackets and quotes all over."""
    if isinstance(data, dict):
        return "{" + ", ".join(f"{json.dumps(key)}: {text_of(value)}" for key, value in data.items()) + "}"
    if isinstance(data, list):
        return "[" + ", ".join(map(text_of, data)) + "]"
    return "" if data is None else json.dumps(data)


def written(data: MapData) -> str:
    """Data as a person would write them on one line."""
    if isinstance(data, dict):
        return "{" + ", ".join(f"{write_scalar(key)}: {written(value)}" for key, value in data.items()) + "}"
    if isinstance(data, list):
        return "[" + ", ".join(map(written, data)) + "]"
    if data is None:
        return ""
    return str(data) if str(data).isdecimal() or data in ("yes", "no") else write_scalar(str(data))


def map_data(text: str, files: Files = NO_FILES) -> MapData:
    """The data of the text of a map, and of the files among ``files`` that it includes. Raises ``NotHere`` for one that
    is no set of keys."""
    data = data_of(SourcePatcher(text).root)
    take_in_included(data, lambda file: data_of(SourcePatcher(source_of(files, file)).root))
    return data


def source_of(files: Files, name: str) -> str:
    """Return the text of a file. Raises ``NotHere`` if it does not exist or is not UTF-8."""
    if name not in files or not files.is_text(name):
        raise NotHere
    return files[name].decode()


def take_in_included(data: MapData, read: Callable[[str], MapData], above: tuple[str, ...] = ()) -> None:
    """Put what included files say, as ``read`` gives it by name, in the place of `include` at the pages of a map or of
    a page. A page's own words come first. Files that cannot be read stay named."""
    said_pages = data.get("pages") if isinstance(data, dict) else None
    pages = said_pages if isinstance(said_pages, dict) else {}
    for name, page in pages.items():
        if not isinstance(page, dict):
            continue
        said, inside = page.get("include"), above
        if isinstance(said, str) and included_file(said) not in above:
            with suppress(NotHere):
                words = dict_of(read(included_file(said)))
                inside = (*above, included_file(said))
                page = pages[name] = {**words, **{word: value for word, value in page.items() if word != "include"}}
        take_in_included(page, read, inside)


def value_in(data: MapData, path: Sequence[str]) -> MapData:
    """Return the value at a path of keys; None if there is no such key."""
    for name in path:
        if not isinstance(data, dict):
            return None
        data = data.get(name)
    return data


def set_in(data: MapData, path: Sequence[str], value: MapData) -> None:
    """Set the value at a path of keys. None removes the key, and the keys above it that are empty then."""
    if not isinstance(data, dict):
        raise NotHere
    if len(path) == 1:
        if value is None:
            data.pop(path[0], None)
        else:
            data[path[0]] = value
        return
    below = data.get(path[0])
    if below is None:
        if value is None:
            return
        below = data[path[0]] = {}
    set_in(below, path[1:], value)
    if not below:
        del data[path[0]]


def holder_of(data: MapData, key: str) -> dict[str, MapData]:
    """What has a page below its `pages`: another page, or the map. Raises ``NotHere`` for a page of another file."""
    holder = data
    *above, page_id = key.split("/")
    for name in above:
        holder = dict_of(dict_of(holder).get("pages")).get(name)
    if page_id not in dict_of(dict_of(holder).get("pages")):
        raise NotHere
    return dict_of(holder)


def page_in(data: MapData, key: str) -> dict[str, MapData]:
    """The keys of a page, which is written with keys from then on. Raises ``NotHere`` for one of another file."""
    holder = data
    for page_id in key.split("/"):
        pages = holder.get("pages") if isinstance(holder, dict) else None
        if not isinstance(pages, dict) or page_id not in pages:
            raise NotHere
        if not isinstance(pages[page_id], dict):
            pages[page_id] = {} if pages[page_id] is None else {"title": pages[page_id]}
        holder = pages[page_id]
    return dict_of(holder)


def dict_of(data: MapData) -> dict[str, MapData]:
    """Return data that is a set of keys. Raises ``NotHere`` for other data."""
    if not isinstance(data, dict):
        raise NotHere
    return data


def is_auto(data: MapData) -> bool:
    """Whether the value of a menu stands for entries that are made, and not for settings."""
    return isinstance(data, dict) and list(data) == [AUTO_WORD]


def menu_in(data: MapData, name: str) -> dict[str, MapData]:
    """The settings of a menu, which is written with keys from then on."""
    if data.get("menus") is None:
        data["menus"] = {}
    menus = dict_of(data["menus"])
    known = menus.get(name)
    if not isinstance(known, dict) or is_auto(known):
        menus[name] = {} if known is None else {"entries": known}
    return dict_of(menus[name])


def entries_in(data: MapData, menu: str, path: Sequence[int]) -> list[MapData]:
    """The list of the entries below an entry of a menu, or at its top; it is made where there is none."""
    menus = data.setdefault("menus", {})
    if menus is None:
        menus = data["menus"] = {}
    value = menus.get(menu)
    if value is None:
        value = menus[menu] = []
    holder, word = menus, menu
    if isinstance(value, dict) and not is_auto(value):
        holder, word = value, "entries"
        value = value.setdefault("entries", [])
    for index in path:
        if not isinstance(value, list):
            raise NotHere
        holder, word = long_entry(value[index]), "items"
        value[index] = holder
        value = holder.setdefault("items", [])
    if value == AUTO_WORD or is_auto(value):
        value = holder[word] = [value]
    if not isinstance(value, list):
        raise NotHere
    return value


def auto_words(auto: MapData) -> dict[str, MapData]:
    """The words of an `auto`, the long way: `auto: 3` has ``levels``."""
    words = auto.get(AUTO_WORD) if isinstance(auto, dict) else None
    return dict(words) if isinstance(words, dict) else {"levels": words} if words else {}


def long_entry(entry: MapData) -> dict[str, MapData]:
    """An entry the long way: with `page`, `group`, `file` or `url`."""
    if isinstance(entry, str):
        return {"page": entry}
    if isinstance(entry, dict) and len(entry) == 1:
        (name, items) = next(iter(entry.items()))
        if name not in ("page", "group", "file", "url", "auto"):
            return {"page": name, "items": items}
    return dict_of(entry)
