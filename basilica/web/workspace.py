"""How a workspace is put together: its routes in one list, and what is shown where a change is refused."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any

from flask import Blueprint, flash, redirect, request, url_for
from werkzeug.wrappers import Response

from basilica.core.edits import EditRejected
from basilica.store.errors import NotStored
from basilica.store.records import Conflict
from basilica.web.context import services
from basilica.web.forms import BasilicaForm, InvalidForm, OneLine
from basilica.web.merged_form import Unsettled

Route = tuple[str, str, Callable[..., Any]]
"""Method, rule below the prefix, view. Its name is that of the view."""
Problem = EditRejected | Conflict | Unsettled | InvalidForm | NotStored
STATUS = {EditRejected: 422, InvalidForm: 422, Conflict: 409, Unsettled: 409, NotStored: 503}


def say_unchanged() -> None:
    """Tell who saved what was there already; there is nothing to undo then."""
    flash("Nothing was changed.", "unchanged")


class _Undo(BasilicaForm):
    """Which step is to be undone."""

    step = OneLine(default="")


def same_place(slug: str) -> Response:
    """Show what was looked at when a form was sent: the address of the screen with the query that it was sent to."""
    query = {name: value for name, value in request.args.items() if name != "slug" and not name.startswith("_")}
    return redirect(url_for(f"{request.blueprint}.show", slug=slug, **query), 303)  # type: ignore[arg-type]


def _undo(slug: str) -> Response:
    """Put back what was there before the last change, and show the same place again."""
    words = services().sites.undo(slug, _Undo.sent().step.data)
    flash(f"Undone: {words}.", "undone")
    return same_place(slug)


def workspace(
    name: str,
    module: str,
    prefix: str,
    routes: Sequence[Route],
    refused: Callable[[str, str], str] | None = None,
    undo: bool = False,
) -> Blueprint:
    """The blueprint of a workspace. ``refused`` gets the slug and what is the matter, and gives the page with what was
    typed still on it; where there is none, the application says it on a page of its own. With ``undo`` the last change
    that was made there can be taken back."""
    blueprint = Blueprint(name, module, template_folder="templates", url_prefix=prefix)
    for method, rule, view in routes:
        blueprint.add_url_rule(rule, view_func=view, methods=[method])
    if undo:
        blueprint.add_url_rule("/undo", "undo", view_func=_undo, methods=["POST"])
    if refused is not None:
        shown = refused

        def answer(error: Problem) -> tuple[str, int]:
            status = next(status for kind, status in STATUS.items() if isinstance(error, kind))
            return shown((request.view_args or {}).get("slug", ""), str(error)), status

        for kind in STATUS:
            blueprint.register_error_handler(kind, answer)
    return blueprint
