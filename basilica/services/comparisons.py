"""What changed between two versions of a site, or since one of them; the newest answers are remembered."""

from __future__ import annotations

from basilica.core.diff import Impact, SiteVersion, impact_of
from basilica.core.map.map_files import Files
from basilica.core.plan.content_links import Contents
from basilica.services.compiled_maps import CompiledMaps
from basilica.services.recent import Recent
from basilica.store.records import SiteRecord
from basilica.store.sites import Sites


class Comparisons:
    """Holds versions of sites against each other."""

    def __init__(self, store: Sites, maps: CompiledMaps) -> None:
        self._store, self._maps = store, maps
        self._versions: Recent[SiteVersion] = Recent(12)
        self._impacts: Recent[Impact] = Recent(24)

    def since_version(self, site: SiteRecord) -> Impact | None:
        """What has changed since the latest version; None where one of the two has errors."""
        return self.between(site.slug, self._store.versions(site.slug)[0].id, None)

    def between(self, slug: str, old: int | None, new: int | None) -> Impact | None:
        """What changed from one version to another, or (None) to the current site; None where one of the two has
        errors. Raises ``NotFound``."""
        before, after = (self._version(slug, number) for number in (old, new))
        if before is None or after is None:
            return None
        return self._impacts.get((before, after), lambda: impact_of(before, after))

    def now(self, site: SiteRecord, text: str, contents: Contents) -> SiteVersion | None:
        """A text of a site with its ``contents`` and files, ready to be held against another; None where it has
        errors."""
        return self._version_of(text, contents, site.contents_digest, self._maps.files(site))

    def _version(self, slug: str, number: int | None) -> SiteVersion | None:
        if number is None:
            site = self._store.get(slug)
            return self.now(site, site.text, self._store.contents(slug))
        kept = self._store.version(slug, number)
        return self._version_of(kept.text, kept.contents, kept.contents_digest, kept.files)

    def _version_of(self, text: str, contents: Contents, digest: str, files: Files) -> SiteVersion | None:
        compiled = self._maps.compiled(text, files)
        if compiled.plan is None or compiled.stops:
            return None
        plan = compiled.plan
        return self._versions.get((text, digest, files.mark), lambda: SiteVersion(plan, contents))
