"""The words of an entry of a menu, as edits take and write them."""

from __future__ import annotations

from collections.abc import Mapping

from basilica.core.edits.command import EditRejected
from basilica.core.edits.map_data import MapData, written
from basilica.core.edits.source_patcher import Snippet
from basilica.core.map.schema.sections import ENTRY

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


def entry_snippet(entry: MapData) -> Snippet:
    """A new entry as it is written."""
    flow = written(entry)
    return Snippet((f"- {flow}",), flow)
