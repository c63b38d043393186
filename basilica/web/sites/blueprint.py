"""The list of sites, new sites, and one site at a glance: their addresses."""

from __future__ import annotations

from basilica.web.sites import operations, views
from basilica.web.workspace import workspace

blueprint = workspace(
    "sites",
    __name__,
    "/",
    [
        ("GET", "", views.index),
        ("GET", "find", views.find),
        ("GET", "archive", views.archived),
        ("GET", "new", views.new),
        ("POST", "new", operations.make),
        ("POST", "new/list", operations.show_list),
        ("GET", "sites/<slug>", views.show),
        ("POST", "sites/<slug>/name", operations.rename),
        ("POST", "sites/<slug>/folder", operations.decide_folder),
        ("POST", "sites/<slug>/copy", operations.duplicate),
        ("POST", "sites/<slug>/archive", operations.archive),
        ("POST", "sites/<slug>/delete", operations.delete),
    ],
    refused=views.refused,
)
