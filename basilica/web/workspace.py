"""How a workspace is put together: its routes in one list, and what is shown where a change is refused."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any

from flask import Blueprint, request

from basilica.core.edits import EditRejected
from basilica.store.records import Conflict
from basilica.web.forms import InvalidForm

Route = tuple[str, str, Callable[..., Any]]
"""Method, rule below the prefix, view. Its name is that of the view."""
Problem = EditRejected | Conflict | InvalidForm
STATUS = {EditRejected: 422, InvalidForm: 422, Conflict: 409}


def workspace(
    name: str,
    module: str,
    prefix: str,
    routes: Sequence[Route],
    refused: Callable[[str, str], str] | None = None,
) -> Blueprint:
    """The blueprint of a workspace. ``refused`` gets the slug and what is the matter, and gives the page with what was
    typed still on it; where there is none, the application says it on a page of its own."""
    blueprint = Blueprint(name, module, template_folder="templates", url_prefix=prefix)
    for method, rule, view in routes:
        blueprint.add_url_rule(rule, view_func=view, methods=[method])
    if refused is not None:
        shown = refused

        def answer(error: Problem) -> tuple[str, int]:
            return shown((request.view_args or {}).get("slug", ""), str(error)), STATUS[type(error)]

        for kind in STATUS:
            blueprint.register_error_handler(kind, answer)
    return blueprint
