"""A build held against what is live, and sent there: complete in the end, whatever happens on the way.

Two files on the target remember what must be known there, whoever publishes next: `.basilica/published.json` has the
digests of what was published, and `.basilica/sending.json` those of a publish that is on its way, and who does it. A
file in a state that one of them names came from here; any other was edited there.
"""

from __future__ import annotations

import json
import os
import secrets
import socket
import threading
from collections.abc import Callable, Collection, Mapping
from dataclasses import dataclass, field
from datetime import UTC, datetime
from typing import Any

from basilica.core.diff.live_differences import (
    Digests,
    LiveComparison,
    LiveState,
    SendingList,
    compare_live,
    name_digest,
    sending_list,
)
from basilica.store.errors import UsageError
from basilica.store.folders import is_alive
from basilica.store.targets.target import OWN, PUBLISHED, SENDING, PublishTarget, is_own, sha256

Step = Callable[[], None]
Sent = Callable[[str, int], None]
"""Called with each path that was sent or deleted, and its bytes."""
_FORMAT = 1


class Busy(UsageError):
    """Somebody else is publishing there."""


@dataclass(frozen=True, slots=True)
class PublishedState:
    """What a target remembers of the last publish: when it was, of what version, and by name digest what was sent.
    ``unfinished`` tells of one that was cut off: who did it, and what it sends."""

    at: str = ""
    version: str = ""
    files: Mapping[str, str] = field(default_factory=dict)
    unfinished: UnfinishedPublish | None = None

    @property
    def known(self) -> dict[str, Collection[str]]:
        """By name digest, every state in which a file came from here."""
        found: dict[str, Collection[str]] = {name: {digest} for name, digest in self.files.items()}
        if self.unfinished is not None:
            for name, digests in self.unfinished.files.items():
                found[name] = {*found.get(name, ()), *digests}
        return found


@dataclass(frozen=True, slots=True)
class UnfinishedPublish:
    """A publish that is on its way, or was cut off. ``host`` and ``process`` say who does it; ``process`` is 0 where
    nobody does any more."""

    at: str
    host: str
    process: int
    files: Mapping[str, tuple[str, ...]]

    @property
    def is_over(self) -> bool:
        """Whether it is certain that nobody goes on with it. What this process does itself it knows by other means."""
        return not self.process or (self.host == socket.gethostname() and not is_alive(self.process))

    @property
    def who(self) -> str:
        """Who does it, in words."""
        return f"process {self.process} on {self.host}, since {self.at}"


@dataclass(frozen=True, slots=True)
class Comparison:
    """A build and what is live: their files, and what the target remembers. ``undecoded`` are live files whose names
    are no text in UTF-8, as they can be shown: no build has them, and they are left alone."""

    files: LiveComparison
    state: PublishedState
    undecoded: tuple[str, ...] = ()


def digests_of(built: Mapping[str, bytes]) -> dict[str, str]:
    """The SHA-256 of every file of a build."""
    return {path: sha256(data) for path, data in built.items()}


def compare(target: PublishTarget, built: Digests, step: Step = lambda: None) -> Comparison:
    """Hold a build against what is live, by content. ``step`` is called for each file that was read there. Raises
    ``TargetProblem``."""
    names = {name: _decoded(name) for name in target.files()}
    paths = [name for name, decoded in names.items() if name == decoded]
    _must_fit(built, paths)
    live = target.digests(paths, lambda _: step())
    state = state_of(target)
    compared = compare_live(built, live, state.known, state.unfinished is not None)
    return Comparison(compared, state, tuple(decoded for name, decoded in names.items() if name != decoded))


def _decoded(name: str) -> str:
    r"""The name of a file as text: one that is not UTF-8 with its bytes as ``\xff``."""
    return name.encode("utf-8", "surrogateescape").decode("utf-8", "backslashreplace")


def _must_fit(built: Digests, live: Collection[str]) -> None:
    """Raises ``UsageError`` if a file is live where the build needs a folder, or the other way round: neither can be
    left alone beside the other."""
    for files, others, message in (
        (live, built, "`{0}` is a file there, and the build needs a folder of that name, for `{1}`."),
        (built, live, "`{1}` is there, and the build has a file where its folder is: `{0}`."),
    ):
        known = set(files)
        for path in others:
            above = path
            while "/" in above:
                above = above.rpartition("/")[0]
                if above in known and path not in known:
                    raise UsageError(f"{message.format(above, path)} Rename or delete it there, and compare again.")


