"""What a word of the map language is."""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import Any

from basilica.core.language.codecs import Choice, Codec, ListOf, Number

_OF_KINDS = re.compile(r"(`\w+`(?:(?:, | and )`\w+`)*): ")
"""What a sentence begins with that is true of these kinds alone."""


@dataclass(frozen=True, slots=True)
class Word:
    """A key that may be in one place of the map: how its value is read and written (``codec``), what it is for, and
    what holds without it (``default``)."""

    name: str
    codec: Codec[Any]
    meaning: str
    default: str = ""
    old_name: str = ""
    """What the key was called before; a map that says so gets a finding with its fix."""
    field_name: str = ""
    """The field that has its value once it is read, where that is called otherwise."""
    synonyms: tuple[str, ...] = ()
    """What people call it who come from elsewhere: a map that says so gets the word that is meant, with its fix."""
    called: str = ""
    """What messages call it, where its name alone does not tell."""
    title: str = ""
    """What its control is called, where its name alone does not tell."""
    group: str = ""
    """What the words are called that are set together with it."""
    screen: str = ""
    """Where it is set, if not where the other words of its section are: a workspace, and what to look for there."""

    @property
    def field(self) -> str:
        """The field that has its value once it is read."""
        return self.field_name or self.name.replace("-", "_")

    @property
    def is_controlled(self) -> bool:
        """Whether one control sets it; what is below other words is set by theirs."""
        return bool(self.codec.control)

    @property
    def control_title(self) -> str:
        """What its control is called."""
        return self.title or self.name.replace("-", " ").capitalize()

    @property
    def value_type(self) -> str:
        """What documents and completion call the kind of its values."""
        return self.codec.name

    @property
    def values(self) -> tuple[str, ...]:
        """Its values, if these are few; or those that have a meaning of their own."""
        return self.codec.values

    @property
    def old_values(self) -> tuple[tuple[str, str], ...]:
        """Values as they were called before, each with what it is called now."""
        return self.codec.was if isinstance(self.codec, Choice) else ()

    @property
    def range(self) -> tuple[int, int] | None:
        """The least and the most that a number can be."""
        return (self.codec.least, self.codec.most) if isinstance(self.codec, Number) else None

    @property
    def item(self) -> Codec[Any]:
        """The codec of one of its values, where there can be several."""
        return self.codec.of if isinstance(self.codec, ListOf) else self.codec

    def hint(self, kind: str = "") -> str:
        """What the key is for, without marks of code; of a part, what is true of those of its ``kind``."""
        said = _for_kind(self.meaning, kind)
        return said[:1].upper() + said[1:]

    def default_for(self, kind: str = "") -> str:
        """What holds without the key, in the same way."""
        return _for_kind(self.default, kind)


def _for_kind(text: str, kind: str) -> str:
    pieces = _OF_KINDS.split(text) if kind else [text]
    of_kinds = dict(zip(pieces[1::2], pieces[2::2], strict=True))
    said = next((said for kinds, said in of_kinds.items() if f"`{kind}`" in kinds), pieces[0] or pieces[-1])
    return said.strip(" ,").replace("`", "")
