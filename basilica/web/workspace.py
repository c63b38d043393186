"""How a workspace is put together: its routes in one list, and what is shown where a change is refused."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any

from flask import Blueprint, current_app, flash, redirect, request, url_for
from werkzeug.wrappers import Response

from basilica.core.edits import EditRejected
from basilica.store.errors import NotStored
from basilica.store.records import Conflict
from basilica.web.context import services
from basilica.web.forms import BasilicaForm, Button, InvalidForm, OneLine
from basilica.web.merged_form import Unsettled

Route = tuple[str, str, Callable[..., Any]]
"""Method, rule below the prefix, view. Its name is that of the view."""
Problem = EditRejected | Conflict | Unsettled | InvalidForm | NotStored
STATUS = {EditRejected: 422, InvalidForm: 422, Conflict: 409, Unsettled: 409, NotStored: 503}


def say_unchanged() -> None:
    """Tell who saved what was there already."""
    flash("Nothing was changed.")


class _Undo(BasilicaForm):
    """Which step is to be undone; ``others`` where it may be that of somebody else."""

    step = OneLine(default="")
    others = Button()


def same_place(slug: str) -> Response:
    """Show what was looked at when a form was sent: the address of the screen with the query that it was sent to."""
    return redirect(url_for(f"{request.blueprint}.show", slug=slug, **_query()), 303)


def _query() -> dict[str, Any]:
    return {name: value for name, value in request.args.items() if name != "slug" and not name.startswith("_")}


def _undo(slug: str) -> Response:
    """Put back what was there before the last change, and show the same place again."""
    sent = _Undo.sent()
    words = services().sites.undo(slug, sent.step.data, sent.others.data)
    flash(f"Undone: {words}.", "undone")
    return same_place(slug)


_SHOWS_MESSAGES: set[str] = set()


@dataclass(frozen=True, slots=True)
class UndoPlace:
    """Where the last step is taken back on the screen that is shown: the address that leads back to it, and whether the
    screen ``shows_messages`` of its own."""

    address: str
    shows_messages: bool


def undo_place(slug: str) -> UndoPlace | None:
    """Where the last step is taken back on this screen; None on one that is of no site, and on the map, which asks."""
    name = request.blueprint or ""
    if f"{name}.undo" not in current_app.view_functions or name == "map":
        return None
    return UndoPlace(url_for(f"{name}.undo", slug=slug, **_query()), name in _SHOWS_MESSAGES)


def workspace(
    name: str,
    module: str,
    prefix: str,
    routes: Sequence[Route],
    refused: Callable[[str, str], str] | None = None,
    shows_messages: bool = False,
) -> Blueprint:
    """The blueprint of a workspace. ``refused`` gets the slug and what is the matter, and gives the page with what was
    typed still on it; where there is none, the application says it on a page of its own. The last thing that was
    done to a site can be taken back on each of its screens; one that ``shows_messages`` says so itself, in place."""
    blueprint = Blueprint(name, module, template_folder="templates", url_prefix=prefix)
    for method, rule, view in routes:
        blueprint.add_url_rule(rule, view_func=view, methods=[method])
    if "<slug>" in prefix and not any(rule == "/undo" for _, rule, _ in routes):
        blueprint.add_url_rule("/undo", "undo", view_func=_undo, methods=["POST"])
    if shows_messages:
        _SHOWS_MESSAGES.add(name)
    if refused is not None:
        shown = refused

        def answer(error: Problem) -> tuple[str, int]:
            status = next(status for kind, status in STATUS.items() if isinstance(error, kind))
            return shown((request.view_args or {}).get("slug", ""), str(error)), status

        for kind in STATUS:
            blueprint.register_error_handler(kind, answer)
    return blueprint
