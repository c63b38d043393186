"""The Pages workspace: its addresses."""

from __future__ import annotations

from basilica.web.pages import operations, views
from basilica.web.workspace import workspace

blueprint = workspace(
    "pages",
    __name__,
    "/sites/<slug>/pages",
    [
        ("GET", "", views.show),
        ("POST", "", operations.write),
        ("POST", "/languages", operations.translate),
        ("POST", "/text", operations.write_text),
    ],
    refused=views.refused,
    shows_messages=True,
)
