"""The Addresses workspace: its addresses."""

from __future__ import annotations

from basilica.web.addresses import operations, views
from basilica.web.workspace import workspace

blueprint = workspace(
    "addresses",
    __name__,
    "/sites/<slug>/addresses",
    [
        ("GET", "", views.show),
        ("GET", "/routes.csv", views.as_csv),
        ("GET", "/old", views.old),
        ("POST", "/old", views.look_up_old),
        ("POST", "/old/take", operations.take),
        ("POST", "/style", operations.set_style),
    ],
    refused=views.refused,
)
