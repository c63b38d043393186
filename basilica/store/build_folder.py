"""A built folder: made whole beside what is there, and then brought in file by file.

A folder that is not there yet takes its place in one step. In one that was built before, the files that changed are
each moved over the old ones; what Basilica did not write is left and reported, and what was changed by hand since is
never lost unseen. A list in the folder tells what was written, by SHA-256; a journal tells what is being moved, so that
a run that is killed is finished by the next.
"""

from __future__ import annotations

import fcntl
import hashlib
import json
import os
import shutil
from collections.abc import Callable, Iterable
from dataclasses import dataclass
from itertools import count
from pathlib import Path

from basilica.core.plan.routes import MARKER
from basilica.core.shared.output_file import File
from basilica.store.errors import UsageError
from basilica.store.folders import is_alive, place_in, sweep, write_atomically

_JOURNAL = ".basilica-journal"
_STAGE = ".basilica-building-"
_HEAD = "# Written by Basilica: the SHA-256 and the name of each file of its last build. All else is left alone.\n"
_CACHE = "__pycache__"
"""What Python keeps beside programs that were run: a kit's own."""
_NAMED = 5
"""Files that a message names; the others are counted."""


@dataclass(frozen=True, slots=True)
class _Moves:
    """What is to be done in the folder: files that come in from the ``stage``, and files that go."""

    stage: str
    put: tuple[str, ...]
    remove: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class FolderChanges:
    """What a build did to a folder that was built before: the names of files, but for the list of them."""

    new: tuple[str, ...]
    changed: tuple[str, ...]
    gone: tuple[str, ...]


