"""Forms that several people may have open: what one touched is written, and where two touched the same field, each is
asked which value stays. Saving again never overwrites."""

from __future__ import annotations

import json
import re
from collections.abc import Callable, Mapping, Sequence
from contextlib import suppress
from typing import Any, NamedTuple

from flask import flash, request

from basilica.core.diff.field_merge import FieldMerge, Settled, merge_fields
from basilica.core.edits import Command
from basilica.core.plan import Plan
from basilica.store.records import Conflict, SiteRecord
from basilica.web.context import services
from basilica.web.forms import AsOpened, BasilicaForm, InvalidForm, Revision

_SETTLE = "settle."
_TRIES = 5


class FieldConflict(NamedTuple):
    """A field that two people changed: its name in the form, what it is called, and both values as people read them.
    ``saved`` is the other's as the choice brings it back, so that it holds for that value alone."""

    name: str
    title: str
    theirs: str
    mine: str
    saved: str

    @property
    def id(self) -> str:
        """The name as it can be the id of an element."""
        return re.sub(r"[^\w-]", "-", self.name)


class Unsettled(Exception):
    """Fields of a form were changed by somebody else too; the others are written."""

    def __init__(self, names: Sequence[str]) -> None:
        fields = ", ".join(name.replace("-", " ") for name in names)
        them = "its value is" if len(names) == 1 else "their values are"
        super().__init__(f"Somebody else changed {fields} meanwhile, so {them} not overwritten.")


class MergedForm(BasilicaForm):
    """A form that brings what its fields were when it was opened (``seen``), and what was chosen where two people had
    changed one."""

    revision = Revision(default=-1)
    seen = AsOpened(default=dict)

    def merged(
        self, sent: Mapping[str, Any], saved: Mapping[str, Any], opened: Mapping[str, Any] | None = None
    ) -> FieldMerge[Any]:
        """The fields that were ``sent`` merged with what is ``saved``, by what they were when the form was ``opened``
        (None: ``seen``). A field that two changed is no conflict any more where it was chosen which value stays."""
        return merge_fields(sent, self.seen.data if opened is None else opened, saved, self._settled())

    @staticmethod
    def _settled() -> dict[str, Settled]:
        """What was chosen, by the name of the field; nothing of what cannot be read."""
        found = {}
        for name, value in request.form.items():
            choice, _, saved = value.partition(" ")
            if name.startswith(_SETTLE) and choice in ("mine", "theirs"):
                with suppress(json.JSONDecodeError):
                    found[name.removeprefix(_SETTLE)] = Settled(choice == "mine", json.loads(saved))
        return found


def conflicts_of(merge: FieldMerge[Any], titles: Mapping[str, str] | None = None) -> list[FieldConflict]:
    """The conflicts of a form, to be shown in it."""
    return [
        FieldConflict(
            name,
            (titles or {}).get(name) or name.replace("-", " ").capitalize(),
            str(theirs or ""),
            str(merge.changed[name] or ""),
            json.dumps(theirs, ensure_ascii=False),
        )
        for name, theirs in merge.theirs.items()
    ]


def write_merged(
    slug: str,
    form: MergedForm,
    edits: Callable[[SiteRecord, Plan], tuple[FieldMerge[Any], Sequence[Command]]],
    keep: bool = True,
    files: Mapping[str, bytes | None] | None = None,
) -> tuple[int, Sequence[Command]]:
    """Do the ``edits`` that the fields of a form ask for, whatever somebody else saved in others since it was opened;
    how many old addresses were kept, and the edits. Raises ``Unsettled`` where fields are in conflict, once all
    others are written; and ``Conflict`` for a form that does not say what its fields were."""
    meanwhile: Conflict | None = None
    for _ in range(_TRIES):
        site = services().sites.open(slug)
        plan = services().maps.good_plan(site)
        if plan is None or not services().maps.is_good(site):
            raise InvalidForm("The map has errors, so nothing was written.")
        if site.revision != form.revision.data and not form.seen.data:
            raise Conflict(site)
        merge, commands = edits(site, plan)
        try:
            kept = services().sites.apply(slug, site.revision, *commands, keep=keep, files=files) if commands else 0
        except Conflict as conflict:
            meanwhile = conflict
            continue  # somebody saved in this very moment: the fields are looked at again
        if merge.theirs:
            if commands:  # said with its Undo, above what is asked
                flash(f"Saved {', '.join(name.replace('-', ' ') for name in sorted(merge.apart))}.")
            raise Unsettled(list(merge.theirs))
        return kept, commands
    assert meanwhile is not None
    raise meanwhile
