"""The addresses of a site that others may know, and that an edit keeps therefore."""

from __future__ import annotations

from contextlib import suppress
from pathlib import Path

from basilica.core.edits.kept_addresses import Keeping
from basilica.core.plan import Plan
from basilica.core.plan.ended_addresses import answered
from basilica.services.compiled_maps import CompiledMaps
from basilica.services.recent import Recent
from basilica.store import DATABASE
from basilica.store.errors import UsageError
from basilica.store.records import VersionSummary
from basilica.store.sites import Sites

_VERSIONS = 50
"""The newest versions that are asked for their addresses."""


def note_build(data: Path, folder: Path, plan: Plan) -> None:
    """Note that the site of a folder was built by the command line, where the application of this ``data`` knows it;
    else nothing has to be kept for it. A build is never held up by this."""
    if not (data / DATABASE).is_file():
        return
    with suppress(UsageError):
        store = Sites(data)
        try:
            site = store.of_folder(str(folder.resolve()))
            if site is not None:
                store.hand_out(site.slug, answered(plan))
        finally:
            store.close()


class KnownAddresses:
    """Tells which addresses were handed out by an export; and, where there was none, which stand in a saved version."""

    def __init__(self, store: Sites, maps: CompiledMaps) -> None:
        self._store, self._maps = store, maps
        self._of_versions: Recent[frozenset[str]] = Recent(20 * _VERSIONS)

    def handed_out(self, slug: str, plan: Plan) -> None:
        """Note that the pages of a plan went out."""
        self._store.hand_out(slug, answered(plan))

    def of(self, slug: str) -> frozenset[str]:
        """The addresses that are kept where nothing else is said."""
        found = self._store.handed_out(slug)
        if found:
            return found
        versions = self._store.versions(slug)[:_VERSIONS]
        return frozenset[str]().union(*(self._of_version(slug, version) for version in versions))

    def keeping(self, slug: str, keep: bool = True, lead: str = "") -> Keeping:
        """What an edit of a site keeps; ``lead`` is where the addresses of deleted pages lead."""
        return Keeping(self.of(slug) if keep else frozenset(), lead)

    def _of_version(self, slug: str, listed: VersionSummary) -> frozenset[str]:
        def read() -> frozenset[str]:
            version = self._store.version(slug, listed.id)
            plan = self._maps.compiled(version.text, version.files).plan
            return frozenset(answered(plan)) if plan else frozenset()

        return self._of_versions.get((slug, listed.id, listed.saved_at), read)
