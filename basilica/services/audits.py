"""A built folder as it lies on the disk, whoever built it."""

from __future__ import annotations

import os
import stat
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from fnmatch import fnmatchcase
from pathlib import Path

from basilica.core.exchange.site_import import analyse
from basilica.core.exchange.site_import.drift_findings import DIFFERS_FROM_MOST, SAID_TWICE, drift_findings
from basilica.core.exchange.site_import.old_page import can_be_compared, is_page
from basilica.core.findings import CheckResults, run_checks
from basilica.core.findings.on_source import source_findings
from basilica.core.findings.source_places import SourcePlaces
from basilica.core.map.site import Base
from basilica.core.rules import limits
from basilica.core.rules.finding import Finding
from basilica.core.shared.output_file import File
from basilica.core.site_reader import BuiltSite, Resolver, SiteReader
from basilica.store.errors import UsageError
from basilica.store.folders import place_in

_READ = (".html", ".htm", ".css", ".xml")
"""Files whose text is read; of others only that they are there, and how large."""


@dataclass(frozen=True, slots=True)
class FoundFile:
    """A file of the folder: its path from there, and its size in bytes."""

    path: Path
    name: str
    size: int
    is_link: bool = False
    """Whether it is a symbolic link: that it is there is known, and it is not followed."""

    @property
    def is_read(self) -> bool:
        """Whether its text matters. What is larger than any page is only listed."""
        return not self.is_link and self.name.lower().endswith(_READ) and self.size <= limits.FILE_BYTES

    def read(self) -> File:
        """The file with its bytes. Raises ``UsageError`` where it cannot be read."""
        try:
            return File(self.name, self.path.read_bytes())
        except OSError as error:
            raise UsageError(f"{self.path} cannot be read: {error.strerror}.") from error


def read_files_of(files: Iterable[FoundFile], reader: SiteReader, step: Callable[[], None]) -> BuiltSite:
    """Read the files of a folder, one after the other, calling ``step`` after each. Raises ``UsageError``."""
    for file in files:
        if file.is_read:
            reader.add(file.read())
        else:
            reader.lists(file.name, file.size)
        step()
    return reader.done()


@dataclass(frozen=True, slots=True)
class FolderAudit:
    """What is said of a folder: by the checks that need no map, and of its pages as they are written and beside one
    another."""

    results: CheckResults
    of_pages: tuple[Finding, ...]

    @property
    def findings(self) -> tuple[Finding, ...]:
        """All of it."""
        return (*self.results.findings(None), *self.of_pages)


def audit_folder(
    folder: Path,
    files: Sequence[FoundFile],
    base: Base | None = None,
    served: Iterable[str] = (),
    step: Callable[[], None] = lambda: None,
) -> FolderAudit:
    """Audit a folder whose ``files`` are known. ``base`` is where the site lives, if that is known, and ``served`` are
    addresses that other code answers. Raises ``UsageError``."""
    results = run_checks(read_files_of(files, SiteReader(None, base=base, served=tuple(served)), step))
    results = results.read_again(SourcePlaces(_reading(folder)))
    said = _of_pages(files, base, results.built.resolver)
    differing = {one.built for one in said if one.rule is DIFFERS_FROM_MOST}
    return FolderAudit(results.without(SAID_TWICE, differing), said)


def _of_pages(files: Iterable[FoundFile], base: Base | None, resolver: Resolver) -> tuple[Finding, ...]:
    """What is said of pages as they are written, and of those that differ from what most of a folder have; the latter
    only where they are not too many to be compared."""
    read = tuple(file.read() if file.is_read else File(file.name, b"") for file in files)
    site = analyse(read, base) if can_be_compared(read) else None
    differing = drift_findings(site) if site is not None else ()
    return differing + source_findings((file for file in read if is_page(file)), resolver)


def _reading(folder: Path) -> Callable[[str], bytes | None]:
    """What reads a file of a folder again, by its name."""

    def read(name: str) -> bytes | None:
        try:
            return place_in(folder, name).read_bytes()
        except (OSError, UsageError):
            return None

    return read


def is_reported(file: str, include: Sequence[str], exclude: Sequence[str]) -> bool:
    """Whether a report has what is said of a file: with patterns of names to ``include``, such as `manual/*`, only of
    those that fit one, and never of those that fit one to ``exclude``."""
    fits = not include or any(fnmatchcase(file, pattern) for pattern in include)
    return fits and not any(fnmatchcase(file, pattern) for pattern in exclude)


def built_files(folder: Path) -> list[FoundFile]:
    """Every file in a folder, in order, but for hidden ones. Raises ``UsageError`` where there is no such folder."""
    if not folder.is_dir():
        raise UsageError(f"There is no folder {folder}.")
    found = []
    for above, folders, names in os.walk(folder):
        folders[:] = sorted(name for name in folders if not name.startswith("."))
        for name in sorted(names):
            path = Path(above, name)
            try:
                state = path.lstat()
            except OSError:
                continue
            is_link = stat.S_ISLNK(state.st_mode)
            if not name.startswith(".") and (is_link or stat.S_ISREG(state.st_mode)):
                found.append(FoundFile(path, path.relative_to(folder).as_posix(), state.st_size, is_link))
    return sorted(found, key=lambda each: each.name)
