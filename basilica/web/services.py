"""What the workspaces share: the open site, its text read and planned, and what a build of it says."""

from __future__ import annotations

import contextlib
import threading
from collections import OrderedDict
from collections.abc import Callable, Hashable, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Generic, TypeVar

from basilica.core.diff import Impact, SiteVersion, impact_of, in_words
from basilica.core.edits import Command, Edited, edit
from basilica.core.findings.mosaic import Mosaic, mosaic_of
from basilica.core.map.map_files import NO_FILES, Files
from basilica.core.map.site import Base
from basilica.core.map.site.shared_values import Part
from basilica.core.outputs.output_formats import OutputFormat
from basilica.core.outputs.static_site import Renderer
from basilica.core.pipeline import Build, Compiled, build, compile_map, outputs, stage_findings, steps
from basilica.core.plan import Plan
from basilica.core.plan.content_links import Contents
from basilica.core.rules.finding import Finding
from basilica.store.contents import Moves
from basilica.store.records import Rewrite, SiteRecord
from basilica.store.sites import Sites
from basilica.store.sync import FolderProblem, FolderSync

T = TypeVar("T")
RECEIVER = "/received/"
"""Where forms that are sent to other hosts go in a preview: nothing that is typed there leaves the machine."""
_KEPT_STATES = 5
"""Versions among which one without errors is looked for."""
_BUILDS = 6
"""Sites whose newest build is remembered."""


class Recent(Generic[T]):
    """The newest few results of something that takes long, for many threads."""

    def __init__(self, size: int) -> None:
        self._size = size
        self._kept: OrderedDict[Hashable, T] = OrderedDict()
        self._lock = threading.Lock()

    def get(self, key: Hashable, make: Callable[[], T]) -> T:
        """What was made for ``key``, made now if it was not."""
        with self._lock:
            if key in self._kept:
                self._kept.move_to_end(key)
                return self._kept[key]
        made = make()
        with self._lock:
            self._kept[key] = made
            while len(self._kept) > self._size:
                self._kept.popitem(last=False)
        return made


class Stopped(Exception):
    """Somebody stopped the work."""


class BuildJob:
    """A build on its way. It begins at once, in a thread of its own; a stopped one has no result."""

    def __init__(self, compiled: Compiled, contents: Contents, drafts: bool) -> None:
        self.total = steps(compiled.plan, drafts) if compiled.plan and not compiled.stops else 0
        self.done = 0
        self.stopped = False
        self.result: Build | None = None
        self.mosaic: Mosaic | None = None
        """What the checks found on it; None where the map stops the build."""
        self._compiled, self._contents, self._drafts = compiled, contents, drafts
        self._thread = threading.Thread(target=self._run, daemon=True)
        self._thread.start()

    def wait(self, seconds: float) -> Build | None:
        """The build, if it is done within so many seconds."""
        self._thread.join(seconds)
        return self.result

    def stop(self) -> None:
        """Stop it before it is done."""
        self.stopped = self.result is None

    def _run(self) -> None:
        with contextlib.suppress(Stopped):
            result = build(self._compiled, self._contents, self._step, self._drafts)
            if result.results is not None:
                self.mosaic = mosaic_of(result.results)
            self.result = result

    def _step(self) -> None:
        self.done += 1
        if self.stopped:
            raise Stopped


@dataclass(frozen=True, slots=True)
class Reading:
    """A text as it was read: ``findings`` are those of the map and of what content is there."""

    text: str
    compiled: Compiled
    findings: tuple[Finding, ...]

    @property
    def good(self) -> bool:
        """Whether the text can be drawn, previewed and built."""
        return not self.compiled.stops

    @property
    def plan(self) -> Plan:
        """The plan of a good text."""
        assert self.compiled.plan is not None
        return self.compiled.plan


