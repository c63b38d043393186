"""Sites that exist already: read out of their files alone, and brought into a map."""

from basilica.core.exchange.site_import.imported_site import (
    Drift,
    DriftKind,
    FoundMenu,
    ImportedPage,
    ImportedSite,
)
from basilica.core.exchange.site_import.site_analysis import analyse

__all__ = ["Drift", "DriftKind", "FoundMenu", "ImportedPage", "ImportedSite", "analyse"]
