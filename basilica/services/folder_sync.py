"""Sites whose truth is a folder: what is saved there comes in, what is edited here goes out, and where both changed
nothing is lost.

For each file it is known what it was when the folder and the site were last the same. What differs from that here goes
out, what differs there comes in; where something comes in over what was edited here, that becomes a version first. A
folder that is gone, or is another one than before, is never written to and nothing of it is taken: the person decides.
"""

from __future__ import annotations

import threading
from collections import defaultdict
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass
from pathlib import Path

from basilica.core.map.map_files import FOLDERS, Files
from basilica.core.plan.content_links import FOLDER, Content, key_of
from basilica.services.compiled_maps import CompiledMaps
from basilica.store.blobs import digest
from basilica.store.errors import UsageError
from basilica.store.folders import place_in, read_source, remove, sweep, write_atomically
from basilica.store.records import SiteRecord
from basilica.store.sites import Sites

MAP = "site.yaml"
_CHANGED = "What was here when the folder changed too"
_Texts = Mapping[str, bytes]
"""The map, the content and the files of a site, by their names in a folder."""
_Signature = tuple[tuple[str, int, int], ...]


@dataclass(frozen=True, slots=True)
class FolderProblem:
    """Why a site and its folder are not the same. Where there are ``choices`` (`take`, `write` and `part`), the two
    stay apart until the person has made one."""

    message: str
    choices: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class _Folder:
    """What stands in a folder; ``unread`` are names of files there that could not be taken as they are."""

    texts: _Texts
    unread: frozenset[str]
    identity: tuple[int, int]

    def is_unread(self, name: str) -> bool:
        """Whether a file, or a folder above it, could not be read: then it is not gone."""
        above = name.split("/")
        return any("/".join(above[:depth]) in self.unread for depth in range(1, len(above) + 1))


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

    def __init__(self, sites: Sites, maps: CompiledMaps) -> None:
        self._sites, self._maps = sites, maps
        self._seen: dict[str, _Signature] = {}
        self._identities: dict[str, tuple[int, int]] = {}
        self._problems: dict[str, FolderProblem] = {}
        self._locks: defaultdict[str, threading.RLock] = defaultdict(threading.RLock)
        """One for each site, so that a slow folder makes no other site wait."""

    def adopt(self, folder: Path) -> SiteRecord:
        """Open the site of a folder: the one it had before, or a new one. Raises ``UsageError``."""
        known = self._sites.of_folder(str(folder))
        if known:
            return self.look(known)
        there = _read(folder)
        text = there.texts[MAP].decode()
        contents, files = _beside(there.texts)
        plan = self._maps.compiled(text, files).plan
        name = plan.site.name if plan and plan.site.named else folder.name
        with self._sites.database.write():
            record = self._sites.make(name, text, contents, f"As it was found in {folder}", str(folder), files)
            self._sites.same(record.slug, _digests(there.texts))
        return record

    def problem(self, record: SiteRecord) -> FolderProblem | None:
        """Why a site and its folder are not the same, as was found when it was last looked at; None where they are."""
        return self._problems.get(record.slug) if record.folder is not None else None

    def look(self, record: SiteRecord) -> SiteRecord:
        """The site as it stands once what was saved in its folder has come in, and what was not written there yet has
        gone out."""
        if record.folder is None:
            return record
        with self._locks[record.slug]:
            signature = _signature(Path(record.folder))
            if self._seen.get(record.slug) == signature and record.slug not in self._problems:
                return self._sites.get(record.slug)
            self._bring_together(self._sites.get(record.slug))
            return self._sites.get(record.slug)

    def change(self, record: SiteRecord, act: Callable[[], SiteRecord]) -> SiteRecord:
        """Do something to a site: here in one transaction, whole or not at all, and then in its folder. What was saved
        there meanwhile comes in first, so that it is not lost. Where the folder cannot be written the site is changed
        all the same, and `problem` says so. Raises what ``act`` raises, and then nothing was changed."""
        with self._locks[record.slug]:
            self.look(record)
            with self._sites.database.write():
                changed = act()
            return self._sent(changed)

    # What the person decides where a folder is gone, or is another

    def write_anew(self, record: SiteRecord) -> None:
        """Write all of a site to its folder, which is made where it is gone. Raises ``UsageError`` where it cannot."""
        if record.folder is None:
            return
        with self._locks[record.slug]:
            folder = Path(record.folder)
            write_atomically(folder / MAP, record.text.encode())
            self._identities.pop(record.slug, None)
            there, here = _read(folder), self._texts(record.slug)
            # As if what both have had changed here alone: it goes out, and what only the folder has comes in.
            known = {name: digest for name, digest in _digests(there.texts).items() if name in here}
            self._sites.same(record.slug, known)
            self._sent(record)

    def take_over(self, record: SiteRecord) -> SiteRecord:
        """Take what stands in a folder that is another than before; what is here becomes a version. Raises
        ``UsageError`` where it cannot be read."""
        if record.folder is None:
            return record
        with self._locks[record.slug]:
            there = _read(Path(record.folder))
            with self._sites.database.write():
                if not record.is_saved:
                    self._sites.save_version(record.slug, record.revision, _CHANGED)
                self._take(record.slug, there.texts, _digests(there.texts))
            self._identities.pop(record.slug, None)
            return self._sent(self._sites.get(record.slug))

    def part(self, record: SiteRecord) -> None:
        """Keep a site here alone from now on; its folder is left as it is."""
        with self._locks[record.slug]:
            self._sites.part(record.slug)
            for known in (self._seen, self._identities, self._problems):
                known.pop(record.slug, None)

    def _sent(self, record: SiteRecord) -> SiteRecord:
        if record.folder is not None:
            self._bring_together(record)
        return self._sites.get(record.slug)

    def _bring_together(self, record: SiteRecord) -> None:
        """Bring in what changed in the folder, and write there what changed here."""
        slug, folder = record.slug, Path(record.folder or "")
        self._problems.pop(slug, None)
        if slug not in self._identities:
            for name in (FOLDER, *FOLDERS):
                sweep(folder / name, below=True)
            sweep(folder)
        try:
            there = _read(folder)
        except UsageError as error:
            self._problems[slug] = FolderProblem(str(error), () if (folder / MAP).is_file() else ("write", "part"))
            return
        here, base = self._texts(slug), self._sites.digests_of(slug)
        ours, theirs = _digests(here), _digests(there.texts)
        if self._identities.setdefault(slug, there.identity) != there.identity and theirs != base:
            message = f"{folder} is another folder than before, and what is in it differs."
            self._problems[slug] = FolderProblem(message, ("take", "write", "part"))
            return
        self._identities[slug] = there.identity
        names = [name for name in {**ours, **theirs} if name not in there.unread]
        incoming = [
            name for name in names if ours.get(name) != theirs.get(name) != base.get(name) and not there.is_unread(name)
        ]
        outgoing = [name for name in names if ours.get(name) != theirs.get(name) == base.get(name)]
        if incoming:
            left = {name: text for name, text in here.items() if name not in incoming}
            with self._sites.database.write():
                if self._sites.edited_here(slug):
                    self._sites.save_version(slug, self._sites.get(slug).revision, _CHANGED)
                self._take(slug, left | {name: there.texts[name] for name in incoming if name in there.texts}, base)
        same = {name: digest for name, digest in base.items() if there.is_unread(name) or name in outgoing}
        same |= {name: digest for name, digest in theirs.items() if name not in outgoing}
        try:
            # What is new first, then the map, which may name it, and what is gone last.
            for name in sorted(outgoing, key=lambda name: (name not in here, name == MAP, name)):
                self._put(folder, name, here.get(name))
                same.pop(name, None)
                same |= {name: ours[name]} if name in ours else {}
        except UsageError as error:
            message = f"{error} What you typed is kept here, and is written there once it can be."
            self._problems[slug] = FolderProblem(message)
        finally:
            if same != base:
                self._sites.same(slug, same)
        self._seen[slug] = _signature(folder)

    def _texts(self, slug: str) -> _Texts:
        texts = {content.name: content.text.encode() for content in self._sites.contents(slug).values()}
        return {MAP: self._sites.get(slug).text.encode(), **texts, **self._sites.files(slug)}

    def _take(self, slug: str, texts: _Texts, digests: Mapping[str, str]) -> None:
        text = texts[MAP].decode()
        contents, files = _beside(texts)
        self._sites.take(slug, text, not self._maps.compiled(text, files).stops, contents, files)
        self._sites.same(slug, digests)

    @staticmethod
    def _put(folder: Path, name: str, data: bytes | None) -> None:
        path = place_in(folder, name)
        if data is not None:
            write_atomically(path, data)
        else:
            remove(path, folder / name.partition("/")[0])


