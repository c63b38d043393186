"""The Publish workspace: its addresses."""

from __future__ import annotations

from basilica.web.publish import operations, views
from basilica.web.workspace import workspace

blueprint = workspace(
    "publish",
    __name__,
    "/sites/<slug>/publish",
    [
        ("GET", "", views.show),
        ("GET", "/pages", views.pages),
        ("POST", "/targets", operations.put_target),
        ("POST", "/compare", operations.compare),
        ("POST", "/send", operations.send),
        ("POST", "/look", operations.look),
        ("POST", "/take-over", operations.take_over),
        ("POST", "/stop/<token>", operations.stop),
    ],
    refused=views.refused,
)
