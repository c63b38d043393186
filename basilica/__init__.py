"""Basilica: one page map in code, the same navigation on every page, proved on the built files."""

from basilica.core.version import VERSION
from basilica.library import Crumb, MapBuilder, MapError, MenuEntry, PageBuilder, PageRoute, SiteMap, audit, load, loads

__version__ = VERSION
__all__ = [
    "Crumb",
    "MapBuilder",
    "MapError",
    "MenuEntry",
    "PageBuilder",
    "PageRoute",
    "SiteMap",
    "audit",
    "load",
    "loads",
]
