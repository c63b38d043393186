"""The Checks workspace: its addresses."""

from __future__ import annotations

from basilica.web.checks import operations, views
from basilica.web.workspace import workspace

blueprint = workspace(
    "checks",
    __name__,
    "/sites/<slug>/checks",
    [
        ("GET", "", views.show),
        ("GET", "/mosaic.json", views.data),
        ("GET", "/found", views.found),
        ("GET", "/tile", views.beside),
        ("GET", "/report.<form>", views.report),
        ("POST", "/ignore", operations.suppress),
        ("POST", "/stop", operations.stop),
    ],
    refused=views.refused,
)
