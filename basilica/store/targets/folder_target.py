"""A folder on this machine."""

from __future__ import annotations

import hashlib
import os
from collections.abc import Iterable, Iterator, Sequence
from contextlib import contextmanager, suppress
from pathlib import Path
from typing import Self

from basilica.store.errors import UsageError
from basilica.store.folders import place_in, write_atomically
from basilica.store.targets.target import (
    OWN,
    SENDING,
    UNFINISHED,
    Done,
    PublishTarget,
    TargetProblem,
    is_own,
    leave_note,
)
from basilica.store.targets.target_settings import SettingWord, TargetSettings


class FolderTarget(PublishTarget):
    """Sends into a folder. Symbolic links in it are neither read nor written through."""

    TITLE = "Folder"
    LOCAL, ROOT = ("folder",), "folder"
    WORDS = (
        SettingWord("folder", "The folder of the live site on this machine; it is made if it does not exist.", None),
    )

    @staticmethod
    def place_of(settings: TargetSettings) -> str:
        """The folder, in full."""
        return str(settings.path("folder"))

    def __enter__(self) -> Self:
        self._root = self.settings.path("folder")
        if self._root.exists() and not self._root.is_dir():
            raise TargetProblem(f"{self._root} is a file. Name a folder.")
        return self

    def files(self) -> list[str]:
        """The paths of all files there, but for Basilica's own."""
        with _told("The folder"):
            return sorted(self._below(str(self._root), "")) if self._root.is_dir() else []

    def _below(self, folder: str, prefix: str) -> Iterator[str]:
        with os.scandir(folder) as entries:
            for entry in entries:
                path = prefix + entry.name
                if entry.is_dir(follow_symlinks=False):
                    if path + "/" != OWN and entry.name != ".git":
                        yield from self._below(entry.path, path + "/")
                elif entry.is_file(follow_symlinks=False) and not is_own(path):
                    yield path

    def digests(self, paths: Sequence[str], done: Done) -> dict[str, str]:
        """The SHA-256 of some files, in hexadecimal; those that are not there are left out."""
        found = {}
        for path in paths:
            with _told(path), suppress(FileNotFoundError):
                number = os.open(os.path.join(self._root, path), os.O_RDONLY | os.O_NOFOLLOW)
                with os.fdopen(number, "rb") as file:
                    found[path] = hashlib.file_digest(file, "sha256").hexdigest()
            done(path)
        return found

    def read(self, path: str) -> bytes | None:
        """The bytes of a file; None where there is none."""
        with _told(path):
            place = place_in(self._root, path)
            return place.read_bytes() if place.is_file() else None

    def send(self, files: Iterable[tuple[str, bytes]], done: Done) -> None:
        """Write files, each beside and then renamed over."""
        for path, data in files:
            with _told(path):
                write_atomically(place_in(self._root, path), data)
            done(path)

    def delete(self, paths: Sequence[str], done: Done) -> None:
        """Delete files, and folders that are empty then."""
        for path in paths:
            with _told(path):
                place = place_in(self._root, path)
                place.unlink(missing_ok=True)
                self._tidy(place.parent)
            done(path)

    def _tidy(self, folder: Path) -> None:
        with suppress(OSError):  # one that has something in it stays
            while folder != self._root:
                folder.rmdir()
                folder = folder.parent

    def sweep(self) -> None:
        """Delete what a publish that was cut off was writing."""
        with _told("A file"):
            for root, _, names in os.walk(self._root):
                for name in names:
                    if name.endswith(UNFINISHED):
                        Path(root, name).unlink(missing_ok=True)

    def begin(self, note: bytes, path: str = SENDING) -> bytes | None:
        """Leave a note that a publish is on its way, if there is none."""
        with _told(path):
            return leave_note(place_in(self._root, path), note)


@contextmanager
def _told(path: str) -> Iterator[None]:
    """Errors of the file system, as ones of the target."""
    try:
        yield
    except TargetProblem:
        raise
    except UsageError as error:
        raise TargetProblem(str(error)) from error
    except OSError as error:
        raise TargetProblem(f"`{path}` cannot be read or written there: {error.strerror}.") from error
