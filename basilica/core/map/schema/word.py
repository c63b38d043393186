"""What a word of the map language is."""

from __future__ import annotations

import re
from dataclasses import dataclass

_OF_KINDS = re.compile(r"(`\w+`(?:(?:, | and )`\w+`)*): ")
"""What a sentence begins with that is true of these kinds alone."""


@dataclass(frozen=True, slots=True)
class Word:
    """A key that may stand in one place of the map."""

    name: str
    value_type: str
    meaning: str
    values: tuple[str, ...] = ()
    default: str = ""
    old_name: str = ""
    """What the key was called before; a map that says so gets a finding with its fix."""
    old_values: tuple[tuple[str, str], ...] = ()
    """Values as they were called before, each with what it is called now."""
    range: tuple[int, int] | None = None
    """The least and the most that a number can be."""

    def hint(self, kind: str = "") -> str:
        """What the key is for, in words without marks of code; of a part, what is true of those of its ``kind``."""
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
