"""The Header workspace: its addresses."""

from __future__ import annotations

from basilica.web.header import operations, views
from basilica.web.workspace import workspace

blueprint = workspace(
    "header",
    __name__,
    "/sites/<slug>/header",
    [
        ("GET", "", views.show),
        ("POST", "", operations.write),
        ("POST", "/look", views.look),
        ("POST", "/moment", views.frame),
    ],
    refused=views.refused,
    shows_messages=True,
)
