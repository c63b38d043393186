"""The Settings workspace: its addresses."""

from __future__ import annotations

from basilica.web.settings import operations, views
from basilica.web.workspace import workspace

blueprint = workspace(
    "settings",
    __name__,
    "/sites/<slug>/settings",
    [
        ("GET", "", views.show),
        ("POST", "", operations.write),
        ("POST", "/look", views.look),
    ],
    refused=views.refused,
    shows_messages=True,
)
