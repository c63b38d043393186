"""The sites of the application, published: targets, comparisons and publishes in the background, and what is live."""

from __future__ import annotations

import secrets
import threading
import time
from collections.abc import Callable, Hashable, Mapping
from dataclasses import dataclass, field, replace
from pathlib import Path

from cachetools import LRUCache

from basilica.core.build import Build, build, steps
from basilica.core.diff import Impact
from basilica.core.diff.live_answers import LiveLook, files_to_fetch
from basilica.core.diff.live_differences import LiveState
from basilica.core.diff.taking_over import take_over
from basilica.core.rules.finding import Finding
from basilica.services.comparisons import Comparisons
from basilica.services.compiled_maps import CompiledMaps
from basilica.services.job_queue import Job, JobQueue, Stopped
from basilica.services.known_addresses import KnownAddresses
from basilica.services.live_look import LiveSite, look_at
from basilica.services.publish_file import targets_beside
from basilica.services.publish_work import (
    Choices,
    PreparedPublish,
    PublishNote,
    last_changed,
    prepare,
    publish,
    published_bytes,
)
from basilica.services.site_builds import SiteBuilds, state_of_site
from basilica.services.site_service import SiteService
from basilica.store.errors import UsageError
from basilica.store.publishes import Publishes, PublishRecord
from basilica.store.records import NotFound, SiteRecord, SiteSummary
from basilica.store.sites import Sites
from basilica.store.targets import TargetSettings, open_target

_KEPT = 8


@dataclass(frozen=True)
class PublishRun:
    """A comparison of a site with a target, or a publish there: ``prepared`` is what was compared, ``sent`` and
    ``deleted`` how many files were (None: it only looked), and ``looked`` what was fetched afterwards. ``stops`` are
    the findings that stop a publish, and ``impact`` is what the change since the last one is, where that is known. Of
    an earlier publish that is to be taken back, ``earlier`` is the number."""

    slug: str
    target: str
    prepared: PreparedPublish
    stops: tuple[Finding, ...] = ()
    impact: Impact | None = None
    earlier: int | None = None
    sent: int | None = None
    deleted: int = 0
    looked: LiveLook | None = None
    unreachable: str = ""
    """Why the live site could not be looked at afterwards."""
    left: int = 0
    """How many files stay as they were edited there."""
    changed: tuple[str, ...] = ()
    """The files that were sent."""
    state: Hashable = None
    """What the site was when it was compared."""


@dataclass
class Progress:
    """How far a publish has come, in bytes."""

    total: int = 0
    done: int = 0
    began: float = field(default_factory=time.monotonic)

    @property
    def seconds_left(self) -> float | None:
        """How long the rest takes, if it goes on as it did; None while that cannot be told."""
        took = time.monotonic() - self.began
        return (self.total - self.done) * took / self.done if self.done and took > 1 else None


@dataclass(frozen=True, slots=True)
class LiveNow:
    """What is live of a site, as far as is known: the publish that was noted last, and how many files were edited there
    by hand when it was last compared."""

    publish: PublishRecord
    drift: int
    is_current: bool
    """Whether it is the site as it stands."""


