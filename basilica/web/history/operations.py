"""What the History workspace does."""

from __future__ import annotations

from flask import redirect, url_for
from werkzeug.wrappers import Response

from basilica.web.context import services
from basilica.web.history.forms import Restore


def back(slug: str, number: int) -> Response:
    """Restore a version, which makes a new one; nothing is ever removed."""
    services().sites.restore(slug, number, Restore.sent().revision.data)
    return redirect(url_for("history.show", slug=slug, back=number), 303)
