"""Sites whose truth is a folder: what is saved there comes in, what is edited here goes out, and where both changed
nothing is lost."""

from __future__ import annotations

import threading
from collections.abc import Iterable
from pathlib import Path

from basilica.core.map.map_files import FOLDERS, Files
from basilica.core.pipeline import compile_map
from basilica.core.plan.content_links import FOLDER, Contents
from basilica.store.contents import Moves
from basilica.store.folders import Source, UsageError, read_source, remove, write_atomically
from basilica.store.sites import Rewrite, SiteRecord, Sites

MAP = "site.yaml"
_KEPT = "What you typed is kept here."
_Beside = tuple[Contents, Files]
_Signature = tuple[tuple[str, int, int], ...]


def sites_in(folder: Path) -> list[Path]:
    """The folders of the sites in ``folder``: itself where it has a map, else those right below it that have one.
    Raises ``UsageError`` where there is none."""
    if (folder / MAP).is_file():
        return [folder.resolve()]
    found = sorted(path.parent.resolve() for path in folder.glob(f"*/{MAP}")) if folder.is_dir() else []
    if not found:
        raise UsageError(f"There is no {MAP} in {folder}, nor in a folder right below it.")
    return found


class FolderSync:
    """Keeps the sites of folders and their folders the same."""

    def __init__(self, sites: Sites) -> None:
        self._sites = sites
        self._seen: dict[str, _Signature] = {}
        self._lock = threading.RLock()

    def adopt(self, folder: Path) -> SiteRecord:
        """Open the site of a folder: the one it had before, or a new one. Raises ``UsageError``."""
        known = self._sites.of_folder(str(folder))
        if known:
            return self.look(known)
        source = read_source(folder / MAP)
        text = _decoded(source.map, folder)
        plan = compile_map(text, source.files).plan
        name = plan.site.name if plan and plan.site.named else folder.name
        note = f"As it was found in {folder}"
        return self._sites.make(name, text, source.contents, note, str(folder), source.files)

    def look(self, record: SiteRecord) -> SiteRecord:
        """The site as it stands once what was saved in its folder has come in. A map that is gone, or cannot be read
        as text, does not come in."""
        if record.folder is None:
            return record
        folder = Path(record.folder)
        with self._lock:
            signature = _signature(folder)
            record = self._sites.get(record.slug)
            if self._seen.get(record.slug) == signature:
                return record
            try:
                source = read_source(folder / MAP)
                there = _decoded(source.map, folder)
            except UsageError:
                return record
            synced = self._sites.synced(record.slug)
            if there == synced and record.text != synced:
                write_atomically(folder / MAP, record.text.encode(), _KEPT)  # an edit cut off before it went out
                self._sites.wrote(record.slug, record.text)
            elif there != synced and record.text not in (synced, there):
                self._sites.save_version(record.slug, record.revision, "What was here when the folder changed too")
                record = self._take(record.slug, there, source)
            else:
                record = self._take(record.slug, there, source)
            self._seen[record.slug] = _signature(folder)
            return self._sites.get(record.slug)

    def _take(self, slug: str, text: str, source: Source) -> SiteRecord:
        good = not compile_map(text, source.files).stops
        return self._sites.take(slug, text, good, source.contents, source.files)

    def save(
        self,
        record: SiteRecord,
        text: str,
        revision: int,
        good: bool,
        moves: Moves,
        rewrite: Rewrite,
    ) -> SiteRecord:
        """Save here and in the folder. What was saved there meanwhile comes in first, so that it is not lost: then
        ``Conflict`` is raised."""
        with self._lock:
            self.look(record)
            before = self._now(record)
            saved = self._sites.save(record.slug, text, revision, good, moves, rewrite)
            if record.folder is not None and saved.text == text:
                self._put(Path(record.folder), saved, before)
            return saved

    def write(self, record: SiteRecord, key: str, text: str, was: str, suffix: str | None = None) -> SiteRecord:
        """Save the content of a page here and in the folder. Raises what ``Sites.write`` does."""
        with self._lock:
            self.look(record)
            before = self._now(record)
            saved = self._sites.write(record.slug, key, text, was, suffix)
            if record.folder is not None:
                self._put(Path(record.folder), saved, before)
            return saved

    def put_file(self, record: SiteRecord, name: str, data: bytes | None, was: str | None) -> SiteRecord:
        """Put a file here and in the folder. Raises what ``Sites.put_file`` does."""
        with self._lock:
            self.look(record)
            before = self._now(record)
            saved = self._sites.put_file(record.slug, name, data, was)
            if record.folder is not None:
                self._put(Path(record.folder), saved, before)
            return saved

    def _now(self, record: SiteRecord) -> _Beside:
        return self._sites.contents(record.slug), self._sites.files(record.slug)

    def put(self, record: SiteRecord) -> None:
        """Write a site to its folder as it stands, such as after going back."""
        if record.folder is not None:
            with self._lock:
                source = read_source(Path(record.folder) / MAP)
                self._put(Path(record.folder), record, (source.contents, source.files))

    def _put(self, folder: Path, record: SiteRecord, beside: _Beside) -> None:
        before, files_before = beside
        contents, files = self._now(record)
        for name in files:
            if name not in files_before or files_before.sum(name) != files.sum(name):
                write_atomically(folder / name, files[name], _KEPT)
        for name in files_before:
            if name not in files:
                remove(folder / name, folder / name.partition("/")[0])
        if self._sites.synced(record.slug) != record.text:
            write_atomically(folder / MAP, record.text.encode(), _KEPT)
            self._sites.wrote(record.slug, record.text)
        for key, content in contents.items():
            if before.get(key) != content:
                write_atomically(folder / content.name, content.text.encode(), _KEPT)
        kept = {content.name for content in contents.values()}
        for content in before.values():
            if content.name not in kept:
                remove(folder / content.name, folder / FOLDER)
        self._seen[record.slug] = _signature(folder)


def _decoded(data: bytes, folder: Path) -> str:
    try:
        return data.decode("utf-8")
    except UnicodeDecodeError as error:
        raise UsageError(f"{folder / MAP} is not UTF-8. Save it as UTF-8.") from error


def _signature(folder: Path) -> _Signature:
    """What tells, without reading them, whether files changed."""

    def stats(paths: Iterable[Path]) -> Iterable[tuple[str, int, int]]:
        for path in paths:
            try:
                stat = path.stat()
            except OSError:
                continue
            yield str(path), stat.st_mtime_ns, stat.st_size

    beside = (path for name in (FOLDER, *FOLDERS) for path in sorted((folder / name).rglob("*")))
    return tuple(stats([folder / MAP, *beside]))
