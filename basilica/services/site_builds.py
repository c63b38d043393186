"""Builds of sites in the background: which belongs to what a site is now, what its checks say, what it hands out."""

from __future__ import annotations

import threading
from collections.abc import Callable, Hashable, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Any, TypeVar

from cachetools import LRUCache

from basilica.core.build import Build, build, outputs, steps
from basilica.core.compile import Compiled
from basilica.core.findings.mosaic import Mosaic, mosaic_of
from basilica.core.outputs.output_formats import OutputFormat
from basilica.core.plan.content_links import Contents
from basilica.core.rules.finding import Finding
from basilica.services.compiled_maps import CompiledMaps
from basilica.services.job_queue import Job, JobQueue
from basilica.services.recent import Recent
from basilica.store.records import SiteRecord, SiteSummary
from basilica.store.sites import Sites

T = TypeVar("T")
_SITES = 6
"""Sites whose newest builds are remembered."""


_MOMENT = 3.0
"""Seconds that a screen waits for a build before it shows what it can without it."""


@dataclass(frozen=True)
class CheckedBuild:
    """A build with what the checks found on it; there is no mosaic where the map stops the build."""

    build: Build
    mosaic: Mosaic | None

    @cached_property
    def files(self) -> Mapping[str, bytes]:
        """The files, by path."""
        return {file.path: file.data for file in self.build.files}


@dataclass(frozen=True, slots=True)
class Outputs:
    """The files of some outputs by path, and those of the build before, if there was one since the application
    began."""

    files: Mapping[str, bytes]
    before: Mapping[str, bytes] | None


_Known = LRUCache[Hashable, tuple[Hashable, Job[T]]]
"""The newest job of each kind for a site, with the state of the site that it is for."""


class SiteBuilds:
    """Builds what sites are now, and remembers the newest build of each."""

    def __init__(self, store: Sites, maps: CompiledMaps, queue: JobQueue) -> None:
        self._store, self._maps, self._queue = store, maps, queue
        self._builds: _Known[CheckedBuild] = LRUCache(_SITES)
        self._outputs: _Known[Outputs] = LRUCache(_SITES)
        self._read: Recent[tuple[Finding, ...]] = Recent(50)
        self._lock = threading.Lock()

    def of(self, site: SiteRecord, drafts: bool = False) -> Job[CheckedBuild]:
        """The build of a site as it stands, with its ``drafts`` where these are asked for, proved: the one that is
        there or on its way, or a new one. One of an older text is stopped."""

        def work(job: Job[CheckedBuild]) -> CheckedBuild:
            contents, compiled = self._sources(site, job)
            job.total = steps(compiled.plan, drafts) if compiled.plan and not compiled.stops else 0
            result = build(compiled, contents, job.step, drafts)
            return CheckedBuild(result, mosaic_of(result.results, result.in_others) if result.results else None)

        return self._current(self._builds, (site.slug, drafts), state_of_site(site), work)

    def outputs(
        self, site: SiteRecord, built: CheckedBuild, kinds: Sequence[OutputFormat], compress: bool, drafts: bool
    ) -> Job[Outputs]:
        """The files of some outputs of a site that was built; ``compress`` adds precompressed copies."""
        which = site.slug, tuple(kind.name for kind in kinds), compress, drafts
        with self._lock:
            known = self._outputs.get(which)
        last = known[1].result.files if known is not None and known[1].result is not None else None

        def work(job: Job[Outputs]) -> Outputs:
            contents, compiled = self._sources(site, job)
            job.total = len(built.build.files) * len(kinds)
            found = outputs(built.build, compiled, contents, kinds, compress, job.step)
            return Outputs({file.path: file.data for file in found}, last)

        return self._current(self._outputs, which, state_of_site(site), work)

    def ready(self, site: SiteSummary) -> CheckedBuild | None:
        """The build of a site as it stands, where it is there already; nothing is begun."""
        with self._lock:
            known = self._builds.get((site.slug, False))
        return known[1].result if known is not None and known[0] == state_of_site(site) else None

    def is_proved(self, site: SiteSummary) -> bool:
        """Whether the current revision of a site was built and checked; if not, that begins in the background."""
        if self.ready(site) is None:
            self.of(self._store.get(site.slug))
        return self.ready(site) is not None

    def soon(self, site: SiteRecord) -> CheckedBuild | None:
        """The build of a site as it stands, waited for a moment; None where it takes longer."""
        return self.of(site).wait(_MOMENT)

    def findings(self, site: SiteSummary) -> tuple[Finding, ...]:
        """What is known to be wrong with a site as it stands: with its built pages, where they are built already, and
        else with its map and content."""
        known = self.ready(site)
        if known is not None:
            return tuple(known.build.findings)

        def read() -> tuple[Finding, ...]:
            record = self._store.get(site.slug)
            return self._maps.read(record.text, self._store.contents(site.slug), record).findings

        return self._read.get((site.slug, state_of_site(site)), read)

    def forget(self, slug: str) -> None:
        """Stop what is built of a site, and begin anew when it is asked for again."""
        with self._lock:
            for known in (self._builds, self._outputs):
                for key in [key for key in known if isinstance(key, tuple) and key[0] == slug]:
                    known.pop(key)[1].stop()

    def _sources(self, site: SiteRecord, job: Job[Any]) -> tuple[Contents, Compiled]:
        """The content and the map of a site as it was when the job was asked for. Where it was changed before the job
        came to it, the job ends."""
        contents, compiled = self._store.contents(site.slug), self._maps.compiled(site.text, site)
        if state_of_site(self._store.summary(site.slug)) != state_of_site(site):
            job.stop()
            job.step()
        return contents, compiled

    def _current(self, known: _Known[T], key: Hashable, state: Hashable, work: Callable[[Job[T]], T]) -> Job[T]:
        """The job for a state of a site: the one that there is, or a new one in place of one for another state."""
        with self._lock:
            there = known.get(key)
            if there is not None and there[0] == state and not there[1].is_stopped:
                return there[1]
            if there is not None:
                there[1].stop()
            job = Job(work)
            known[key] = state, job
        self._queue.add(job)
        return job


def state_of_site(site: SiteSummary) -> Hashable:
    """What a build of a site depends on."""
    return site.map_digest, site.files_digest, site.contents_digest
