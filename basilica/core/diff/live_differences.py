"""A built site held against a live one, by the SHA-256 of their files: what would be sent and what deleted, what was
edited there by hand, and what is there that is nobody's."""

from __future__ import annotations

import hashlib
import re
from collections import Counter
from collections.abc import Callable, Collection, Iterable, Mapping
from dataclasses import dataclass
from enum import StrEnum
from functools import cached_property

from basilica.core.plan.routes import GENERATED
from basilica.core.shared.conservation import account

Digests = Mapping[str, str]
"""The SHA-256 of files, in hexadecimal, by path."""

PublishedDigests = Mapping[str, Collection[str]]
"""What was published, by ``name_digest`` of the path: the SHA-256 of every state in which a file may be that was sent
from here. More than one where a publish was cut off."""


class LiveState(StrEnum):
    """How a file of the live site stands to the build."""

    NEW = "new"
    CHANGED = "changed"
    SAME = "same"
    GONE = "gone"
    EDITED = "edited there"
    """It is not what was published: somebody edited it there."""
    FOREIGN = "not published from here"
    """It was there before anything was published, and stands where a file of the build would come."""
    UNKNOWN = "nobody's"
    """It was never published, and the build has nothing of its name."""


@dataclass(frozen=True, slots=True)
class LiveFile:
    """One path, with the SHA-256 of what is ``built`` and of what is ``live`` (empty: there is none)."""

    path: str
    state: LiveState
    built: str
    live: str
    was_removed: bool = False
    """Whether it was published, and deleted there by hand."""

    @property
    def needs_consent(self) -> bool:
        """Whether something would be lost that did not come from here."""
        return self.state in (LiveState.EDITED, LiveState.FOREIGN)


@dataclass(frozen=True)
class LiveComparison:
    """Every path of the build and of the live site, in the order of their names."""

    files: tuple[LiveFile, ...]

    @cached_property
    def counts(self) -> Counter[LiveState]:
        """How many files are in each state."""
        return Counter(file.state for file in self.files)

    def of(self, *states: LiveState) -> tuple[LiveFile, ...]:
        """The files in some states."""
        return tuple(file for file in self.files if file.state in states)

    @property
    def drift(self) -> tuple[LiveFile, ...]:
        """What was changed there by hand: edited, or deleted."""
        return tuple(file for file in self.files if file.state is LiveState.EDITED or file.was_removed)

    @property
    def to_do(self) -> tuple[LiveFile, ...]:
        """What differs, and would be sent or deleted without asking."""
        return self.of(LiveState.NEW, LiveState.CHANGED, LiveState.GONE)


def name_digest(path: str) -> str:
    """What stands for a path in the list on a host. That list can be read by anybody, and names no page."""
    return hashlib.sha256(path.encode()).hexdigest()[:32]


def compare_live(
    built: Digests, live: Digests, published: PublishedDigests, was_cut_off: bool = False
) -> LiveComparison:
    """Hold a build against what is live. ``published`` is what was sent before; where the last one ``was_cut_off``, a
    file that is not there may never have been sent."""
    found = []
    for path in sorted({*built, *live}):
        known = published.get(name_digest(path), ())
        ours, theirs = built.get(path, ""), live.get(path, "")
        if not theirs:
            found.append(LiveFile(path, LiveState.NEW, ours, "", bool(known) and not was_cut_off))
        else:
            found.append(LiveFile(path, _state(ours, theirs, known), ours, theirs))
    return LiveComparison(tuple(found))


def _state(built: str, live: str, known: Collection[str]) -> LiveState:
    if built == live:
        return LiveState.SAME
    if not known:
        return LiveState.FOREIGN if built else LiveState.UNKNOWN
    if live not in known:
        return LiveState.EDITED
    return LiveState.CHANGED if built else LiveState.GONE


@dataclass(frozen=True, slots=True)
class SendingList:
    """What is sent, stage after stage, and what is deleted in the end."""

    stages: tuple[tuple[str, ...], ...]
    deleted: tuple[str, ...]

    @property
    def count(self) -> int:
        """How many files are sent or deleted."""
        return sum(map(len, self.stages)) + len(self.deleted)


