"""Basilica: one page map in code, the same navigation on every page, proved on the built files."""

from basilica.library import Crumb, MapBuilder, MapError, MenuEntry, PageBuilder, PageRoute, SiteMap, load, loads

__version__ = "0.2.0"
__all__ = ["Crumb", "MapBuilder", "MapError", "MenuEntry", "PageBuilder", "PageRoute", "SiteMap", "load", "loads"]