def _read(folder: Path) -> _Folder:
    """What stands in a folder. Raises ``UsageError`` where there is no map that can be read."""
    if not folder.is_dir():
        raise UsageError(f"The folder {folder} is not there. What you type is kept here.")
    if not (folder / MAP).is_file():
        raise UsageError(f"There is no {MAP} in {folder}. What you type is kept here.")
    stat = folder.stat()
    source = read_source(place_in(folder, MAP))
    try:
        source.map.decode()
    except UnicodeDecodeError as error:
        raise UsageError(f"{folder / MAP} is not UTF-8. Save it as UTF-8. What you type is kept here.") from error
    texts = {content.name: content.text.encode() for content in source.contents.values()}
    unread = frozenset(finding.file for finding in source.findings)
    return _Folder({MAP: source.map, **texts, **source.files}, unread, (stat.st_dev, stat.st_ino))


def _beside(texts: _Texts) -> tuple[dict[str, Content], Files]:
    """The content and the files among the texts of a site."""
    contents = {
        key: Content(name, text.decode())
        for name, text in texts.items()
        if name.startswith(FOLDER + "/") and (key := key_of(name)) is not None
    }
    files = Files({name: data for name, data in texts.items() if name.partition("/")[0] in FOLDERS})
    return contents, files.with_heads(contents)


def _digests(texts: _Texts) -> dict[str, str]:
    return {name: digest(data) for name, data in texts.items()}


def _signature(folder: Path) -> _Signature:
    """What tells, without reading them, whether files changed."""

    def stats(paths: Iterable[Path]) -> Iterable[tuple[str, int, int]]:
        for path in paths:
            try:
                stat = path.stat()
            except OSError:
                continue
            yield str(path), stat.st_mtime_ns, stat.st_size

    try:
        itself = folder.stat().st_ino
    except OSError:
        itself = 0
    beside = (path for name in (FOLDER, *FOLDERS) for path in sorted((folder / name).rglob("*")))
    return (("", itself, 0), *stats([folder / MAP, *beside]))
