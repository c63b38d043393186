"""Changes of parts, without a text: what the map must say of them afterwards."""

from __future__ import annotations

import re
from collections.abc import Iterable
from dataclasses import replace

import ada_url

from basilica.core.language.sections.part_words import KINDS
from basilica.core.map.site.part_reader import NONE
from basilica.core.map.site.shared_values import Part, Slots

LINES = ("text", "html", "place", "opening")
"""Words that keep their lines."""


def part_words(part: Part) -> tuple[str, ...]:
    """The words of a part that can be written, its text first."""
    return ("html" if part.markup == "html" and part.text else "text", *KINDS[part.kind])


def written_value(word: str, value: str) -> str:
    """A value as a map holds it."""
    if word in LINES:
        value = "\n".join(line.rstrip() for line in value.replace("\r\n", "\n").split("\n")).strip("\n")
        return value if word in ("text", "html") else value.strip()
    value = " ".join(value.split())
    if word == "url" or (word == "to" and not value.startswith("/")):
        try:
            return str(ada_url.URL(value).href) if value else ""
        except ValueError:
            return value
    return value


def with_part_word(part: Part, word: str, value: str) -> Part:
    """A part with another value for one of its words; an empty one takes it out. Raises ``KeyError`` for a word that
    its kind does not have."""
    if word in ("text", "html"):
        if not value and word != ("html" if part.markup == "html" else "text"):
            return part  # it has its text by the other word
        markup = "html" if word == "html" and value else "markdown"
        return replace(part, text=value, markup=markup)
    if word not in KINDS[part.kind]:
        raise KeyError(word)
    values = {**dict(part.values), word: value}
    return replace(part, values=tuple((name, values[name]) for name in KINDS[part.kind] if values.get(name)))


def with_slot(slots: Slots, name: str, parts: Iterable[str] | None) -> Slots:
    """Slots with another filling of one; None takes it out."""
    kept = {**dict(slots), name: tuple(parts or ())}
    if parts is None:
        del kept[name]
    return tuple(sorted(kept.items()))


def names_in(text: str) -> tuple[str, ...]:
    """The names in a list with spaces or commas between them, each once; `none` is no name."""
    return tuple(dict.fromkeys(name for name in re.split(r"[\s,]+", text) if name and name != NONE))