class BuildFolder:
    """A new build of a folder.

    Used with ``with``: leaving it without ``keep`` removes what was written and leaves the folder as it was.
    """

    def __init__(self, target: Path, force: bool, sources: Iterable[Path]) -> None:
        """``force`` allows writing over files that Basilica did not write, or that were changed since. ``sources`` are
        what the build is made from. Raises ``UsageError`` where ``target`` cannot be built into."""
        self.target = Path(os.path.realpath(target))
        self._force = force
        _spare(target, self.target, sources)
        if self.target.exists() and not self.target.is_dir():
            raise UsageError(f"{target} is a file. Choose a folder.")
        self._exists = self.target.is_dir() and any(self.target.iterdir())
        if self._exists and not force and not any((self.target / name).is_file() for name in (MARKER, _JOURNAL)):
            raise UsageError(
                f"{target} was not built by Basilica and is not empty. Choose another folder, or add --force to write "
                "into it; files of other names stay."
            )
        if self._exists:
            self.folder = self.target / f"{_STAGE}{os.getpid()}"
        else:
            self.folder = self.target.parent / f".{self.target.name}.building-{os.getpid()}"
        self._written: dict[str, str] = {}
        self._folders: set[str] = set()
        self._lock: int | None = None
        self.copies: Path | None = None
        """After ``keep``: the folder with copies of what ``force`` wrote over."""
        self.left: tuple[str, ...] = ()
        """After ``keep``: files in the folder that Basilica did not write."""
        self.changes: FolderChanges | None = None
        """After ``keep``: what became of the folder; None for one that was not there."""

    def __enter__(self) -> BuildFolder:
        """Raises ``UsageError`` where the folder cannot be written to, or another build of it is on its way."""
        try:
            self.target.parent.mkdir(parents=True, exist_ok=True)
            if self._exists:
                self._lock = _locked(self.target)
                _finish(self.target)
                _sweep(self.target, _STAGE)
                sweep(self.target)  # the list and the journal, half written
            _sweep(self.target.parent, f".{self.target.name}.building-")
            self.folder.mkdir()
        except OSError as error:
            raise UsageError(f"{self.folder.parent} cannot be written to: {error.strerror}.") from error
        return self

    def __exit__(self, *_: object) -> None:
        if not (self.target / _JOURNAL).exists():  # what it says is done by the next run
            shutil.rmtree(self.folder, ignore_errors=True)
        if self._lock is not None:
            os.close(self._lock)

    def write(self, files: Iterable[File], step: Callable[[], None]) -> None:
        """Write the files, calling ``step`` after each."""
        root = str(self.folder)
        for file in files:
            path = os.path.join(root, file.path)
            parent = os.path.dirname(path)
            if parent not in self._folders:
                os.makedirs(parent, exist_ok=True)
                self._folders.add(parent)
            with open(path, "wb", buffering=0) as target:
                target.write(file.data)
            self._written[file.path] = hashlib.sha256(file.data).hexdigest()
            step()

    def keep(self) -> None:
        """Bring what was written into the folder. Raises ``UsageError``, with nothing changed, where something stands
        there that Basilica did not write, or that was changed since; ``force`` writes over it."""
        (self.folder / MARKER).write_text(_list_of(self._written), encoding="utf-8")
        if not self._exists:
            if self.target.is_dir():
                self.target.rmdir()
            self.folder.rename(self.target)
            return
        moves, clashes = self._compared(_listed(self.target), _there(self.target))
        if clashes and not self._force:
            more = f" and {len(clashes) - _NAMED:,} more" if len(clashes) > _NAMED else ""
            some = ", ".join(clashes[:_NAMED]) + more
            raise UsageError(
                f"In {self.target} some files are not from a build, or were edited since the last one: "
                f"{some}. Copy the edits into the map or its content, or move the files away; or add --force to"
                " overwrite them."
            )
        if clashes:
            self.copies = self._copied(clashes)
        write_atomically(self.target / _JOURNAL, json.dumps([moves.stage, moves.put, moves.remove]).encode())
        _finish(self.target)

    def _copied(self, names: Iterable[str]) -> Path:
        """A new folder beside the target with copies of files there: what ``force`` writes over is not gone."""
        begins = self.target.parent / f".{self.target.name}.replaced"
        number = next(n for n in count(1) if not begins.with_name(f"{begins.name}-{n}").exists())
        copies = begins.with_name(f"{begins.name}-{number}")
        for name in names:
            source, place = self.target / name, copies / name
            if source.is_file() and not source.is_symlink():
                place.parent.mkdir(parents=True, exist_ok=True)
                shutil.copy2(source, place)
        return copies

    def _compared(self, before: dict[str, str], there: dict[str, str]) -> tuple[_Moves, list[str]]:
        """What is to be moved, and the names of what that would take away without anybody having said so."""
        put, clashes = [MARKER], []
        folders = {parent for name in self._written for parent in _above(name)}
        for name, digest in self._written.items():
            found = there.get(name)
            if found == digest:
                continue
            put.append(name)
            if found is not None and found != before.get(name):
                clashes.append(name)
        remove = [name for name in before if name not in self._written and there.get(name) == before[name]]
        gone = {*remove, *self._written}
        for name in there:
            blocks = name in folders or any(parent in self._written for parent in _above(name))
            if blocks and name not in gone:
                clashes.append(name)
                remove.append(name)
        linked = next((self.target / name for name in put if _is_linked(self.target, name)), None)
        if linked is not None:
            raise UsageError(f"{linked} is, or is reached through, a symbolic link. Nothing was written there.")
        self.left = tuple(
            sorted(name for name in there if name not in gone and name not in remove and _CACHE not in name.split("/"))
        )
        come = [name for name in put if name != MARKER]
        self.changes = FolderChanges(
            tuple(sorted(name for name in come if name not in there)),
            tuple(sorted(name for name in come if name in there)),
            tuple(sorted(remove)),
        )
        return _Moves(self.folder.name, tuple(put[1:] + put[:1]), tuple(remove)), sorted(clashes)


def _spare(named: Path, target: Path, sources: Iterable[Path]) -> None:
    for source in sources:
        real = Path(os.path.realpath(source))
        if real.is_relative_to(target):
            raise UsageError(f"{named} contains {source}, the source of the build. Choose another folder.")
        if target.is_relative_to(real):
            raise UsageError(f"{named} is inside {source}, the source of the build. Choose another folder.")


