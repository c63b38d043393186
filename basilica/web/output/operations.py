"""What the Output workspace does: the shared regions set into pages that exist, and its work stopped."""

from __future__ import annotations

from pathlib import Path

from flask import current_app, flash, request, url_for
from flask import redirect as lead
from werkzeug.wrappers import Response

from basilica.store.errors import UsageError
from basilica.store.folders import must_be_opened
from basilica.web.context import services
from basilica.web.forms import InvalidForm
from basilica.web.output.forms import ExistingPages
from basilica.web.working import stop_or_begin_again


def stop(slug: str) -> Response:
    """Stop what is on its way, or begin it again."""
    return stop_or_begin_again(slug, "output.show", **request.args.to_dict(flat=False))


def set_in(slug: str) -> Response:
    """Look at the pages of a folder, set the shared regions into them, make those that are missing, or go back to what
    they were before they got marks."""
    site, form = services().store.get(slug), ExistingPages.sent()
    if current_app.config["IS_OPEN"]:
        raise InvalidForm("Folders can be named by the person at this machine alone. `basilica inlay` does the same.")
    if not form.folder.data:
        raise InvalidForm("Name the folder of the pages.")
    folder, act = Path(form.folder.data).expanduser(), form.act.data
    try:
        must_be_opened(folder, current_app.config["DATA"])
        if act == "back":
            done = services().inlays.undo(slug, folder)
            told = [f"{file} {words}." for file, words in done if words != "is as it was"]
            flash(f"{len(done) - len(told)} pages are as they were before they got marks. " + " ".join(told[:5]))
            return lead(url_for("output.existing", slug=slug, folder=str(folder)), 303)
        like = form.like.data if act == "make" else None
        run = services().inlays.begin(
            site, folder, act in ("set", "make", "place"), act in ("place", "try"), like, form.overwrite.data
        )
    except UsageError as error:
        raise InvalidForm(str(error)) from error
    return lead(url_for("output.existing", slug=slug, run=run), 303)
