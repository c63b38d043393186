"""The pages of sites that stayed where they were, as the application sets maps into them, in the background."""

from __future__ import annotations

import secrets
import shutil
import threading
from dataclasses import dataclass
from pathlib import Path

from cachetools import LRUCache

from basilica.core.compile import compile_map
from basilica.core.map.map_files import Files
from basilica.core.plan import Plan
from basilica.services.compiled_maps import CompiledMaps
from basilica.services.inlays import FolderInlay, InlayReport, files_with, names_below, pages_folder
from basilica.services.job_queue import Job, JobQueue, Stopped
from basilica.services.site_stays import SiteStay, undo_stay, write_stay
from basilica.store.errors import UsageError
from basilica.store.records import NotFound, SiteRecord
from basilica.store.sites import Sites

_KEPT = 8
_SHOWN = 500
"""Pages whose bytes a run keeps, to be shown line by line."""
_STAYS = "stays"
"""The folder of what sites were before they got their marks, in that of the data."""


@dataclass(frozen=True, slots=True)
class InlayRun:
    """A run: the site, the folder, what was found there, and whether it was written."""

    slug: str
    folder: Path
    report: InlayReport
    wrote: bool
    placing: bool = False
    """Whether marks are put into pages that lack them."""


class SiteInlays:
    """Sets the maps of sites into folders of pages."""

    def __init__(self, store: Sites, maps: CompiledMaps, queue: JobQueue, data: Path) -> None:
        self._store, self._maps, self._queue, self._data = store, maps, queue, data
        self._runs: LRUCache[str, Job[InlayRun]] = LRUCache(_KEPT)
        self._lock = threading.Lock()

    def folder_of(self, site: SiteRecord) -> str:
        """The folder of its pages, as the map of a site says it; empty where it does not."""
        found = pages_folder(self._maps.good_plan(site), Path(site.folder) if site.folder else None)
        return str(found) if found is not None else ""

    def begin(
        self,
        site: SiteRecord,
        folder: Path,
        write: bool,
        place: bool = False,
        like: str | None = None,
        overwrite: bool = False,
    ) -> str:
        """Begin a run; gives its token. Without ``write`` it only looks. Raises ``UsageError`` where the map cannot be
        drawn, and for a folder that is none."""
        if not folder.is_absolute() or not folder.is_dir():
            raise UsageError(f"There is no folder {folder} on this machine. Write it in full, from the root.")
        compiled = compile_map(site.text, files_with(self._maps.files(site), names_below(folder)))
        if compiled.plan is None or compiled.stops:
            raise UsageError("The map has errors. Fix them first; nothing was written.")
        plan: Plan = compiled.plan
        contents = self._store.contents(site.slug)

        def work(job: Job[InlayRun]) -> InlayRun:
            try:
                setting = FolderInlay(plan, contents, folder, place, overwrite)
                job.total = len(setting.pages)
                report = setting.run(write, job.step, keep=_SHOWN, like=like)
            except UsageError as error:
                job.reason = str(error)
                raise Stopped from error
            return InlayRun(site.slug, folder, report, write, place)

        token, job = secrets.token_urlsafe(12), Job(work)
        with self._lock:
            self._runs[token] = job
        self._queue.add(job)
        return token

    def job(self, token: str) -> Job[InlayRun]:
        """A run by its token. Raises ``NotFound``."""
        with self._lock:
            job = self._runs.get(token)
        if job is None:
            raise NotFound("This run is not kept any more. Look again.")
        return job

    # Sites that stay

    def take_in(self, found: SiteStay, folder: Path, name: str) -> SiteRecord:
        """Set the marks into the pages of a folder, and make the site of their map. What they were is kept. Raises
        ``UsageError``, and then nothing was written."""
        beside = self._data / _STAYS / f"new-{secrets.token_hex(8)}"
        write_stay(found, folder, beside)
        files = Files(found.stayed.files)
        record = self._store.make(name, found.stayed.text, {}, f"Taken in: {len(found.changes)} pages", files=files)
        kept = self._data / _STAYS / record.slug
        shutil.rmtree(kept, ignore_errors=True)  # of a site that was called so, and is no more
        beside.rename(kept)
        return record

    def can_undo(self, slug: str) -> bool:
        """Whether it is kept what the pages of a site were before they got their marks."""
        return (self._data / _STAYS / slug / "site.yaml").is_file()

    def undo(self, slug: str, folder: Path) -> list[tuple[str, str]]:
        """Take the marks out of the pages of a site again: by file, what was done, in words. Raises ``UsageError``."""
        return list(undo_stay(self._data / _STAYS / slug / "site.yaml", folder))
