"""How the work of the Output workspace is stopped."""

from __future__ import annotations

from flask import request
from werkzeug.wrappers import Response

from basilica.web.working import stop_or_begin_again


def stop(slug: str) -> Response:
    """Stop what is on its way, or begin it again."""
    return stop_or_begin_again(slug, "output.show", **request.args.to_dict(flat=False))
