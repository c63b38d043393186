"""What the Settings workspace writes into the map."""

from __future__ import annotations

from flask import flash, redirect, request, url_for
from werkzeug.wrappers import Response

from basilica.core.edits import EditRejected
from basilica.core.edits.commands.set_settings import SetSettings
from basilica.core.edits.map_data import map_data
from basilica.core.language.sections.part_words import IDENTITY
from basilica.web.context import services
from basilica.web.settings.forms import SettingsForm, SettingsQuery, wanted
from basilica.web.uploads import uploaded_files
from basilica.web.workspace import say_unchanged


def write(slug: str) -> Response:
    """Write the settings that were changed, all of them or none."""
    form, site = SettingsForm.sent(), services().sites.open(slug)
    plan = services().maps.good_plan(site)
    if plan is None or not services().maps.is_good(site):
        raise EditRejected("The map has errors, so nothing was written.")
    query, data, sent = (
        SettingsQuery.of(request.args, plan),
        map_data(site.text, plan.site.files),
        request.form.to_dict(flat=False),
    )
    uploads = [form.upload.data] if form.upload.data and query.section == "logo" else []
    files = uploaded_files(slug, "files", uploads)
    for name in files:
        sent[f"parts.{IDENTITY}.picture"] = [name.removeprefix("files/")]
    changes = wanted(query, plan, data, sent)
    if changes:
        command = SetSettings(changes, query.key)
        services().sites.apply(slug, form.revision.data, command, files=files)
        flash(f"{command.describe(plan.site)}.")
    else:
        say_unchanged()
    return redirect(url_for("settings.show", slug=slug, **query.query), 303)  # type: ignore[arg-type]
