"""The fields of a form that two people had open: what one of them changed, beside what the other saved meanwhile."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType
from typing import Any, Generic, NamedTuple, TypeVar

Value = TypeVar("Value")


@dataclass(frozen=True, slots=True)
class FieldMerge(Generic[Value]):
    """The fields of a form, each by its name."""

    typed: dict[str, Value]
    """The values that the person changed since the form was opened; all other fields keep what is saved."""
    changed: dict[str, Value]
    """Those of them that are not saved yet."""
    opened: dict[str, Any]
    """What the fields are compared with if the form is shown again: a field that was changed, with its value when the
    form was opened, and each other field with what is saved."""
    theirs: dict[str, Any]
    """The conflicts: saved values of fields that both people changed, each in another way."""

    @property
    def apart(self) -> dict[str, Value]:
        """The values that can be saved without touching what somebody else saved."""
        return {name: value for name, value in self.changed.items() if name not in self.theirs}


class Settled(NamedTuple):
    """Which value of a field in conflict stays: one's own (``mine``), or the one that somebody else had ``saved``. It
    holds only as long as that is still saved."""

    mine: bool
    saved: Any


NONE_SETTLED: Mapping[str, Settled] = MappingProxyType({})


def merge_fields(
    sent: Mapping[str, Value],
    opened: Mapping[str, Any],
    saved: Mapping[str, Value],
    settled: Mapping[str, Settled] = NONE_SETTLED,
) -> FieldMerge[Value]:
    """Merge the fields of a form that was ``sent`` with what is ``saved``, by what they were when the form was
    ``opened``. Fields that ``opened`` does not have are compared with what is saved. Conflicts that are ``settled``, by
    name, are none."""
    before = {**saved, **opened}
    holds = {name: choice.mine for name, choice in settled.items() if choice.saved == saved.get(name)}
    typed = {name: value for name, value in sent.items() if value != before.get(name) and holds.get(name, True)}
    changed = {name: value for name, value in typed.items() if value != saved.get(name)}
    known = {name: opened[name] for name in changed if name in opened}
    open_ones = [name for name in known if not holds.get(name)]
    theirs = {name: saved.get(name) for name in open_ones if known[name] != saved.get(name)}
    return FieldMerge(typed, changed, {**saved, **known}, theirs)