class SiteServices:
    """Reads, plans and builds the texts of sites, and remembers the newest results."""

    def __init__(self, sites: Sites) -> None:
        self.sites = sites
        self.folders = FolderSync(sites)
        self._compiled: Recent[Compiled] = Recent(8)
        self._files: Recent[Files] = Recent(8)
        self._good: dict[str, Plan | None] = {}
        self._builds: OrderedDict[tuple[str, bool], tuple[Hashable, BuildJob, Hashable]] = OrderedDict()
        self._outputs: OrderedDict[Hashable, tuple[Hashable, Mapping[str, bytes], Mapping[str, bytes] | None]] = (
            OrderedDict()
        )
        self._lock = threading.Lock()
        self._renderers: Recent[Renderer] = Recent(24)
        self._versions: Recent[SiteVersion] = Recent(12)
        self._impacts: Recent[Impact] = Recent(24)

    def open(self, slug: str) -> SiteRecord:
        """A site as it stands; for one of a folder, as that stands."""
        return self.folders.look(self.sites.get(slug))

    def save(
        self,
        slug: str,
        text: str,
        revision: int,
        good: bool,
        moves: Moves = (),
        rewrite: Rewrite = lambda contents, files: (contents, files),
    ) -> SiteRecord:
        """Save the text that is being worked on. Raises what ``Sites.save`` does."""
        return self.folders.save(self.sites.get(slug), text, revision, good, moves, rewrite)

    def write(self, slug: str, key: str, text: str, was: str, suffix: str | None = None) -> SiteRecord:
        """Save the content of a page. Raises what ``Sites.write`` does."""
        return self.folders.write(self.sites.get(slug), key, text, was, suffix)

    def put_file(self, slug: str, name: str, data: bytes | None, was: str | None) -> SiteRecord:
        """Put a file beside the map, or take one away (None). Raises what ``Sites.put_file`` does."""
        return self.folders.put_file(self.sites.get(slug), name, data, was)

    def folder_problem(self, record: SiteRecord) -> FolderProblem | None:
        """Why a site and its folder are not the same; None where they are, and for a site without a folder."""
        return self.folders.problem(record)

    def save_version(self, slug: str, revision: int, note: str) -> SiteRecord:
        """Keep the current site. Raises what ``Sites.keep`` does."""
        self.open(slug)
        return self.sites.save_version(slug, revision, note, in_words(self.impact(self.sites.get(slug))))

    def restore(self, slug: str, number: int, revision: int) -> SiteRecord:
        """Put a version in place again. Raises what ``Sites.go_back`` does."""
        version = self.sites.version(slug, number)
        changes = self.impact_between(slug, None, number)
        kept = self.compiled(version.text, version.files)
        record = self.sites.restore(slug, number, revision, not kept.stops, in_words(changes))
        self.folders.put(record)
        return record

    def site_version(self, text: str, contents: Contents, mark: str, files: Files) -> SiteVersion | None:
        """A text with its content and files, ready to be held against another; None where it has errors. ``mark``
        stands for the content."""
        compiled = self.compiled(text, files)
        if compiled.plan is None or compiled.stops:
            return None
        plan = compiled.plan
        return self._versions.get((text, mark, files.mark), lambda: SiteVersion(plan, contents))

    def impact(self, record: SiteRecord) -> Impact | None:
        """What has changed since the latest version; None where one of the two has errors."""
        newest = self.sites.versions(record.slug)[0]
        return self.impact_between(record.slug, newest.id, None)

    def impact_between(self, slug: str, old: int | None, new: int | None) -> Impact | None:
        """What changed from one version to another, or (None) to the current site."""
        editions = []
        for number in (old, new):
            if number is None:
                record = self.sites.get(slug)
                editions.append(self._version_now(record))
            else:
                kept = self.sites.version(slug, number)
                editions.append(self.site_version(kept.text, kept.contents, kept.contents_digest, kept.files))
        before, after = editions
        if before is None or after is None:
            return None
        return self._impacts.get((before, after), lambda: impact_of(before, after))

    def _version_now(self, record: SiteRecord) -> SiteVersion | None:
        contents = self.sites.contents(record.slug)
        return self.site_version(record.text, contents, record.contents_digest, self.files(record))

    def files(self, record: SiteRecord) -> Files:
        """The files beside the map of a site."""
        if not record.files_digest:
            return NO_FILES
        return self._files.get(record.files_digest, lambda: self.sites.files(record.slug))

    def compiled(self, text: str, beside: Files | SiteRecord | str = NO_FILES) -> Compiled:
        """A text read and planned, with the files ``beside`` it: these, or those of a site (also by its slug)."""
        if isinstance(beside, str):
            beside = self.sites.get(beside)
        files = self.files(beside) if isinstance(beside, SiteRecord) else beside
        return self._compiled.get((text, files.mark), lambda: compile_map(text, files))

    def edit(self, record: SiteRecord, text: str, *commands: Command) -> Edited:
        """Edits done to a text of a site; what they compiled is known from now on. Raises ``EditRejected``."""
        compiled = self.compiled(text, record)
        edited = edit(compiled, text, *commands)
        self._compiled.get((edited.text, compiled.files.mark), lambda: edited.compiled)
        return edited

    def read(self, text: str, contents: Contents, beside: Files | SiteRecord | str) -> Reading:
        """A text read and planned, with what its content lacks."""
        compiled = self.compiled(text, beside)
        return Reading(text, compiled, stage_findings(compiled, contents))

    def good_plan(self, record: SiteRecord) -> Plan | None:
        """The plan of the newest text that could be drawn; where a file beside the map is what stops it, as it was
        before that, or as it was kept last."""
        for text in (record.text, record.last_valid_text):
            compiled = self.compiled(text, record)
            if not compiled.stops:
                if record.files_digest:
                    self._good[record.slug] = compiled.plan
                return compiled.plan
        if record.files_digest and record.slug not in self._good:
            for version in self.sites.versions(record.slug)[:_KEPT_STATES]:
                kept = self.sites.version(record.slug, version.id)
                compiled = self.compiled(kept.text, kept.files)
                if not compiled.stops:
                    self._good[record.slug] = compiled.plan
                    break
        return self._good.get(record.slug)

    def build(self, record: SiteRecord, drafts: bool = False) -> BuildJob:
        """The build of a site's text as it stands, with its ``drafts`` where these are asked for, proved; it goes on in
        the background until it is done."""
        contents = self.sites.contents(record.slug)
        key = (record.text, record.files_digest, tuple(contents.items()))
        name = record.slug, drafts
        with self._lock:
            known = self._builds.get(name)
            if known and known[0] == key and not known[1].stopped:
                return known[1]
            if known:
                known[1].stop()  # what it builds is out of date
            job = BuildJob(self.compiled(record.text, record), contents, drafts)
            self._builds[name] = key, job, _mark(record)
            self._builds.move_to_end(name)
            while len(self._builds) > _BUILDS:
                self._builds.popitem(last=False)[1][1].stop()
        return job

    def outputs(
        self, record: SiteRecord, built: Build, kinds: Sequence[OutputFormat], compress: bool, drafts: bool
    ) -> tuple[Mapping[str, bytes], Mapping[str, bytes] | None]:
        """The files of some outputs of a site that was built, by path; and those of the build before, if there was one
        since the application began."""
        contents = self.sites.contents(record.slug)
        compiled = self.compiled(record.text, record)
        which = record.slug, tuple(kind.name for kind in kinds), compress, drafts
        state = record.text, record.files_digest, tuple(contents.items())
        known = self._outputs.get(which)
        if known is None or known[0] != state:
            files = {file.path: file.data for file in outputs(built, compiled, contents, kinds, compress)}
            known = state, files, known[1] if known else None
            with self._lock:
                self._outputs[which] = known
                self._outputs.move_to_end(which)
                while len(self._outputs) > _BUILDS:
                    self._outputs.popitem(last=False)
        return known[1], known[2]

    def checked(self, record: SiteRecord) -> Mosaic | None:
        """What the checks say of a site as it stands, where they were run already; nothing is begun."""
        known = self._builds.get((record.slug, False))
        return known[1].mosaic if known is not None and known[2] == _mark(record) else None

    @staticmethod
    def files_of(job: BuildJob) -> dict[str, bytes]:
        """The files of a build that is done, by path."""
        return {file.path: file.data for file in job.result.files} if job.result is not None else {}

    def plan_of(self, record: SiteRecord, state: int | None) -> Plan | None:
        """The plan of a version, or (None) of the newest text that could be drawn. Raises ``NotFound``."""
        if state is None:
            return self.good_plan(record)
        kept = self.sites.version(record.slug, state)
        compiled = self.compiled(kept.text, kept.files)
        return None if compiled.stops else compiled.plan

    def preview(self, record: SiteRecord, base: Base, state: int | None = None) -> Renderer | None:
        """Renders the pages of a site, or of one of its versions, as they are when it lives at ``base``. Raises
        ``NotFound``."""
        plan = self.plan_of(record, state)
        if plan is None:
            return None
        if state is not None:
            kept = self.sites.version(record.slug, state)
            text, contents = kept.text, kept.contents
        else:
            contents = self.sites.contents(record.slug)
            text = record.text if plan is self.compiled(record.text, record).plan else record.last_valid_text

        return self._rendering(text, plan, contents, base)

    def tried(self, record: SiteRecord, base: Base, text: str) -> Renderer | None:
        """The same of a text that is not saved; None where it has errors."""
        compiled = self.compiled(text, record)
        if compiled.plan is None or compiled.stops:
            return None
        return self._rendering(text, compiled.plan, self.sites.contents(record.slug), base)

    def _rendering(self, text: str, plan: Plan, contents: Contents, base: Base) -> Renderer:
        def make() -> Renderer:
            parts = {name: _sent_here(part) for name, part in plan.site.parts.items()}
            return Renderer(plan.moved(base=base, parts=parts), {}, drafts=True)

        own = text, plan.site.files.mark, base
        plain = self._renderers.get(own, make)
        return self._renderers.get((*own, tuple(contents.items())), lambda: plain.with_contents(contents))


def _mark(record: SiteRecord) -> Hashable:
    return record.text, record.files_digest, record.contents_digest


def _sent_here(part: Part) -> Part:
    """A part as previews have it: a form that is sent to another host goes to the preview's own stand-in."""
    if part.kind != "form" or part.value("to").startswith("/"):
        return part
    return replace(part, values=tuple((word, RECEIVER if word == "to" else text) for word, text in part.values))
