"""A map with its content in a folder, and built sites written to one."""

from __future__ import annotations

import json
import os
import shlex
import stat
import sys
import tempfile
from collections.abc import Iterable, Iterator
from contextlib import suppress
from dataclasses import dataclass
from pathlib import Path

from basilica.core.map.document import Lines
from basilica.core.map.map_files import (
    FOLDERS,
    LAYOUTS,
    NEVER_PUBLIC,
    NO_FILES,
    OLD_LAYOUTS,
    PUBLIC,
    Files,
    is_file_name,
)
from basilica.core.map.site import site_rules
from basilica.core.plan.content_links import FOLDER, SUFFIXES, Content, Contents, is_content_name, key_of
from basilica.core.plan.routes import MARKER
from basilica.core.rules import limits
from basilica.core.rules.finding import Finding, printable
from basilica.core.shared.output_file import File
from basilica.store.errors import UsageError

_DEEPEST = 2 * limits.LEVELS
"""Folders in one another that are looked into."""


@dataclass(frozen=True, slots=True)
class Source:
    """What a folder says: the bytes of the map, the content by page key, what could not be read, and the files beside
    the map."""

    name: str
    map: bytes
    contents: Contents
    findings: tuple[Finding, ...]
    files: Files = NO_FILES

    @property
    def places(self) -> tuple[Path, ...]:
        """The map, and the folders beside it that are read."""
        path = Path(self.name)
        return (path, *(path.parent / name for name in (FOLDER, *FOLDERS)))


STANDARD_INPUT = Path("-")


def read_source(path: Path) -> Source:
    """Read a map and the ``content`` folder beside it. Raises ``UsageError`` if there is no map to read, or more
    files than can be read. `-` is standard input, with what is beside it in the current folder."""
    if path.is_dir():
        raise UsageError(f"{path} is a folder. Name the map in it, such as {path / 'site.yaml'}.")
    if path.exists() and not path.is_file():
        raise UsageError(f"{path} is not a file. Save the map as one, and name that.")  # a device may never end
    try:
        most = limits.TEXT_BYTES + 1  # of more a finding says so
        if path == STANDARD_INPUT:
            data = sys.stdin.buffer.read(most)
        else:
            with path.open("rb") as opened:
                data = opened.read(most)
    except OSError as error:
        raise UsageError(f"{path} cannot be read: {error.strerror}.") from error
    contents: dict[str, Content] = {}
    findings: list[Finding] = []
    for name, file in _entries(path.parent, FOLDER, findings):
        if file.suffix in SUFFIXES:
            _take(name, file, contents, findings)
    files = _files(path.parent, findings)
    return Source(str(path), data, contents, tuple(findings), files.with_heads(contents))


def unread_files(findings: Iterable[Finding]) -> tuple[str, ...]:
    """The files and folders of a built site that could not be read beside the map, by their names in the site; empty
    for its top."""
    names = (finding.file for finding in findings if finding.code == site_rules.FILE_UNREAD.code)
    return tuple(name.removeprefix(PUBLIC).removeprefix("/") for name in names if f"{name}/".startswith(f"{PUBLIC}/"))


def read_file(path: Path, most: int) -> bytes:
    """The bytes of a file. Raises ``UsageError`` for what is no file, cannot be read, or has more than ``most``."""
    if not path.is_file():
        raise UsageError(f"{path} is not a file.")
    try:
        with path.open("rb") as file:
            data = file.read(most + 1)
    except OSError as error:
        raise UsageError(f"{path} cannot be read: {error.strerror}.") from error
    if len(data) > most:
        raise UsageError(f"{path} has more than {most // 1_000_000} MB. Use a part of it.")
    return data


