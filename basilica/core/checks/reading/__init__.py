"""Built files as they are read again: what stands in the HTML, and nowhere else."""

from basilica.core.checks.reading.page import BuiltEntry, BuiltPage, Region
from basilica.core.checks.reading.reader import PageReader
from basilica.core.checks.reading.resolver import Resolver, Target
from basilica.core.checks.reading.site import BuiltSite, SiteReader, read_site

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
