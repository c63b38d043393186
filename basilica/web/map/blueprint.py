"""The Map workspace: its addresses."""

from __future__ import annotations

from flask import Response

from basilica.core.edits import EditRejected, FollowsPages
from basilica.core.edits.menu_facts import auto_numbers, missing_from
from basilica.store.records import Conflict
from basilica.web.answers import Refusal, answered
from basilica.web.forms import InvalidForm
from basilica.web.map import operations, queries, views
from basilica.web.map.view_model import count_findings, old_word_fixes
from basilica.web.workspace import workspace

blueprint = workspace(
    "map",
    __name__,
    "/sites/<slug>/map",
    [
        ("GET", "", views.show),
        ("GET", "/page", views.page),
        ("GET", "/menus", views.menus),
        ("GET", "/drawing", views.drawing),
        ("GET", "/plan.svg", views.plan_svg),
        ("GET", "/listed.<form>", views.as_list),
        ("GET", "/find", queries.find),
        ("GET", "/reach", queries.impact),
        ("GET", "/version-text", queries.version_text),
        ("GET", "/icons", queries.icons),
        ("GET", "/drawn-icons", queries.drawn_icons),
        ("GET", "/entry", views.entry),
        ("GET", "/proof", queries.proof),
        ("GET", "/changes", queries.changes),
        ("PUT", "/text", operations.save),
        ("PUT", "/content", operations.write),
        ("POST", "/undo", operations.undo),
        ("POST", "/copy-content", operations.copy_content),
        ("POST", "/mend-content", operations.mend_content),
        ("POST", "/version", operations.save_version),
        ("POST", "/merge", operations.merging),
        ("POST", "/edit", operations.apply_edit),
        ("POST", "/going", operations.going),
        ("POST", "/list", operations.from_list),
        ("POST", "/icon", operations.own_icon_file),
    ],
)
blueprint.add_app_template_global(old_word_fixes)
blueprint.add_app_template_global(count_findings)
blueprint.add_app_template_global(auto_numbers)
blueprint.add_app_template_global(missing_from)


@blueprint.errorhandler(Conflict)
def stale(error: Conflict) -> tuple[Response, int]:
    """The answer to a change that somebody else's came before."""
    message = "This map was saved from elsewhere since it was opened here. What you typed is still here."
    return answered(Refusal(message=message, text=error.current.text, revision=error.current.revision)), 409


@blueprint.errorhandler(EditRejected)
@blueprint.errorhandler(InvalidForm)
def rejected(error: EditRejected | InvalidForm) -> tuple[Response, int]:
    """The answer to what cannot be done, or (``asks``) only once the person agrees."""
    asks = "write-out" if isinstance(error, FollowsPages) else None
    return answered(Refusal(message=str(error), asks=asks)), 422