def _files(folder: Path, findings: list[Finding]) -> Files:
    """The files in the folders beside a map that are read. What lies behind a link out of the folder is not."""
    found: dict[str, bytes] = {}
    if (folder / OLD_LAYOUTS).is_dir():
        message = f"The folder `{OLD_LAYOUTS}` is called `{LAYOUTS}` now, so its files are not read."
        remedy = f"Move them into `{LAYOUTS}`." if (folder / LAYOUTS).exists() else f"Rename it to `{LAYOUTS}`."
        findings.append(Finding(site_rules.OLD_WORD, message, remedy, file=OLD_LAYOUTS))
    total, host = 0, _application_in(folder)
    read = [name for name in FOLDERS if not (host and name in _OF_APPLICATIONS)]
    for name in FOLDERS:
        if name not in read and (folder / name).is_dir():
            message = f"The folder `{name}` beside {host} belongs to the application, and is not read."
            rule = site_rules.OF_APPLICATION
            findings.append(Finding(rule, message, rule.remedy, file=name))
    for name, path in (entry for folder_name in read for entry in _entries(folder, folder_name, findings)):
        is_public = name.startswith(PUBLIC + "/")
        if path.name.startswith(".") and (not is_public or _UNFINISHED in path.name):
            continue
        problem = ""
        if not is_file_name(name):
            others = "what every file system takes" if is_public else "letters, digits, `.`, `_` and `-`"
            problem = f"its name has other characters than {others}"
        elif path.stat().st_size > limits.FILE_BYTES:
            problem = f"it has more than {limits.FILE_BYTES:,} bytes"
        elif total + path.stat().st_size > limits.ALL_FILES_BYTES or len(found) >= limits.FILES:
            # Nothing is made of a part: the rest would be missing on the site, and be deleted where it is live.
            most = f"{limits.FILES:,} files or {limits.ALL_FILES_BYTES // 1024 // 1024:,} MB"
            raise UsageError(
                f"Beside {folder / 'site.yaml'} there are more than {most}, and a part of them makes no site. Serve "
                "large files from elsewhere."
            )
        if not problem:
            try:
                found[name] = path.read_bytes()
                total += len(found[name])
            except OSError as error:
                problem = error.strerror or "it cannot be read"
        if problem:
            findings.append(_left_out(name, problem))
    return Files(found)


_OF_APPLICATIONS = (PUBLIC, "parts", "templates")
"""Folders beside a map that applications have too."""
_MARKS = ("manage.py", "app.py", "wsgi.py", "asgi.py", "server.js", "server.ts", "composer.json", "index.php")
"""Files by which a folder is that of an application."""


def _application_in(folder: Path) -> str:
    """The file by which a folder is that of an application; empty for one that is not. A package of front-end tools is
    none: those are no dependencies of what runs."""
    found = next((name for name in _MARKS if (folder / name).is_file()), "")
    package = folder / "package.json"
    if found or not package.is_file():
        return found
    try:
        said = json.loads(package.read_bytes()[: limits.FILE_BYTES])
    except (OSError, ValueError, RecursionError):
        return package.name
    return package.name if isinstance(said, dict) and said.get("dependencies") else ""


def _entries(root: Path, name: str, findings: list[Finding]) -> Iterator[tuple[str, Path]]:
    """Every file in a folder below ``root``, by its name from there. Symbolic links are not followed: what lies behind
    one is a finding."""
    path = root / name
    if path.is_symlink():
        findings.append(_left_out(name, "it is a symbolic link, which is not followed", "Put what it leads to there."))
    elif name.startswith(PUBLIC + "/") and path.name in NEVER_PUBLIC:
        findings.append(_left_out(name, "such files are never meant to be published", f"Remove it from `{PUBLIC}`."))
    elif path.is_dir():
        if name.count("/") > _DEEPEST:
            findings.append(_left_out(name, f"it is more than {_DEEPEST} folders down", "Move it further up."))
            return
        try:
            entries = sorted(os.listdir(path))
        except OSError as error:
            findings.append(_left_out(name, f"the folder cannot be read ({error.strerror})"))
            return
        for entry in entries:
            yield from _entries(root, f"{name}/{entry}", findings)
    elif path.is_file():
        yield name, path


def _left_out(name: str, problem: str, remedy: str = "") -> Finding:
    rule = site_rules.FILE_UNREAD
    return Finding(rule, printable(f"The file is left out: {problem}."), remedy or rule.remedy, file=printable(name))


def _take(name: str, file: Path, contents: dict[str, Content], findings: list[Finding]) -> None:
    key = key_of(name)
    if key is None:
        return
    if not is_content_name(name):
        findings.append(_left_out(name, "no page can have a text of this name"))
        return
    try:
        if file.stat().st_size > limits.FILE_BYTES:
            findings.append(_left_out(name, f"it has more than {limits.FILE_BYTES:,} bytes"))
            return
        data = file.read_bytes()
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        before = data[: error.start].decode("utf-8", "replace")
        line, column, _ = Lines.of(before).place(len(before))
        message = f"The byte 0x{data[error.start]:02x} here is not UTF-8."
        findings.append(Finding(site_rules.CONTENT_NOT_UTF8, message, "Save the file as UTF-8.", line, column, name))
        return
    except OSError as error:
        findings.append(
            Finding(site_rules.CONTENT_NOT_UTF8, f"The file cannot be read: {error.strerror}.", "Fix it.", file=name)
        )
        return
    if key in contents:
        message = f"The page `{key}` has content in {contents[key].name} already."
        findings.append(Finding(site_rules.CONTENT_UNUSED, message, "Delete one of the two files.", file=name))
        return
    contents[key] = Content(name, text.replace("\r\n", "\n"))


