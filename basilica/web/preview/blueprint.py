"""The Preview workspace: its addresses."""

from __future__ import annotations

from basilica.web.preview import views
from basilica.web.workspace import workspace

blueprint = workspace(
    "preview",
    __name__,
    "/sites/<slug>/preview",
    [
        ("GET", "", views.show),
        ("GET", "/seen", views.seen),
        ("GET", "/differing", views.differing),
    ],
)
