"""What a word of the map language is."""

from __future__ import annotations

from dataclasses import dataclass


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
