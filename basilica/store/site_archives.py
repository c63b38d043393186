"""The files of a site that exists: of a folder on this machine, or of an archive that somebody sent, which is hostile
until it is read."""

from __future__ import annotations

import io
import os
import zipfile
import zlib
from collections.abc import Iterator
from pathlib import Path

from basilica.core.rules import limits
from basilica.core.shared.output_file import File
from basilica.store.errors import UsageError

_LEFT_OUT = frozenset([".git", ".hg", ".svn", "__MACOSX", "node_modules"])
_DEEPEST = 30
_PACKED_TIMES = 200
"""So many times a text can shrink in an archive; more is made to fill memory."""


def read_site(path: Path) -> tuple[File, ...]:
    """The files of a site in a folder, or in a ZIP archive. Raises ``UsageError`` where it cannot be read, or is larger
    than can be brought in."""
    if path.is_dir():
        return _checked(_of_folder(path))
    if not path.is_file():
        raise UsageError(f"{path} is neither a folder nor a ZIP archive.")
    try:
        if path.stat().st_size > limits.ALL_IMPORTED_BYTES:
            raise UsageError(f"{path} has more than {limits.ALL_IMPORTED_BYTES:,} bytes.")
        return read_archive(path.read_bytes())
    except OSError as error:
        raise UsageError(f"{path} cannot be read: {error.strerror}.") from error


def read_archive(data: bytes) -> tuple[File, ...]:
    """The files in a ZIP archive, without the one folder that may hold all of them. Raises ``UsageError`` for what is
    none, is locked, leads out of itself, or is larger than can be brought in."""
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            entries = [entry for entry in archive.infolist() if not entry.is_dir()]
            if len(entries) > limits.IMPORTED_FILES:
                raise UsageError(f"The archive has more than {limits.IMPORTED_FILES:,} files.")
            files = _checked(_of_archive(archive, entries, len(data)))
    except (zipfile.BadZipFile, zlib.error, NotImplementedError, EOFError, ValueError) as error:
        raise UsageError("This is not a ZIP archive that can be read. Pack the site's folder again.") from error
    except RuntimeError as error:  # as the standard library says that a password is asked for
        raise UsageError("The archive is locked with a password. Pack the site's folder again without one.") from error
    tops = {file.path.partition("/")[0] for file in files if "/" in file.path}
    if len(tops) == 1 and all("/" in file.path for file in files):
        return tuple(File(file.path.partition("/")[2], file.data) for file in files)
    return files


def _of_archive(archive: zipfile.ZipFile, entries: list[zipfile.ZipInfo], size: int) -> Iterator[File]:
    for entry in entries:
        name = entry.filename
        pieces = name.split("/")
        if not _LEFT_OUT.isdisjoint(pieces):
            continue
        if name.startswith("/") or "\\" in name or ":" in pieces[0] or not {"", ".", ".."}.isdisjoint(pieces):
            raise UsageError(f"The archive has the name `{name[:80]}`, which leads out of it.")
        if (entry.external_attr >> 16) & 0o170000 == 0o120000:
            continue  # a symbolic link, which is not followed
        if entry.file_size > max(1_000_000, size * _PACKED_TIMES):
            raise UsageError(f"`{name[:80]}` in the archive would be far larger than the archive. It was not unpacked.")
        with archive.open(entry) as opened:
            data = opened.read(limits.FILE_BYTES + 1)  # of a larger one, no more than shows that it is
        yield File(name, data)


def _of_folder(folder: Path) -> Iterator[File]:
    for root, folders, names in os.walk(folder):
        folders[:] = sorted(name for name in folders if name not in _LEFT_OUT and not (Path(root) / name).is_symlink())
        beside = Path(root).relative_to(folder).as_posix()
        for name in sorted(names):
            path = os.path.join(root, name)
            if os.path.islink(path) or not os.path.isfile(path):
                continue
            try:
                with open(path, "rb") as opened:
                    data = opened.read(limits.FILE_BYTES + 1)
            except OSError as error:
                raise UsageError(f"{path} cannot be read: {error.strerror}.") from error
            yield File(name if beside == "." else f"{beside}/{name}", data)


def _checked(files: Iterator[File]) -> tuple[File, ...]:
    """The files, as long as they are neither too many, nor too large, nor too deep."""
    found: list[File] = []
    total = 0
    for file in files:
        total += len(file.data)
        if len(file.data) > limits.FILE_BYTES:
            raise UsageError(f"`{file.path[:80]}` has more than {limits.FILE_BYTES:,} bytes. Remove it first.")
        if file.path.count("/") > _DEEPEST:
            raise UsageError(f"`{file.path[:80]}` is more than {_DEEPEST} folders down.")
        if total > limits.ALL_IMPORTED_BYTES or len(found) >= limits.IMPORTED_FILES:
            most = f"{limits.IMPORTED_FILES:,} files or {limits.ALL_IMPORTED_BYTES:,} bytes"
            raise UsageError(f"The site has more than {most}. Bring in a part of it.")
        found.append(file)
    return tuple(found)
