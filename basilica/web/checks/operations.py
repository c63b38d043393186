"""What the Checks workspace writes into the map, and how its work is stopped."""

from __future__ import annotations

from flask import redirect, url_for
from werkzeug.wrappers import Response

from basilica.core.edits.commands.suppress_check import SuppressCheck
from basilica.web.checks.forms import Suppression
from basilica.web.context import services
from basilica.web.working import stop_or_begin_again


def suppress(slug: str) -> Response:
    """Write into the map that a check says nothing, with the reason; or that it speaks again."""
    form = Suppression.sent()
    page = form.page.data or None
    command = SuppressCheck(form.code.data, form.written, page if form.where.data == "page" else None)
    services().sites.apply(slug, form.revision.data, command)
    return redirect(url_for("checks.show", slug=slug, page=page, check=form.check.data or None), 303)


def stop(slug: str) -> Response:
    """Stop what is on its way, or begin it again."""
    return stop_or_begin_again(slug, "checks.show")