class SitePublishing:
    """Publishes the sites of the application."""

    def __init__(
        self,
        store: Sites,
        maps: CompiledMaps,
        comparisons: Comparisons,
        builds: SiteBuilds,
        sites: SiteService,
        addresses: KnownAddresses,
        queue: JobQueue,
    ) -> None:
        self._store, self._maps, self._comparisons = store, maps, comparisons
        self._builds, self._sites, self._addresses, self._queue = builds, sites, addresses, queue
        self.log = Publishes(store.database)
        self._runs: LRUCache[str, Job[PublishRun]] = LRUCache(_KEPT)
        self._progress: LRUCache[str, Progress] = LRUCache(_KEPT)
        self._drift: LRUCache[tuple[str, str], int] = LRUCache(64)
        self._fingerprints: LRUCache[str, str] = LRUCache(_KEPT)
        self._lock = threading.Lock()

    # Targets

    def targets(self, site: SiteSummary) -> dict[str, TargetSettings]:
        """The targets of a site by name: those that the application has, and those in the file beside its map. Raises
        ``UsageError`` where that cannot be read."""
        found = {one.name: one for one in self.log.targets(site.slug)}
        return found | (targets_beside(Path(site.folder)) if site.folder else {})

    def target(self, site: SiteSummary, name: str) -> TargetSettings:
        """One target. Raises ``NotFound``."""
        try:
            return self.targets(site)[name]
        except KeyError:
            raise NotFound(f"target {name}") from None

    def put_target(self, site: SiteSummary, settings: TargetSettings) -> None:
        """Remember a target. Raises ``UsageError`` for one that the file beside the map has."""
        if site.folder and settings.name in targets_beside(Path(site.folder)):
            raise UsageError(f"`{settings.name}` is in publish.yaml beside the map. Change it there.")
        self.log.put_target(site.slug, settings)

    # What is live

    def live_now(self, site: SiteSummary) -> LiveNow | None:
        """What is live of a site; None where nothing was published."""
        records = self.log.of_site(site.slug, 1)
        if not records:
            return None
        last = records[0]
        newest = self._store.versions(site.slug)[0].id
        with self._lock:
            drift = self._drift.get((site.slug, last.target), 0)
        return LiveNow(last, drift, site.is_saved and last.version_id == newest)

    # Runs

    def job(self, token: str) -> Job[PublishRun]:
        """A run by its token. Raises ``NotFound``."""
        with self._lock:
            job = self._runs.get(token)
        if job is None:
            raise NotFound("This comparison is not kept any more. Compare again.")
        return job

    def unknown_key(self, token: str) -> str:
        """The fingerprint of the server that a run met and did not know; empty where it was not that."""
        return self._fingerprints.get(token, "")

    def progress(self, token: str) -> Progress | None:
        """How far the publish of a run has come; None for a comparison."""
        with self._lock:
            return self._progress.get(token)

    def stop(self, token: str) -> None:
        """Stop a run; what was sent is there, and the next publish goes on."""
        self.job(token).stop()

    def compare(self, site: SiteRecord, name: str, earlier: int | None = None) -> str:
        """Begin to hold a site, or what was live after an ``earlier`` publish, against what is live; gives the token.
        Raises ``NotFound``."""
        settings = self.target(site, name)
        old = self.log.files(earlier, settings.place) if earlier is not None else None

        def work(job: Job[PublishRun]) -> PublishRun:
            built, stops = (old, ()) if old is not None else self._built(site, job)
            job.total = job.done = 0
            prepared = prepare(settings, built, self.log, job.step, Path(site.folder) if site.folder else None)
            with self._lock:
                self._drift[site.slug, name] = len(prepared.found.files.drift)
            impact, state = self._impact(site, prepared), state_of_site(site)
            return PublishRun(site.slug, name, prepared, stops, impact, earlier, state=state)

        return self._begin(work)

    def publish(
        self, site: SiteRecord, token: str, choices: Choices, note: str, reason: str, even_if_busy: bool
    ) -> str:
        """Begin to send what a comparison found; gives the token. The site is saved as a version first, if it is not.
        Raises ``UsageError`` where something stops it."""
        run = self.job(token).result
        if run is None or run.slug != site.slug:
            raise UsageError("It is still being compared. Wait until the list is there.")
        if run.stops and not reason.strip():
            raise UsageError("Findings stop this publish. Fix them, or give a reason to publish anyway.")
        if choices.open_questions(run.prepared.found):
            raise UsageError("Some files were edited there by hand. Say of each whether it is overwritten or left.")
        if run.earlier is None and run.state != state_of_site(site):
            raise UsageError("The site was changed since it was compared. Compare again.")
        problem = run.prepared.problem(choices)
        if problem:
            raise UsageError(problem)
        said = self._note(site, run, note, reason)
        progress = Progress(run.prepared.size(choices))

        def work(job: Job[PublishRun]) -> PublishRun:
            job.total = run.prepared.chosen(choices).count
            progress.began = time.monotonic()

            def sent(path: str, size: int) -> None:
                progress.done += size
                job.step()

            plan = self._maps.good_plan(site)
            if plan is not None and run.earlier is None:  # others may know them once the first file is there
                self._addresses.handed_out(site.slug, plan)
            done = publish(run.prepared, choices, said, self.log, site.slug, sent, even_if_busy)
            asked = [file for file in run.prepared.found.files.files if file.needs_consent]
            left = sum(not choices.overwrites(file.path) for file in asked)
            with self._lock:
                self._drift[site.slug, run.target] = left
            changed = tuple(path for stage in done.stages for path in stage)
            looked, unreachable = None, ""
            if run.prepared.settings.address and run.earlier is None:
                try:
                    looked = self._look(site, run, changed, job)
                except UsageError as error:  # what was sent is there all the same
                    unreachable = str(error)
            return replace(
                run,
                stops=(),
                sent=len(changed),
                deleted=len(done.deleted),
                looked=looked,
                unreachable=unreachable,
                left=left,
                changed=changed,
            )

        return self._begin(work, progress)

    def look(self, site: SiteRecord, name: str) -> str:
        """Begin to fetch what is live and hold it against the site; gives the token. Raises ``NotFound``."""
        settings = self.target(site, name)

        def work(job: Job[PublishRun]) -> PublishRun:
            built, stops = self._built(site, job)
            job.total = job.done = 0
            prepared = prepare(settings, built, self.log, job.step)
            run = PublishRun(site.slug, name, prepared, stops, self._impact(site, prepared))
            changed = last_changed(self.log, settings.place, built)
            looked = self._look(site, run, changed, job)
            return PublishRun(site.slug, name, prepared, stops, run.impact, looked=looked, changed=changed)

        return self._begin(work)

    def _look(
        self, site: SiteRecord, run: PublishRun, changed: tuple[str, ...], job: Job[PublishRun]
    ) -> LiveLook | None:
        plan = self._maps.good_plan(site)
        if plan is None:
            return None
        built = run.prepared.built
        job.total = job.done + len(files_to_fetch(built, changed))
        return look_at(
            LiveSite(run.prepared.settings.address), plan, self._store.contents(site.slug), built, changed, job.step
        )

    def take_over(self, site: SiteRecord, token: str, path: str) -> str:
        """Take what somebody edited on the live site into the content or the files of a site; gives the name of what is
        written. Raises ``EditRejected`` where that cannot be, ``UsageError`` and ``Conflict``."""
        run = self.job(token).result
        if (
            run is None
            or run.slug != site.slug
            or not any(file.path == path and file.state is LiveState.EDITED for file in run.prepared.found.files.files)
        ):
            raise UsageError("It is not known that this file was edited there. Compare again.")
        live = self.live_bytes(run.prepared.settings, path)
        if live is None:
            raise UsageError(f"`{path}` is not there any more. Compare again.")
        contents = self._store.contents(site.slug)
        was = published_bytes(self.log, run.prepared.settings.place, path)
        found = take_over(self._maps.compiled(site.text, site), contents, path, live, was, site.text)
        if found.command is not None:
            self._sites.apply(site.slug, site.revision, found.command)
        elif found.key:
            known = contents.get(found.key)
            self._sites.write(site.slug, found.key, found.text, known.text if known else "")
        else:
            self._sites.put_file(site.slug, found.name, found.data, None)
        return found.name

    def live_bytes(self, settings: TargetSettings, path: str) -> bytes | None:
        """The bytes of a file at a target. Raises ``TargetProblem``."""
        with open_target(settings) as target:
            return target.read(path)

    def _built(self, site: SiteRecord, job: Job[PublishRun]) -> tuple[Mapping[str, bytes], tuple[Finding, ...]]:
        """The files of a site as it stands, and what stops a publish of them."""
        known = self._builds.ready(site)
        if known is not None:
            result: Build = known.build
        else:
            contents, compiled = self._store.contents(site.slug), self._maps.compiled(site.text, site)
            job.total = steps(compiled.plan) if compiled.plan and not compiled.stops else 0
            result = build(compiled, contents, job.step)
        if not result.files:
            raise UsageError("The map has errors, so there is nothing to publish. Fix them first.")
        return {file.path: file.data for file in result.files}, tuple(one for one in result.findings if one.stops)

    def _impact(self, site: SiteRecord, prepared: PreparedPublish) -> Impact | None:
        """What the change since the last publish is."""
        last = prepared.last
        if last is None or last.version_id is None:
            return None
        try:
            return self._comparisons.between(site.slug, last.version_id, None)
        except NotFound:
            return None

    def _note(self, site: SiteRecord, run: PublishRun, note: str, reason: str) -> PublishNote:
        if run.earlier is not None:
            was = next(one for one in self.log.of_place(run.prepared.settings.place) if one.id == run.earlier)
            return PublishNote(was.version, was.version_id, note or f"Taken back: {was.note or was.version}", reason)
        if not site.is_saved:
            site = self._sites.save_version(site.slug, site.revision, note or f"Published to {run.target}")
        version = self._store.versions(site.slug)[0]
        return PublishNote(f"version of {version.saved_at:%-d %b %Y, %H:%M} UTC", version.id, note, reason)

    def _begin(self, work: Callable[[Job[PublishRun]], PublishRun], progress: Progress | None = None) -> str:
        def told(job: Job[PublishRun]) -> PublishRun:
            try:
                return work(job)
            except UsageError as error:
                job.reason = str(error)
                self._fingerprints[token] = getattr(error, "fingerprint", "")
                raise Stopped from error

        token, job = secrets.token_urlsafe(12), Job(told)
        with self._lock:
            self._runs[token] = job
            if progress is not None:
                self._progress[token] = progress
        self._queue.add(job)
        return token
