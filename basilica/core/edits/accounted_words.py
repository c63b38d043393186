"""The words of a map as they are accounted for: an edit removes no word, and no comment, that it does not name."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Iterator, Mapping

from basilica.core.edits.map_data import MapData, is_auto, long_entry, value_in
from basilica.core.language.sections.menu_words import AUTO_WORD, SEPARATOR
from basilica.core.map.site.references import References, split_reference
from basilica.core.shared.conservation import Account, account

WordPlace = tuple[str, ...]
"""Where a word is: ``("pages", key, word, …)``; ``("menus", name, "entries", target, word, …)``, where the target is
that of the entry, such as ``page:visit/hours``; ``("#", text)`` for a comment; else the path of keys. A word is there
as often as its list has items. In an agreement, `*` is any one key, and what follows the place is agreed to as well."""

COMMENT = "#"
_ANY = "*"


def word_account(
    before: tuple[MapData, Iterable[str]],
    after: tuple[MapData, Iterable[str]],
    pages: tuple[Collection[str], Collection[str]],
    keys: Mapping[str, str],
    agreed: Collection[WordPlace],
) -> Account[WordPlace]:
    """The account of an edit: the data and the comments of the map before and after it, with the keys of its
    ``pages``; by the key that a page had, the one that it has; and the words that the edit names. A comment goes only
    together with words, or by name."""

    def is_agreed(place: WordPlace) -> bool:
        return any(_covers(each, place) for each in agreed)

    there, now = References(pages[0]), References(pages[1])
    words = account(_places(before[0], there, keys), _places(after[0], now, {}), is_agreed)
    comments = account(_comments(before[1]), _comments(after[1]), lambda each: bool(words.dropped) or is_agreed(each))
    return words + comments


def _covers(agreed: WordPlace, place: WordPlace) -> bool:
    """Whether an agreement covers a place: one inside it, or a key above it that is empty without it."""
    return all(name in (_ANY, one) for name, one in zip(agreed, place, strict=False))


def _comments(texts: Iterable[str]) -> Iterator[WordPlace]:
    return ((COMMENT, text.strip()) for text in texts)


def _places(data: MapData, references: References, keys: Mapping[str, str]) -> Iterator[WordPlace]:
    said = value_in(data, ("site", "languages"))
    tags = frozenset(tag for tag in said if isinstance(tag, str)) if isinstance(said, list) else frozenset[str]()
    for section, value in data.items() if isinstance(data, dict) else ():
        if section == "pages":
            yield from _page_places(value, None, keys, tags)
        elif section != "menus":
            yield from _nested((section,), value)
    menus = data.get("menus") if isinstance(data, dict) else None
    named = menus if isinstance(menus, dict) else {}
    for name, menu in {"main": AUTO_WORD, **named}.items():
        settings = {"entries": menu} if not isinstance(menu, dict) or is_auto(menu) else menu
        for word, value in settings.items():
            place = ("menus", name, word)
            yield from _entry_places(place, value, references, keys) if word == "entries" else _nested(place, value)


def _page_places(
    pages: MapData, above: str | None, keys: Mapping[str, str], tags: Collection[str]
) -> Iterator[WordPlace]:
    for name, page in pages.items() if isinstance(pages, dict) else ():
        key = f"{above}/{name}" if above else name
        place = ("pages", keys.get(key, key))
        yield place
        for word, value in (page if isinstance(page, dict) else {"title": page}).items():
            if word == "pages":
                yield from _page_places(value, key, keys, tags)
            elif value is not None:  # a text alone below the tag of a language is the title
                yield from _nested(
                    (*place, word), {"title": value} if word in tags and isinstance(value, str) else value
                )


def _entry_places(
    place: WordPlace, entries: MapData, references: References, keys: Mapping[str, str]
) -> Iterator[WordPlace]:
    for entry in entries if isinstance(entries, list) else [entries]:
        if entry in (AUTO_WORD, SEPARATOR):
            yield (*place, entry)
        elif is_auto(entry):
            yield (*place, AUTO_WORD)
            options = entry[AUTO_WORD]
            for word, value in options.items() if isinstance(options, dict) else ():
                yield from _nested((*place, AUTO_WORD, word), value)
        elif isinstance(entry, str | dict):
            words = long_entry(entry)
            target = target_of(words, references, keys)
            yield (*place, target)
            for word, value in words.items():
                if word == "items":
                    yield from _entry_places(place, value, references, keys)
                else:
                    yield from _nested((*place, target, word), value)


def target_of(entry: Mapping[str, MapData], references: References, keys: Mapping[str, str]) -> str:
    """What an entry leads to, as its name in an account; pages by their new keys."""
    lead = next((word for word in ("page", "group", "url", "file", "label") if entry.get(word)), "")
    value = str(entry.get(lead, ""))
    if lead == "page":
        found = references.find(split_reference(value)[0])
        return entry_of_page(keys.get(found[0], found[0])) if len(found) == 1 else f"page:{value}"
    return f"{lead}:{value}"


def targets_of(entry: MapData, references: References) -> Iterator[str]:
    """The targets of an entry of a menu, as the map has it, and of those under it."""
    if entry == SEPARATOR:
        yield SEPARATOR
    elif entry == AUTO_WORD or is_auto(entry):
        yield AUTO_WORD
    elif isinstance(entry, str | dict):
        words = long_entry(entry)
        yield target_of(words, references, {})
        items = words.get("items")
        for item in items if isinstance(items, list) else [items]:
            yield from targets_of(item, references)


def entry_of_page(key: str) -> str:
    """The target of entries that lead to a page, or to an anchor on it."""
    return f"page:{key}"


def _nested(place: WordPlace, value: MapData) -> Iterator[WordPlace]:
    """A place and those in its value: of each key, and of each item of a list."""
    if isinstance(value, list):
        for item in value:
            yield from _nested(place, item)
        return
    yield place
    if isinstance(value, dict):
        for word, inner in value.items():
            yield from _nested((*place, word), inner)
