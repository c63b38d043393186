"""Signing in and out: the addresses."""

from __future__ import annotations

from basilica.web.sign_in import operations, views
from basilica.web.workspace import workspace

blueprint = workspace(
    "sign_in",
    __name__,
    "/",
    [
        ("GET", "sign-in", views.show),
        ("POST", "sign-in", operations.enter),
        ("POST", "sign-out", operations.leave),
    ],
)
