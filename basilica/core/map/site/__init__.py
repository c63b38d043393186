"""Document → site: what the map says, with every reference resolved."""

from basilica.core.map.site.model import Base, Entry, EntryKind, Header, Menu, Page, Site
from basilica.core.map.site.resolver import resolve

__all__ = ["Base", "Entry", "EntryKind", "Header", "Menu", "Page", "Site", "resolve"]
