"""What the workspaces share: the open site, its text read and planned, and what a build of it says."""

from __future__ import annotations

import threading
from collections import OrderedDict
from collections.abc import Callable, Hashable
from dataclasses import dataclass, replace
from typing import Generic, TypeVar

from basilica.core.building import Build, build
from basilica.core.compiled import Compiled, compile_map
from basilica.core.content import Contents
from basilica.core.findings import Finding, in_order
from basilica.core.outputs.static_site import Renderer
from basilica.core.outputs.static_site.rendering import content_findings
from basilica.core.plan import Plan, make_plan
from basilica.core.site import Base
from basilica.store.sites import SiteRecord, Sites

T = TypeVar("T")


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


class Workbench:
    """Reads, plans and builds the texts of sites, and remembers the newest results."""

    def __init__(self, sites: Sites) -> None:
        self.sites = sites
        self._compiled: Recent[Compiled] = Recent(24)
        self._built: Recent[Build] = Recent(4)
        self._renderers: Recent[Renderer] = Recent(8)

    def compiled(self, text: str) -> Compiled:
        """A text read and planned."""
        return self._compiled.get(text, lambda: compile_map(text))

    def read(self, text: str, contents: Contents) -> Reading:
        """A text read and planned, with what its content lacks."""
        compiled = self.compiled(text)
        findings = compiled.findings
        if not compiled.stops and compiled.plan:
            findings = in_order(findings + content_findings(compiled.plan, contents))
        return Reading(text, compiled, findings)

    def good_plan(self, record: SiteRecord) -> Plan | None:
        """The plan of the newest text that could be drawn."""
        for text in (record.text, record.good_text):
            compiled = self.compiled(text)
            if not compiled.stops:
                return compiled.plan
        return None

    def build(self, record: SiteRecord) -> Build:
        """The build of a site's text as it stands, proved."""
        contents = self.sites.contents(record.slug)
        key = (record.text, tuple(contents.items()))
        return self._built.get(key, lambda: build(self.compiled(record.text), contents))

    def preview(self, record: SiteRecord, base: Base) -> Renderer | None:
        """Renders the pages of a site as they are when it lives at ``base``."""
        plan = self.good_plan(record)
        if plan is None:
            return None
        contents = self.sites.contents(record.slug)
        found = plan

        def make() -> Renderer:
            moved, _ = make_plan(replace(found.site, base=base))
            return Renderer(moved, contents)

        text = record.text if plan is self.compiled(record.text).plan else record.good_text
        return self._renderers.get((text, tuple(contents.items()), base), make)
