"""The services of one folder of data."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

from basilica.services.comparisons import Comparisons
from basilica.services.compiled_maps import CompiledMaps
from basilica.services.folder_sync import FolderSync
from basilica.services.job_queue import JobQueue
from basilica.services.known_addresses import KnownAddresses
from basilica.services.previews import Previews
from basilica.services.site_builds import SiteBuilds
from basilica.services.site_imports import SiteImports
from basilica.services.site_inlays import SiteInlays
from basilica.services.site_publishing import SitePublishing
from basilica.services.site_service import SiteService
from basilica.store.sites import Sites


@dataclass(frozen=True, slots=True)
class Services:
    """The services of one folder of data. ``store`` is what is kept there; what changes a site goes through
    ``sites``, which knows of folders."""

    store: Sites
    maps: CompiledMaps
    comparisons: Comparisons
    folders: FolderSync
    addresses: KnownAddresses
    sites: SiteService
    builds: SiteBuilds
    previews: Previews
    imports: SiteImports
    inlays: SiteInlays
    publishing: SitePublishing

    @classmethod
    def of(cls, data: Path, builds_at_once: int = 2, queue: JobQueue | None = None) -> Services:
        """Open a folder of data, making it where needed. Raises ``UsageError``, and ``OSError`` where the folder cannot
        be written."""
        store = Sites(data)
        store.collect()
        maps = CompiledMaps(store)
        comparisons, folders = Comparisons(store, maps), FolderSync(store, maps)
        addresses = KnownAddresses(store, maps)
        sites = SiteService(store, maps, comparisons, folders, addresses)
        queue = queue or JobQueue(builds_at_once)
        builds, previews = SiteBuilds(store, maps, queue), Previews(store, maps)
        imports, inlays = SiteImports(queue), SiteInlays(store, maps, queue, data)
        publishing = SitePublishing(store, maps, comparisons, builds, sites, addresses, queue)
        return cls(store, maps, comparisons, folders, addresses, sites, builds, previews, imports, inlays, publishing)

    def close(self) -> None:
        """Close the database."""
        self.store.close()
