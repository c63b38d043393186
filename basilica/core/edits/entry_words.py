"""The words of an entry of a menu, as edits take and write them."""

from __future__ import annotations

from collections.abc import Collection, Mapping

from basilica.core.edits.command import EditRejected
from basilica.core.edits.map_data import MapData, written
from basilica.core.edits.source_patcher import Snippet
from basilica.core.language.sections.menu_words import ENTRY

LEADS = ("page", "url", "file", "group")
_WORDS = tuple(word.name for word in ENTRY if word.name not in ("items", "auto"))


def checked_words(words: Mapping[str, str]) -> dict[str, str]:
    """The words of an entry on one line each. Raises ``EditRejected`` for one that is none."""
    stray = next((word for word in words if word not in (*_WORDS, "separator")), None)
    if stray is not None:
        raise EditRejected(f"`{stray}` is not a word of an entry. Nothing was changed.")
    return {word: " ".join(value.split()) for word, value in words.items()}


def entry_data(entry: Mapping[str, MapData], words: Mapping[str, str]) -> dict[str, MapData]:
    """An entry, the long way, with other words: those that are empty are removed, and those that are not given stay,
    whatever they are."""
    changed = {**entry, **words}
    others = [word for word in changed if word not in (*_WORDS, "items", "auto")]  # those of languages, and new ones
    return {word: changed[word] for word in (*_WORDS, *others, "items", "auto") if changed.get(word)}


def in_languages(
    entry: Mapping[str, MapData], labels: Mapping[str, str], languages: Collection[str]
) -> dict[str, MapData]:
    """An entry with other labels (names, of a group) in languages, by tag; an empty one is removed. Raises
    ``EditRejected`` for a tag that is not one of ``languages``."""
    word, changed = "group" if entry.get("group") else "label", dict(entry)
    for tag, text in labels.items():
        if tag not in languages:
            raise EditRejected(f"`{tag[:40]}` is not another language of this site. Nothing was changed.")
        text, known = " ".join(text.split()), changed.pop(tag, None)
        if isinstance(known, dict):
            said: MapData = {name: value for name, value in {**known, word: text}.items() if value}
        else:
            said = text
        if said:
            changed[tag] = said
    for name in {"items", "auto"} & changed.keys():
        changed[name] = changed.pop(name)  # last, as people write them
    return changed


def entry_snippet(entry: MapData) -> Snippet:
    """A new entry as it is written."""
    flow = written(entry)
    return Snippet((f"- {flow}",), flow)