def _list_of(files: dict[str, str]) -> str:
    return _HEAD + "".join(f"{digest} {name}\n" for name, digest in sorted(files.items()))


def _listed(target: Path) -> dict[str, str]:
    """What the last build wrote: names, each with its SHA-256."""
    try:
        lines = (target / MARKER).read_text(encoding="utf-8").splitlines()
    except (OSError, UnicodeDecodeError):
        return {}
    found = (line.partition(" ") for line in lines if not line.startswith("#"))
    return {name: digest for digest, _, name in found if name}


def _there(target: Path) -> dict[str, str]:
    """Every file in the folder with its SHA-256; symbolic links are not followed."""
    found = {}
    for folder, names, files in os.walk(target):
        at = Path(folder).relative_to(target)
        if at == Path("."):
            names[:] = [name for name in names if not name.startswith(_STAGE)]
        links = [name for name in names if (Path(folder) / name).is_symlink()]
        for name in (*files, *links):
            path = Path(folder) / name
            if at == Path(".") and name in (MARKER, _JOURNAL):
                continue
            linked = path.is_symlink()
            found[(at / name).as_posix()] = "" if linked else hashlib.sha256(path.read_bytes()).hexdigest()
    return found


def _above(name: str) -> Iterable[str]:
    """The folders in which a file lies, by their names."""
    while "/" in name:
        name = name.rpartition("/")[0]
        yield name


def _is_linked(target: Path, name: str) -> bool:
    try:
        place_in(target, name)
    except UsageError:
        return True
    return False


def _locked(folder: Path) -> int:
    """Hold a folder, so that two builds do not take each other's files for those of a killed one; gives what is to be
    closed. It is let go where the process ends, however that ends. Raises ``UsageError`` where it is held already."""
    held = os.open(folder, os.O_RDONLY)
    try:
        fcntl.flock(held, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except BlockingIOError as error:
        os.close(held)
        raise UsageError(
            f"Another build into {folder} is on its way. Wait until it is done, or stop it, such as a `basilica watch`."
        ) from error
    return held


def _finish(target: Path) -> None:
    """Do what the journal says, from the beginning or from where a run that was killed left off."""
    journal = target / _JOURNAL
    if not journal.exists():
        return
    moves = _moves_in(journal)
    if moves is None:
        journal.unlink()
        return
    for name in moves.remove:
        folder, _, last = name.rpartition("/")
        path = (place_in(target, folder) if folder else target) / last
        if path.is_symlink() or path.is_file():  # else it is gone, and what comes in may be there already
            path.unlink()
        for parent in path.parents:
            if parent == target or not parent.is_dir() or any(parent.iterdir()):
                break
            parent.rmdir()
    staged = target / moves.stage
    for name in moves.put:
        if (staged / name).is_file():
            path = place_in(target, name)
            path.parent.mkdir(parents=True, exist_ok=True)
            os.replace(staged / name, path)
    journal.unlink()
    shutil.rmtree(staged, ignore_errors=True)


def _moves_in(journal: Path) -> _Moves | None:
    """What a journal says; None where it says nothing that can be done."""
    try:
        stage, put, remove = json.loads(journal.read_text(encoding="utf-8"))
    except (ValueError, TypeError):
        return None
    names = [stage, *put, *remove] if isinstance(put, list) and isinstance(remove, list) else [None]
    if not all(isinstance(name, str) for name in names) or "/" in stage or not stage.startswith(_STAGE):
        return None
    return _Moves(stage, tuple(put), tuple(remove))


def _sweep(folder: Path, begins: str) -> None:
    """Remove what builds that were killed have left behind."""
    for left in folder.glob(f"{begins}*"):
        number = left.name.rpartition("-")[2]
        if number.isdigit() and not is_alive(int(number)):
            shutil.rmtree(left, ignore_errors=True)
