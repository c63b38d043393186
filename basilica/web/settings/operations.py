"""What the Settings workspace writes into the map."""

from __future__ import annotations

from flask import flash, request
from werkzeug.wrappers import Response

from basilica.core.diff.field_merge import FieldMerge
from basilica.core.edits.commands.set_settings import SetSettings
from basilica.core.edits.map_data import map_data
from basilica.core.language.sections.part_words import IDENTITY
from basilica.core.plan import Plan
from basilica.store.records import SiteRecord
from basilica.web.merged_form import write_merged
from basilica.web.settings.forms import SettingsForm, SettingsQuery, controls_of
from basilica.web.uploads import uploaded_files
from basilica.web.workspace import same_place, say_unchanged


def write(slug: str) -> Response:
    """Write the settings that were changed, all of them or none."""
    form, sent = SettingsForm.sent(), request.form.to_dict(flat=False)
    uploads = [form.upload.data] if form.upload.data and request.args.get("section") == "logo" else []
    files = uploaded_files(slug, "files", uploads)
    for name in files:
        sent[f"parts.{IDENTITY}.picture"] = [name.removeprefix("files/")]
    said: list[str] = []

    def edits(site: SiteRecord, plan: Plan) -> tuple[FieldMerge[str], list[SetSettings]]:
        query = SettingsQuery.of(request.args, plan)
        merge = form.merged_with(controls_of(query, plan, map_data(site.text, plan.site.files)), sent)
        commands = [SetSettings(merge.settings, query.key)] if merge.settings else []
        said[:] = [f"{command.describe(plan.site)}." for command in commands]
        return merge.fields, commands

    _, done = write_merged(slug, form, edits, files=files)
    if done:
        flash(" ".join(said))
    else:
        say_unchanged()
    return same_place(slug)
