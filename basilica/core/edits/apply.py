"""The one way from a text and an edit to another text, proved before it is given out."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import reduce
from operator import or_
from typing import Any

import msgspec

from basilica.core.compile import Compiled
from basilica.core.edits.accounted_words import COMMENT, WordPlace, word_account
from basilica.core.edits.command import Command, EditInProgress, EditRejected, MenuEdit
from basilica.core.edits.commands import DRAWN
from basilica.core.edits.fields import missing, named_fields
from basilica.core.edits.filled_facts import with_facts_filled
from basilica.core.edits.kept_addresses import KEEP_NONE, KeepAddresses, Keeping
from basilica.core.edits.source_patcher import NotHere, SourcePatcher
from basilica.core.map.site import Site
from basilica.core.map.site.written_place import not_below, not_here
from basilica.core.plan.ended_addresses import EndedAddress, ended_addresses
from basilica.core.shared.typed_values import typed

_BY_HAND = "The way the map is written does not allow this change here. Make it in the code; nothing was changed."


@dataclass(frozen=True, slots=True)
class Edited:
    """A text after edits, with its reading. ``keys`` has the new key of every page that was there before and is now;
    ``words`` say what was done, as in "Moved Tides under Visit"; ``chosen`` is the page that the last one was about."""

    text: str
    compiled: Compiled
    keys: Mapping[str, str]
    words: str
    chosen: str | None
    ended: tuple[EndedAddress, ...] = ()
    """Addresses that the edits end."""
    redirected: tuple[EndedAddress, ...] = ()
    """Those of them that are kept, and lead on."""
    files: Mapping[str, bytes] = field(default_factory=dict)
    """The files beside the map that are another now, by name: those that it includes, and tables."""

    def moves(self, before: Compiled) -> list[tuple[str, str | None]]:
        """Old and new key of each page that has another key since ``before``; no new one where it is gone."""
        pages = before.plan.site.pages if before.plan is not None else {}
        moved: list[tuple[str, str | None]] = [(old, new) for old, new in self.keys.items() if old != new]
        return moved + [(old, None) for old in pages if old not in self.keys]


def edit(compiled: Compiled, text: str, *commands: Command, keeping: Keeping = KEEP_NONE) -> Edited:
    """Do edits to the text of a map, of which ``compiled`` is the reading: all of them or none.

    Only the lines that they must touch are changed. What comes out is read again once, and held against the edits done
    to the site itself. Addresses that would end are kept as ``keeping`` says. Raises ``EditRejected`` where one makes
    no sense, or where the map would have errors after it.
    """
    if compiled.plan is None or compiled.stops:
        raise EditRejected("The text has errors. Fix them first; the plan shows the last version without errors.")
    edited = Edited(text, compiled, {key: key for key in compiled.plan.site.pages}, "", None)
    for batch in _batches(commands):
        edited = _done(edited, batch)
    assert edited.compiled.plan is not None
    ended = ended_addresses(compiled.plan, edited.compiled.plan, edited.keys)
    kept = keeping.of(ended)
    if kept:
        lead = keeping.lead
        if lead in compiled.plan.site.pages:
            lead = edited.keys.get(lead, "")
            if not lead and any(each.page is None for each in kept):
                raise EditRejected("The addresses cannot lead to a page that is deleted. Nothing was changed.")
        edited = _done(edited, (KeepAddresses(kept, lead),))
        assert edited.compiled.plan is not None
        still = {each.address for each in ended_addresses(compiled.plan, edited.compiled.plan, edited.keys)}
        left = [each.address for each in kept if each.address in still]
        kept = tuple(each for each in kept if each.address not in still)
        count = f"{len(kept)} old address{'' if len(kept) == 1 else 'es'} kept"
        count += f", {len(left)} not: {', '.join(left[:3])}" if left else ""
        edited = replace(edited, words=f"{edited.words}; {count}")
    files = edited.compiled.files.changed_since(compiled.files)
    return replace(edited, ended=ended, redirected=kept, files=files)


def _batches(commands: Sequence[Command]) -> list[tuple[Command, ...]]:
    """Edits that need no reading of the text between them go together: those of settings, which leave every page and
    entry where it is."""
    found: list[tuple[Command, ...]] = []
    for command in commands:
        if found and command.settles and found[-1][-1].settles:
            found[-1] = (*found[-1], command)
        else:
            found.append((command,))
    return found


def _done(before: Edited, commands: tuple[Command, ...]) -> Edited:
    plan = before.compiled.plan
    if plan is None:
        raise EditRejected(_BY_HAND)
    work = EditInProgress(plan, SourcePatcher(before.text))
    words = [before.words] if before.words else []
    there = work.accountable()
    try:
        for command in commands:
            gone = missing(command, work.site)
            if gone:
                raise EditRejected(f"{gone} Nothing was changed.")
            words += filter(None, [command.describe(work.site)])
            work.may_write_out = isinstance(command, MenuEdit) and command.write_out
            command.change(work)
        work.take_rows()
        work.drop_own_addresses()
    except NotHere as error:
        raise EditRejected(_elsewhere(commands, plan.site) or _BY_HAND) from error
    after = work.compiled()
    if after.plan is not None and work.drop_own_addresses_in_other_languages(after.plan):
        after = work.compiled()
    stopper = next((finding for finding in after.findings if finding.stops), None)
    if stopper:
        raise EditRejected(f"{stopper.message} So nothing was changed.")
    if after.plan is None or after.plan.site != with_facts_filled(work.site) or not work.rows.agrees(after.files):
        raise EditRejected(_elsewhere(commands, plan.site) or _BY_HAND)
    pages = plan.site.pages, after.plan.site.pages
    words_kept = word_account(there, work.accountable(), pages, work.keys, work.removed)
    if not words_kept.holds:
        raise EditRejected(_loses(words_kept.losses()))
    keys = {old: work.keys[key] for old, key in before.keys.items() if key in work.keys}
    return Edited(work.patcher.text, after, keys, "; ".join([*words, *work.notes]), work.chosen or before.chosen)


def _elsewhere(commands: Iterable[Command], site: Site) -> str:
    """Where a page is written that a command names, or where the pages under it are, if that is not in the text of the
    map; else nothing."""
    for command in commands:
        fields = named_fields(type(command)) if not isinstance(command, MenuEdit) else ()  # entries are in the map
        for name, kind in fields:
            key = getattr(command, name)
            if kind != "page" or key not in site.pages:
                continue
            reason = not_here(site, key) or not_below(site, key)
            if reason:
                return f"{reason}; nothing was changed."
    return ""


def _loses(places: Sequence[WordPlace]) -> str:
    """What an edit would remove that it does not name."""
    named = ", ".join(
        f"the comment `{place[1][:60]}`" if place[0] == COMMENT else f"`{': '.join(place)[:90]}`" for place in places
    )
    return f"This would also remove {named}. Nothing was changed. Make this edit in the code of the map."


_DRAWN: Any = reduce(or_, DRAWN)


def command_from(data: Any) -> Command:
    """The command that ``{"edit": tag, field: value, …}`` says. Raises ``ValueError`` where it says none. Texts are put
    on one line; one with nothing in it is refused."""
    if not isinstance(data, dict):
        raise ValueError("it is not an edit")
    values = {name: " ".join(value.split()) if isinstance(value, str) else value for name, value in data.items()}
    empty = next((name for name, value in values.items() if isinstance(value, str) and not value), None)
    if empty is not None or not all(value.isprintable() for value in values.values() if isinstance(value, str)):
        raise ValueError(f"{empty or 'a text'} is empty, or has invisible characters")
    try:
        command: Command = typed(values, _DRAWN)
    except msgspec.ValidationError as error:
        raise ValueError(str(error)) from error
    return command