def state_of(target: PublishTarget) -> PublishedState:
    """What a target remembers. Raises ``TargetProblem``, and ``UsageError`` where a newer Basilica wrote it."""
    said = _read(target, PUBLISHED)
    return PublishedState(
        _text(said.get("at")),
        _text(said.get("version")),
        _digests(said.get("files")),
        _unfinished(_read(target, SENDING)),
    )


def _unfinished(said: Mapping[str, Any]) -> UnfinishedPublish | None:
    if not said:
        return None
    process, files = said.get("process"), said.get("files")
    files = files if isinstance(files, dict) else {}
    return UnfinishedPublish(
        _text(said.get("at")),
        _text(said.get("host")),
        process if isinstance(process, int) and process > 0 else 0,
        {name: tuple(map(str, digests)) for name, digests in files.items() if isinstance(digests, list)},
    )


def _read(target: PublishTarget, path: str) -> dict[str, Any]:
    said = _parsed(target.read(path) or b"")
    if isinstance(said.get("format"), int) and said["format"] > _FORMAT:
        raise UsageError(f"`{path}` there was written by a newer Basilica. Publish with that.")
    return said


def _parsed(data: bytes) -> dict[str, Any]:
    """What such a file says; nothing where it is half of one, since who wrote it did not come further."""
    try:
        said = json.loads(data)
    except (ValueError, RecursionError):
        return {}
    return said if isinstance(said, dict) else {}


def _text(value: object) -> str:
    return value[:200] if isinstance(value, str) else ""


def _digests(value: object) -> dict[str, str]:
    if not isinstance(value, dict):
        return {}
    return {name: digest for name, digest in value.items() if isinstance(name, str) and isinstance(digest, str)}


@dataclass(frozen=True, slots=True)
class Publish:
    """What is to be published: the ``built`` files, which ``version`` of the site they are, and a ``note``."""

    built: Mapping[str, bytes]
    version: str
    note: str = ""

    @property
    def message(self) -> str:
        """What it is, in the message of a commit."""
        return f"{self.note or 'Published'}\n\nVersion: {self.version}"


def send(
    target: PublishTarget,
    publish: Publish,
    found: Comparison,
    overwrites: Callable[[str], bool] = lambda path: False,
    removes: Callable[[str], bool] = lambda path: False,
    sent: Sent = lambda path, size: None,
    even_if_busy: bool = False,
) -> SendingList:
    """Bring the live site to what was built: files first, then pages, then lists; deletions last. ``overwrites`` and
    ``removes`` are those of ``sending_list``; ``even_if_busy`` publishes though somebody else seems to be at it. What
    ``sent`` raises stops it; the next run goes on. Raises ``TargetProblem``, and ``Busy``."""
    chosen = sending_list(found.files, overwrites, removes)
    bad = next((path for path in publish.built if is_own(path)), None)
    if bad is not None:
        raise UsageError(f"The build has the file `{bad}`, whose name is Basilica's own on a target.")
    if not chosen.count and found.state.unfinished is None and found.state.version == publish.version:
        return chosen
    place = target.settings.place
    with _lock:
        if place in _on_their_way:
            raise Busy("This application is publishing there already. Wait until that is over.")
        _on_their_way.add(place)
    try:
        note = _sending(found, chosen)
        there = _take(target, note, even_if_busy)
        try:
            _as_compared(target, found, chosen)
        except BaseException:
            _put_back(target, there)
            raise
        try:
            if found.state.unfinished is not None:
                target.sweep()
            for stage in chosen.stages:
                files = ((path, publish.built[path]) for path in stage)
                target.send(files, lambda path: sent(path, len(publish.built[path])))
            target.delete(chosen.deleted, lambda path: sent(path, 0))
            _remember(target, publish, found, chosen)
            target.finish(publish.message)
            target.delete([SENDING], lambda path: None)
        except BaseException:
            _release(target, note)
            raise
    finally:
        with _lock:
            _on_their_way.discard(place)
    return chosen


_lock = threading.Lock()
_on_their_way: set[str] = set()
"""The places to which this process is publishing."""


