"""The Output workspace: its addresses."""

from __future__ import annotations

from basilica.web.output import operations, views
from basilica.web.workspace import workspace

blueprint = workspace(
    "output",
    __name__,
    "/sites/<slug>/output",
    [
        ("GET", "", views.show),
        ("GET", "/file", views.file),
        ("GET", "/archive.zip", views.archive),
        ("POST", "/stop", operations.stop),
        ("GET", "/application", views.application),
        ("POST", "/application", views.application),
        ("GET", "/existing", views.existing),
        ("POST", "/existing", operations.set_in),
    ],
    refused=views.refused,
)
