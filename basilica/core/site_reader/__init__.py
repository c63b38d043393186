"""Built files as they are read again: what stands in the HTML, and nowhere else."""

from basilica.core.site_reader.built_page import BuiltEntry, BuiltPage, Region
from basilica.core.site_reader.built_site import BuiltSite, SiteReader, read_site
from basilica.core.site_reader.html_reader import PageReader
from basilica.core.site_reader.link_resolver import Resolver, Target

__all__ = [
    "BuiltEntry",
    "BuiltPage",
    "BuiltSite",
    "PageReader",
    "Region",
    "Resolver",
    "SiteReader",
    "Target",
    "read_site",
]