def _sending(found: Comparison, chosen: SendingList) -> dict[str, Any]:
    """The note of a publish. What one before it, which was cut off, may have left there stays known."""
    unfinished = found.state.unfinished
    files = {name: list(digests) for name, digests in unfinished.files.items()} if unfinished is not None else {}
    sent = {path for stage in chosen.stages for path in stage}
    for file in found.files.files:
        if file.path in sent:
            known = files.setdefault(name_digest(file.path), [])
            # What somebody said may be overwritten stays so, if this does not come to it.
            known += [one for one in (file.built, file.live) if one and one not in known]
    return {
        "format": _FORMAT,
        "id": secrets.token_hex(8),
        "at": _now(),
        "host": socket.gethostname(),
        "process": os.getpid(),
        "files": files,
    }


def _now() -> str:
    return datetime.now(UTC).isoformat(timespec="seconds")


def _as_compared(target: PublishTarget, found: Comparison, chosen: SendingList) -> None:
    """Raises ``UsageError`` where the live site is not what was compared: somebody published, or edited what would be
    written over, in between."""
    said = _read(target, PUBLISHED)
    if (_text(said.get("at")), _digests(said.get("files"))) != (found.state.at, dict(found.state.files)):
        raise UsageError("Something else was published there since it was compared. Compare again.")
    wanted = {path for stage in chosen.stages for path in stage} | set(chosen.deleted)
    files = [file for file in found.files.files if file.path in wanted]
    there = set(target.files())
    now = target.digests([file.path for file in files if file.live], lambda path: None)
    other = [file.path for file in files if (now.get(file.path) != file.live if file.live else file.path in there)]
    if other:
        raise UsageError(
            f"{len(other):,} files were changed there since it was compared, such as `{other[0]}`. Compare again."
        )


def _put_back(target: PublishTarget, there: bytes | None) -> None:
    """Take back the note of a publish that has sent nothing."""
    if there is None:
        target.delete([SENDING], lambda path: None)
    else:
        target.send([(SENDING, there)], lambda path: None)


def _take(target: PublishTarget, note: Mapping[str, Any], even_if_busy: bool) -> bytes | None:
    """Leave the note that this publish is on its way; gives the one of a publish that was cut off, which was there.
    Raises ``Busy``."""
    data = _written(note)
    there = target.begin(data)
    if there is None:
        return None
    claims, seen = [], there
    while True:
        _must_be_over(seen, even_if_busy)
        # Of several who find the note of a publish that was cut off, one goes on from it: whoever leaves this first.
        claims.append(f"{OWN}taking-{sha256(seen)[:20]}.json")
        other = target.begin(data, claims[-1])
        if other is None:
            break
        seen = other
    try:
        if target.read(SENDING) != there:
            raise Busy("Somebody else went on with the publish that was cut off. Compare again.")
        target.send([(SENDING, data)], lambda path: None)
    finally:
        target.delete(claims, lambda path: None)
    return there


def _must_be_over(note: bytes, even_if_busy: bool) -> None:
    """Raises ``Busy`` if a note is that of a publish which somebody may still go on with."""
    known = _unfinished(_parsed(note))
    if known is not None and not known.is_over and not even_if_busy:
        raise Busy(
            f"Somebody else is publishing there: {known.who}. Wait until that is over. If it is, publish all the "
            "same (`--even-if-busy`)."
        )


def _release(target: PublishTarget, note: Mapping[str, Any]) -> None:
    """Say that nobody goes on with it now; what it meant to send stays known. Where the connection is lost nothing can
    be said: who comes next sees that its process is over, or takes it over."""
    try:
        target.send([(SENDING, _written({**note, "process": 0}))], lambda path: None)
    except Exception:
        return


def _remember(target: PublishTarget, publish: Publish, found: Comparison, chosen: SendingList) -> None:
    sent = {path for stage in chosen.stages for path in stage}
    files: dict[str, str] = {}
    for file in found.files.files:
        name = name_digest(file.path)
        if file.built and (file.path in sent or file.state is LiveState.SAME):
            files[name] = file.built
        elif file.state is LiveState.EDITED and file.path not in chosen.deleted:
            files[name] = found.state.files.get(name, "")  # it stays as it was edited, and is said again
    said = {
        "format": _FORMAT,
        "at": _now(),
        "version": publish.version,
        "files": files,
    }
    target.send([(PUBLISHED, _written(said))], lambda path: None)


def _written(said: Mapping[str, Any]) -> bytes:
    return json.dumps(said, separators=(",", ":"), sort_keys=True).encode()
