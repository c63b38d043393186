"""The Parts workspace: its addresses."""

from __future__ import annotations

from basilica.web.parts import operations, views
from basilica.web.workspace import workspace

blueprint = workspace(
    "parts",
    __name__,
    "/sites/<slug>/parts",
    [
        ("GET", "", views.show),
        ("GET", "/file/<path:name>", views.file),
        ("POST", "", operations.write),
        ("POST", "/new", operations.make),
        ("POST", "/slot", operations.fill),
        ("POST", "/file", operations.save_file),
        ("POST", "/upload", operations.upload),
        ("POST", "/smaller", operations.smaller),
        ("POST", "/remove", operations.remove),
    ],
    refused=views.refused,
    shows_messages=True,
)
