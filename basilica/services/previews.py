"""The pages of sites as they will be, rendered for previews; what was rendered last is remembered."""

from __future__ import annotations

from dataclasses import replace

from basilica.core.map.site import Base
from basilica.core.map.site.shared_values import Part
from basilica.core.outputs.static_site import Renderer
from basilica.core.plan import Plan
from basilica.core.plan.content_links import Contents
from basilica.services.compiled_maps import CompiledMaps
from basilica.services.preview_sessions import PreviewSessions, Tried
from basilica.services.recent import Recent
from basilica.store.records import SiteRecord
from basilica.store.sites import Sites

RECEIVER = "/received/"
"""Where forms that are sent to other hosts go in a preview: nothing that is typed there leaves the machine."""


class Previews:
    """Renders pages at the address of a preview. ``sessions`` are the previews that are open."""

    def __init__(self, store: Sites, maps: CompiledMaps) -> None:
        self.sessions = PreviewSessions()
        self._store, self._maps = store, maps
        self._renderers: Recent[Renderer] = Recent(24)

    def of_site(self, site: SiteRecord, base: Base, version: int | None = None) -> Renderer | None:
        """Renders the pages of a site, or of one of its versions, as they are when it lives at ``base``; None where
        nothing could be drawn. Raises ``NotFound``."""
        plan = self._maps.plan_of(site, version)
        if plan is None:
            return None
        if version is not None:
            kept = self._store.version(site.slug, version)
            return self._rendering(kept.text, plan, kept.contents, base)
        return self._rendering(self._maps.good_text(site), plan, self._store.contents(site.slug), base)

    def of_tried(self, site: SiteRecord, base: Base, tried: Tried) -> Renderer | None:
        """The same of what is tried out and not saved; None where it has errors."""
        compiled = self._maps.compiled(tried.text, self._maps.files(site).replaced(tried.files))
        if compiled.plan is None or compiled.stops:
            return None
        return self._rendering(tried.text, compiled.plan, self._store.contents(site.slug), base)

    def _rendering(self, text: str, plan: Plan, contents: Contents, base: Base) -> Renderer:
        def make() -> Renderer:
            parts = {name: _sent_here(part) for name, part in plan.site.parts.items()}
            moved = plan.moved(base=base, parts=parts)
            head = replace(plan.site.head, counter=None)  # nobody's visit is counted here
            return Renderer(replace(moved, site=replace(moved.site, head=head)), {}, drafts=True)

        own = text, plan.site.files.read_mark, base
        plain = self._renderers.get(own, make)
        return self._renderers.get((*own, tuple(contents.items())), lambda: plain.with_contents(contents))


def _sent_here(part: Part) -> Part:
    """A part as previews have it: a form that is sent to another host goes to the preview's own stand-in."""
    if part.kind != "form" or part.value("to").startswith("/"):
        return part
    return replace(part, values=tuple((word, RECEIVER if word == "to" else text) for word, text in part.values))
