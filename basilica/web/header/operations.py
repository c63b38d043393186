"""What the Header workspace writes into the map."""

from __future__ import annotations

from flask import flash, redirect, request, url_for
from werkzeug.wrappers import Response

from basilica.core.edits import EditRejected
from basilica.core.edits.commands.set_header import SetHeader
from basilica.web.context import services
from basilica.web.header.forms import HeaderQuery, HeaderSettings
from basilica.web.workspace import say_unchanged


def write(slug: str) -> Response:
    """Write the settings that were changed, all of them or none."""
    form, site = HeaderSettings.sent(), services().sites.open(slug)
    plan = services().maps.good_plan(site)
    if plan is None:
        raise EditRejected("The map has errors, so nothing was written.")
    query = HeaderQuery.of(request.args, plan)
    changes = query.changes(plan, form.values_for(query), {} if form.start.data else form.seen.data)
    if changes:
        services().sites.apply(slug, form.revision.data, *changes)
        words = ", ".join(change.word for change in changes if isinstance(change, SetHeader))
        flash(f"Saved {words} to the map.")
    else:
        say_unchanged()
    return redirect(url_for("header.show", slug=slug, **query.query), 303)  # type: ignore[arg-type]