def read_files(folder: Path) -> Iterator[File]:
    """Every file of a built folder, as it lies on the disk."""
    for path in sorted(folder.rglob("*")):
        if path.is_file() and path.name != MARKER:
            yield File(path.relative_to(folder).as_posix(), path.read_bytes())


OWNERS_MARK = ".basilica-folder"
"""An empty file by which a person opens a folder of theirs, and those in it, to paths that are typed in a browser."""


def must_be_opened(path: Path, data: Path) -> None:
    """Raises ``UsageError`` for a path that was typed in a browser and that the account of this process has not opened:
    one outside the ``data`` folder, in a folder that has no mark of the same account. Whoever reaches the application
    is not known to be that account, though both are on one machine."""
    real = Path(os.path.realpath(path))
    if real.is_relative_to(os.path.realpath(data)):
        return
    folder = path.parent if path.is_file() else path
    for above in (real, *real.parents):
        with suppress(OSError):
            mark = (above / OWNERS_MARK).lstat()
            if stat.S_ISREG(mark.st_mode) and mark.st_uid == os.geteuid():
                return
    raise UsageError(
        f"{path} is not open to paths that are typed here, since anybody on this machine can type one. To open the "
        f"folder, and those in it, run: touch {shlex.quote(str(folder / OWNERS_MARK))}"
    )


def place_in(root: Path, name: str) -> Path:
    """Where a file of this name stands below a folder. Raises ``UsageError`` where the name leads out of it, or where a
    symbolic link stands on the way: what is read and written is what lies in the folder itself."""
    path = str(root)
    for piece in name.split("/"):
        if piece in ("", ".", "..") or "\0" in piece:
            raise UsageError(f"`{name}` leads out of the folder {root}, so nothing was read or written there.")
        path = os.path.join(path, piece)
        if os.path.islink(path):
            raise UsageError(f"{path} is a symbolic link, which is not followed. Put the file itself there.")
    return Path(path)


def must_be_new(out: Path) -> None:
    """Raises ``UsageError`` for a folder that has something in it."""
    if out.exists() and (not out.is_dir() or any(out.iterdir())):
        raise UsageError(f"{out} is there already, and is not empty. Name a new folder.")


def write_atomically(path: Path, data: bytes, unless: str = "") -> None:
    """Write a file in one step: whoever reads it has the old bytes or the new ones, also after a power cut. Raises
    ``UsageError`` where it cannot be written; ``unless`` is what it says beside that."""
    path = Path(os.path.realpath(path))
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        _sweep_once(path.parent)
        begins = f".{path.name[:80]}.{os.getpid()}-"
        number, beside = tempfile.mkstemp(dir=path.parent, prefix=begins, suffix=_UNFINISHED)
        try:
            with os.fdopen(number, "wb") as target:
                target.write(data)
                target.flush()
                os.fsync(target.fileno())
            os.chmod(beside, path.stat().st_mode & 0o777 if path.exists() else 0o644)
            os.replace(beside, path)
        except BaseException:
            os.unlink(beside)
            raise
    except OSError as error:
        raise UsageError(f"{path} cannot be written: {error.strerror}. {unless}".rstrip()) from error


_UNFINISHED = ".basilica-unfinished"
_swept: set[Path] = set()


def _sweep_once(folder: Path) -> None:
    """Remove the temporary files of runs that were killed; once for each folder, since looking costs."""
    if folder not in _swept:
        _swept.add(folder)
        sweep(folder)


def sweep(folder: Path, below: bool = False) -> None:
    """Remove the temporary files of runs that were killed, in a folder and, if asked for, in those ``below`` it."""
    pattern = f".*{_UNFINISHED}"
    for left in folder.rglob(pattern) if below else folder.glob(pattern):
        number = left.name.removesuffix(_UNFINISHED).rpartition("-")[0].rpartition(".")[2]
        if number.isdigit() and not is_alive(int(number)):
            with suppress(OSError):  # where nothing can be written, nothing can be removed
                left.unlink(missing_ok=True)


def remove(path: Path, up_to: Path) -> None:
    """Remove a file, and the folders above it that are empty then, up to a folder that stays."""
    path.unlink(missing_ok=True)
    for parent in path.parents:
        if parent == up_to or not parent.is_relative_to(up_to) or any(parent.iterdir()):
            return
        parent.rmdir()


def is_alive(process: int) -> bool:
    """Whether another process of this number runs."""
    try:
        os.kill(process, 0)
    except ProcessLookupError:
        return False
    except OSError:
        return True
    return process != os.getpid()
