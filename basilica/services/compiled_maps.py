"""The texts of sites, read and planned, with the files beside them; the newest of them are remembered."""

from __future__ import annotations

from dataclasses import dataclass

from basilica.core.build import stage_findings
from basilica.core.compile import Compiled, compile_map
from basilica.core.drawing import Drawing, draw, folds
from basilica.core.edits import Command, Edited, edit
from basilica.core.edits.kept_addresses import KEEP_NONE, Keeping
from basilica.core.map.map_files import NO_FILES, Files
from basilica.core.plan import Plan
from basilica.core.plan.content_links import Contents
from basilica.core.rules.finding import Finding
from basilica.services.recent import Recent
from basilica.store.records import SiteRecord, SiteSummary
from basilica.store.sites import Sites

_VERSIONS = 5
"""Versions among which one without errors is looked for."""


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


@dataclass(frozen=True, slots=True)
class Overview:
    """A site in a list: a small drawing of its plan (None where no plan could be made), and how many pages it has."""

    drawing: Drawing | None
    pages: int


class CompiledMaps:
    """Reads and plans the texts of sites."""

    def __init__(self, store: Sites, size: int = 8) -> None:
        """``size`` is how many maps, and the files of how many sites, are remembered."""
        self._store = store
        self._compiled: Recent[Compiled] = Recent(size)
        self._files: Recent[Files] = Recent(size)
        self._begins: Recent[Contents] = Recent(size)
        self._good: dict[str, Plan | None] = {}
        self._overviews: Recent[Overview] = Recent(500)

    def files(self, site: SiteSummary) -> Files:
        """The files beside the map of a site, and the heads of its texts."""
        known = self._files.known(site.files_digest) if site.files_digest else NO_FILES
        if known is None:
            known = self._store.files(site.slug)
            self._files.put(known.mark, known)  # by what they are: they may have been changed since ``site`` was read
        begins = self._begins.get(site.contents_digest, lambda: self._store.texts_with_head(site.slug))
        return known.with_heads(begins)

    def compiled(self, text: str, beside: Files | SiteSummary = NO_FILES) -> Compiled:
        """A text read and planned, with the files ``beside`` it: these, or those of a site."""
        files = self.files(beside) if isinstance(beside, SiteSummary) else beside
        return self._compiled.get((text, files.read_mark), lambda: compile_map(text, files))

    def edit(self, beside: Files | SiteSummary, text: str, *commands: Command, keeping: Keeping = KEEP_NONE) -> Edited:
        """Edits done to a text with the files ``beside`` it, ``keeping`` addresses that would end; what they compiled
        is known from now on. Raises ``EditRejected``."""
        compiled = self.compiled(text, beside)
        edited = edit(compiled, text, *commands, keeping=keeping)
        self._compiled.put((edited.text, edited.compiled.files.read_mark), edited.compiled)
        return edited

    def read(self, text: str, contents: Contents, site: SiteSummary) -> Reading:
        """A text of a site read and planned, with what its content lacks."""
        compiled = self.compiled(text, site)
        return Reading(text, compiled, stage_findings(compiled, contents))

    def is_good(self, site: SiteRecord) -> bool:
        """Whether the text of a site can be drawn as it stands."""
        return not self.compiled(site.text, site).stops

    def good_text(self, site: SiteRecord) -> str:
        """The newest text of a site that could be drawn."""
        return site.text if self.is_good(site) else site.last_valid_text

    def good_plan(self, site: SiteRecord) -> Plan | None:
        """The plan of the newest text that could be drawn; where a file beside the map is what stops it, as it was
        before that, or as a version has it."""
        for text in (site.text, site.last_valid_text):
            compiled = self.compiled(text, site)
            if not compiled.stops:
                if site.files_digest:
                    self._good[site.slug] = compiled.plan
                return compiled.plan
        if site.files_digest and site.slug not in self._good:
            self._good[site.slug] = self._of_versions(site.slug)
        return self._good.get(site.slug)

    def plan_of(self, site: SiteRecord, version: int | None) -> Plan | None:
        """The plan of a version, or (None) of the newest text that could be drawn. Raises ``NotFound``."""
        if version is None:
            return self.good_plan(site)
        return self._plan(site.slug, version)

    def overview(self, site: SiteSummary) -> Overview:
        """A site as a list shows it; no text is loaded for one that was shown before."""

        def draw_it() -> Overview:
            plan = self.good_plan(self._store.get(site.slug))
            return Overview(draw(plan, folded=folds(plan)), len(plan.site.pages)) if plan else Overview(None, 0)

        return self._overviews.get(
            (site.slug, site.revision, site.map_digest, site.contents_digest, site.files_digest), draw_it
        )

    def _plan(self, slug: str, version: int) -> Plan | None:
        kept = self._store.version(slug, version)
        compiled = self.compiled(kept.text, kept.files)
        return None if compiled.stops else compiled.plan

    def _of_versions(self, slug: str) -> Plan | None:
        plans = (self._plan(slug, version.id) for version in self._store.versions(slug)[:_VERSIONS])
        return next((plan for plan in plans if plan is not None), None)
