"""One publish from beginning to end, for the command line and the application: what would go out, why so many files,
and what is noted of it."""

from __future__ import annotations

from collections.abc import Callable, Collection, Mapping
from dataclasses import dataclass
from fnmatch import fnmatchcase
from functools import cached_property
from pathlib import Path

from basilica.core.diff.live_differences import (
    Expectation,
    LiveFile,
    LiveState,
    SendingList,
    expectation,
    many_deletions,
    sending_list,
    unread_among,
)
from basilica.core.diff.page_parts import differing_parts
from basilica.core.exchange.site_import.old_page import PAGE_ENDINGS
from basilica.services.publishing import Comparison, Publish, Sent, compare, digests_of, send
from basilica.store.errors import UsageError
from basilica.store.publishes import NewPublish, Publishes, PublishRecord
from basilica.store.targets import PublishTarget, TargetSettings, open_target

_PARTS = 300
"""Pages of which it is told in which parts they differ."""


@dataclass(frozen=True)
class Choices:
    """What somebody chose, by pattern: which files that were edited there, or were there before, are ``overwritten``,
    which are ``left``, and which of nobody's are ``removed``."""

    overwritten: tuple[str, ...] = ()
    left: tuple[str, ...] = ()
    removed: tuple[str, ...] = ()
    deletions: int | None = None
    """How many files may be deleted where those are many; None if nobody said."""

    def overwrites(self, path: str) -> bool:
        """Whether a file may be written over."""
        return _fits(path, self.overwritten) and not _fits(path, self.left)

    def removes(self, path: str) -> bool:
        """Whether a file that is nobody's is deleted."""
        return _fits(path, self.removed)

    def open_questions(self, found: Comparison) -> tuple[LiveFile, ...]:
        """The files of which nobody said what becomes of them."""
        return tuple(
            file
            for file in found.files.files
            if file.needs_consent and not _fits(file.path, self.overwritten) and not _fits(file.path, self.left)
        )


def _fits(path: str, patterns: tuple[str, ...]) -> bool:
    return any(path == pattern or fnmatchcase(path, pattern) for pattern in patterns)


@dataclass(frozen=True)
class PreparedPublish:
    """A build, held against what is live at a target. ``last`` is the publish that was noted last for that place."""

    settings: TargetSettings
    built: Mapping[str, bytes]
    digests: Mapping[str, str]
    """The SHA-256 of each file of the build."""
    found: Comparison
    last: PublishRecord | None
    before: Mapping[str, str]
    parts: Mapping[str, tuple[str, ...]]
    """By path, the parts in which a page differs from what is live; of the first pages that do."""
    unread: Collection[str] = ()
    """Files and folders of the site that could not be read: what is live of them is not deleted."""

    @cached_property
    def expected(self) -> Expectation | None:
        """What the change since the last publish makes of files by itself; None where that is not known."""
        return expectation(self.found.files, self.digests, self.before) if self.before else None

    def chosen(self, choices: Choices) -> SendingList:
        """What would be sent and deleted."""
        return sending_list(self.found.files, choices.overwrites, choices.removes)

    def problem(self, choices: Choices) -> str:
        """Why what would be deleted is not; empty if it may be."""
        chosen = self.chosen(choices)
        unread = unread_among(chosen.deleted, self.unread)
        if unread:
            return (
                f"`{unread[0]}` is live, and the site has a file of this name that could not be read, so it is not "
                f"deleted{f' (and {len(unread) - 1:,} others)' if len(unread) > 1 else ''}. `basilica check` says why "
                "it was not read. Nothing was sent."
            )
        if self.many_deletions and choices.deletions != self.many_deletions:
            return (
                f"This would delete {self.many_deletions:,} live files, such as `{chosen.deleted[0]}`. If that is "
                f"meant, confirm the number (`--delete {self.many_deletions}`). Nothing was sent."
            )
        return ""

    @property
    def many_deletions(self) -> int:
        """How many files would be deleted, if those are so many that the person is asked; else 0."""
        return many_deletions(self.found.files)

    def size(self, choices: Choices) -> int:
        """How many bytes would be sent."""
        return sum(len(self.built[path]) for stage in self.chosen(choices).stages for path in stage)