def many_deletions(comparison: LiveComparison) -> int:
    """How many files a publish deletes that nobody chose one by one, if those are more than five and more than a tenth
    of what is live; else 0."""
    count, live = comparison.counts[LiveState.GONE], sum(bool(file.live) for file in comparison.files)
    return count if count > 5 and 10 * count > live else 0


def unread_among(deleted: Iterable[str], unread: Collection[str]) -> tuple[str, ...]:
    """The files that a publish would delete though they may be there: they, or a folder above them, could not be
    read. Nobody agreed to delete these."""

    def was_read(path: str) -> bool:
        return not any(path == name or path.startswith(f"{name}/") or not name for name in unread)

    return tuple(account(deleted, (), was_read).lost)


_SITEMAP = re.compile(r"sitemap-\d+\.xml")
_PAGES = (".html", ".htm", ".xhtml", ".php", ".shtml")


def sending_list(
    comparison: LiveComparison, overwrites: Callable[[str], bool], removes: Callable[[str], bool]
) -> SendingList:
    """What to do so that the live site is as the build: first what pages need, then the pages, then the lists of them;
    what goes is deleted last, so that no page that is live ever leads to nothing. ``overwrites`` tells of paths that
    were edited there, or were there before, whether they may be written over or deleted; ``removes``, of those that are
    nobody's, whether these are deleted."""
    stages: tuple[list[str], ...] = ([], [], [])
    deleted = []
    for file in comparison.files:
        chosen = file.state in (LiveState.NEW, LiveState.CHANGED, LiveState.GONE)
        chosen = chosen or (file.needs_consent and overwrites(file.path))
        if not chosen and not (file.state is LiveState.UNKNOWN and removes(file.path)):
            continue
        if file.built:
            stages[_stage(file.path)].append(file.path)
        else:
            deleted.append(file.path)
    return SendingList(tuple(tuple(stage) for stage in stages), tuple(deleted))


def _stage(path: str) -> int:
    name = path.rpartition("/")[2].lower()
    if name.endswith(_PAGES):
        return 1
    is_list = (path in GENERATED and "/" not in path) or _SITEMAP.fullmatch(path)
    return 2 if is_list else 0


@dataclass(frozen=True, slots=True)
class Expectation:
    """The ``paths`` that differ by the change since the last publish alone, and why others were found: ``more`` differ
    though the change does not touch them, ``less`` are touched by it and are right already."""

    paths: frozenset[str]
    more: tuple[LiveFile, ...]
    less: tuple[str, ...]


def expectation(comparison: LiveComparison, built: Digests, before: Digests) -> Expectation:
    """Hold the number of files that differ from the live site against the number that differ from the last publish.
    ``before`` are the digests of that."""
    paths = frozenset(path for path in {*built, *before} if built.get(path) != before.get(path))
    differing = (LiveState.NEW, LiveState.CHANGED, LiveState.GONE, LiveState.EDITED, LiveState.FOREIGN)
    found = {file.path: file for file in comparison.of(*differing)}
    more = tuple(file for path, file in found.items() if path not in paths)
    return Expectation(paths, more, tuple(sorted(paths - found.keys())))


def why_more(file: LiveFile) -> str:
    """Why a file differs from the live site though the change since the last publish does not touch it."""
    if file.was_removed:
        return "was deleted there"
    if file.state is LiveState.NEW:
        return "is not there"
    if file.state is LiveState.EDITED:
        return "was edited there"
    if file.state is LiveState.FOREIGN:
        return "was there before, and not published from here"
    return "is left from an earlier publish"


TITLES = {
    LiveState.EDITED: "Edited there by hand",
    LiveState.FOREIGN: "There before, and not published from here",
    LiveState.NEW: "New",
    LiveState.CHANGED: "Changed",
    LiveState.GONE: "To be deleted",
    LiveState.UNKNOWN: "Nobody's, and left alone",
}
"""What files in each state that differs are called, those first that need a decision."""
