"""What every kind of target can do. All of it is about bytes: what they mean is not known here."""

from __future__ import annotations

import hashlib
import os
from abc import ABC, abstractmethod
from collections.abc import Callable, Iterable, Sequence
from pathlib import Path
from types import TracebackType
from typing import ClassVar, Self

from basilica.store.errors import UsageError
from basilica.store.folders import OWNERS_MARK, is_alive
from basilica.store.targets.target_settings import SettingWord, TargetSettings

OWN = ".basilica/"
"""The folder on a target that has what Basilica must remember there."""
PUBLISHED = OWN + "published.json"
SENDING = OWN + "sending.json"
UNFINISHED = ".basilica-unfinished"
"""How names of files end that are being written."""

Done = Callable[[str], None]
"""Called with each path, once that is done. What it raises ends the work."""


class TargetProblem(UsageError):
    """A target that cannot be reached, read or written; the message says why, and what to do."""


class PublishTarget(ABC):
    """A place that a site is published to. Used with ``with``, which connects and disconnects. Every method of an open
    one raises ``TargetProblem``."""

    TITLE: ClassVar[str]
    """What this kind of target is called on screens."""
    WORDS: ClassVar[tuple[SettingWord, ...]]
    """The settings of this kind, beside its address."""
    LOCAL: ClassVar[tuple[str, ...]] = ()
    """Those of them that are paths on this machine."""
    ROOT: ClassVar[str] = ""
    """The one of these that is the folder of the live site itself; empty if that is not on this machine."""
    SECRET: ClassVar[str] = ""
    """What the secret of this kind is, for screens; empty if it has none."""

    @staticmethod
    @abstractmethod
    def place_of(settings: TargetSettings) -> str:
        """What is published to, in one line: the same for two targets that are one place."""

    @staticmethod
    def problem_with(settings: TargetSettings) -> str:
        """What is wrong with the settings, and what to do; empty where nothing is."""
        return ""

    def __init__(self, settings: TargetSettings) -> None:
        self.settings = settings

    def __enter__(self) -> Self:
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        return None

    @abstractmethod
    def files(self) -> list[str]:
        """The paths of all files there, but for Basilica's own."""

    @abstractmethod
    def digests(self, paths: Sequence[str], done: Done) -> dict[str, str]:
        """The SHA-256 of some files, in hexadecimal; those that are not there are left out."""

    @abstractmethod
    def read(self, path: str) -> bytes | None:
        """The bytes of a file; None where there is none."""

    @abstractmethod
    def send(self, files: Iterable[tuple[str, bytes]], done: Done) -> None:
        """Write files, each beside and then renamed over: whoever reads one has the old bytes or the new ones."""

    @abstractmethod
    def delete(self, paths: Sequence[str], done: Done) -> None:
        """Delete files; those that are gone already are done. Folders that are empty then go too."""

    @abstractmethod
    def begin(self, note: bytes, path: str = SENDING) -> bytes | None:
        """Leave a note that a publish is on its way; where one is there already, nothing is written, and that is
        returned. ``path`` is one of Basilica's own."""

    def sweep(self) -> None:
        """Delete what a publish that was cut off was writing. Nobody else may be at it."""
        return None

    def finish(self, message: str) -> None:
        """Make what was sent count, for targets that take it as a whole; ``message`` says what it is."""
        return None


def leave_note(place: Path, note: bytes) -> bytes | None:
    """Write a file in one step, unless one is there: then that is returned."""
    place.parent.mkdir(parents=True, exist_ok=True)
    for left in place.parent.glob(f".*-{place.name}{UNFINISHED}"):  # by one that was killed just then
        process = left.name[1:].partition("-")[0]
        if process.isdigit() and not is_alive(int(process)):
            left.unlink(missing_ok=True)
    beside = place.with_name(f".{os.getpid()}-{place.name}{UNFINISHED}")
    beside.write_bytes(note)
    try:
        os.link(beside, place)  # which fails where one is there, and is never half of one
    except FileExistsError:
        return place.read_bytes()
    finally:
        beside.unlink(missing_ok=True)
    return None


def is_own(path: str) -> bool:
    """Whether a file on a target is Basilica's own: what it remembers there, or one that was being written."""
    return path.startswith(OWN) or path.endswith((UNFINISHED, OWNERS_MARK))


def sha256(data: bytes) -> str:
    """The SHA-256 of some bytes, in hexadecimal."""
    return hashlib.sha256(data).hexdigest()