def prepare(
    settings: TargetSettings,
    built: Mapping[str, bytes],
    log: Publishes | None,
    step: Callable[[], None] = lambda: None,
    sources: Path | None = None,
    unread: Collection[str] = (),
) -> PreparedPublish:
    """Hold a build against what is live. ``sources`` is the folder of the map, which is never published into;
    ``unread`` are files of the build that could not be read. Raises ``TargetProblem``, and ``UsageError``."""
    root = settings.local_root
    if root is not None and sources is not None:
        folder, source = root.resolve(), sources.resolve()
        if folder == source or folder in source.parents:
            raise UsageError(f"The map is in {folder}, the folder that is published into. Name another folder.")
    digests = digests_of(built)
    with open_target(settings) as target:
        found = compare(target, digests, step)
        parts = _parts(target, built, found)
    records = log.of_place(settings.place, 1) if log is not None else []
    last = records[0] if records else None
    before = log.digests(last.id, settings.place) if log is not None and last is not None else {}
    return PreparedPublish(settings, built, digests, found, last, before, parts, unread)


def _parts(target: PublishTarget, built: Mapping[str, bytes], found: Comparison) -> dict[str, tuple[str, ...]]:
    files = (one for one in found.files.of(LiveState.CHANGED, LiveState.EDITED) if one.path.endswith(PAGE_ENDINGS))
    pages = [one.path for one in files if one.built][:_PARTS]
    return {path: differing_parts(target.read(path) or b"", built[path]) for path in pages}


@dataclass(frozen=True, slots=True)
class PublishNote:
    """What is noted of a publish: of which ``version`` of the site it is (with its number in the application, if it has
    one), a ``note``, and the ``reason`` why it goes out in spite of findings."""

    version: str
    version_id: int | None = None
    note: str = ""
    reason: str = ""


def publish(
    prepared: PreparedPublish,
    choices: Choices,
    note: PublishNote,
    log: Publishes | None,
    slug: str | None = None,
    sent: Sent = lambda path, size: None,
    even_if_busy: bool = False,
) -> SendingList:
    """Send what differs, and note it. Raises ``TargetProblem``, ``Busy``, and ``UsageError`` where files were edited
    there and nobody said what becomes of them."""
    unclear = choices.open_questions(prepared.found)
    if unclear:
        raise UsageError(
            f"{len(unclear)} files were not published from here, or were edited there since, such as "
            f"`{unclear[0].path}`. Say of each whether it is overwritten or left."
        )
    problem = prepared.problem(choices)
    if problem:
        raise UsageError(problem)
    whole = Publish(prepared.built, note.version, note.note)
    with open_target(prepared.settings) as target:
        done = send(target, whole, prepared.found, choices.overwrites, choices.removes, sent, even_if_busy)
    if log is not None and (done.count or prepared.last is None or prepared.last.version != note.version):
        left = {
            file.path for file in prepared.found.files.files if file.needs_consent and not choices.overwrites(file.path)
        }
        files = {path: data for path, data in prepared.built.items() if path not in left}
        new = NewPublish(
            prepared.settings.name,
            prepared.settings.place,
            note.version,
            note.version_id,
            note.note,
            note.reason,
            in_words(prepared, done),
        )
        log.add(slug, new, files)
    return done


def published_bytes(log: Publishes | None, place: str, path: str) -> bytes | None:
    """A file as the last publish to a place sent it; None where that is not known."""
    records = log.of_place(place, 1) if log is not None else []
    if log is None or not records or not records[0].has_files:
        return None
    return log.files(records[0].id, place).get(path)


def last_changed(log: Publishes | None, place: str, built: Mapping[str, bytes]) -> tuple[str, ...]:
    """The files that the last publish to a place changed, as far as the history has it."""
    records = log.of_place(place, 2) if log is not None else []
    if log is None or len(records) < 2:
        return ()
    now, before = (log.digests(one.id, place) for one in records)
    return tuple(path for path in built if now.get(path) != before.get(path))


def in_words(prepared: PreparedPublish, done: SendingList) -> str:
    """What a publish does, in words."""
    state = {file.path: file.state for file in prepared.found.files.files}
    sent = [path for stage in done.stages for path in stage]
    new = sum(state[path] is LiveState.NEW for path in sent)
    words = [f"{new:,} new" if new else "", f"{len(sent) - new:,} changed" if len(sent) > new else ""]
    words.append(f"{len(done.deleted):,} deleted" if done.deleted else "")
    return ", ".join(word for word in words if word) or "nothing differed"
