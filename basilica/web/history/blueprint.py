"""The History workspace: its addresses."""

from __future__ import annotations

from basilica.web.history import operations, views
from basilica.web.workspace import workspace

blueprint = workspace(
    "history",
    __name__,
    "/sites/<slug>/history",
    [
        ("GET", "", views.show),
        ("GET", "/<int:number>.yaml", views.text),
        ("GET", "/<int:number>.zip", views.archive),
        ("POST", "/<int:number>/back", operations.back),
    ],
)
