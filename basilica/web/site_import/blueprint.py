"""A site that exists, brought in: its addresses."""

from __future__ import annotations

from basilica.web.site_import import operations, views
from basilica.web.workspace import workspace

blueprint = workspace(
    "site_import",
    __name__,
    "/new/existing",
    [
        ("GET", "", views.new),
        ("POST", "", operations.begin),
        ("GET", "/<token>", views.show),
        ("POST", "/<token>/menu", operations.take_menu),
        ("POST", "/<token>/make", operations.make),
        ("GET", "/<token>/stay", views.stay),
        ("POST", "/<token>/stay", operations.take_in),
        ("GET", "/<token>/stay.zip", views.stay_archive),
        ("POST", "/<token>/stop", operations.stop),
    ],
    refused=views.refused,
)
