"""What the Settings workspace writes into the map."""

from __future__ import annotations

import msgspec
from flask import flash, redirect, request, url_for
from werkzeug.wrappers import Response

from basilica.core.edits import EditRejected
from basilica.core.edits.commands.set_settings import SetSettings, Setting
from basilica.core.edits.map_data import map_data, page_in, value_in
from basilica.web.context import services
from basilica.web.settings.forms import SettingsForm, SettingsQuery, UndoForm, wanted

_MOST = 1_500
"""Characters of what was there before that a cookie takes along for undoing it."""


def write(slug: str) -> Response:
    """Write the settings that were changed, all of them or none."""
    form, site = SettingsForm.sent(), services().sites.open(slug)
    plan = services().maps.good_plan(site)
    if plan is None:
        raise EditRejected("The map has errors, so nothing was written.")
    query, data = SettingsQuery.of(request.args, plan), map_data(site.text)
    changes = wanted(query, plan, data, request.form.to_dict(flat=False))
    if changes:
        command = SetSettings(changes, query.key)
        held = page_in(data, query.key) if query.key is not None else data
        was = tuple(Setting(change.path, _as_value(value_in(held, change.path))) for change in changes)
        services().sites.apply(slug, form.revision.data, command)
        back = msgspec.json.encode(SetSettings(was, query.key)).decode()
        flash((f"{command.describe(plan.site)}.", back if len(back) < _MOST else ""))  # type: ignore[arg-type]
    return redirect(url_for("settings.show", slug=slug, **query.query), 303)  # type: ignore[arg-type]


def undo(slug: str) -> Response:
    """Set what was there before the last change again."""
    form = UndoForm.sent()
    services().sites.apply(slug, form.revision.data, form.command())
    flash(("Undone.", ""))  # type: ignore[arg-type]
    return redirect(url_for("settings.show", slug=slug, **request.args.to_dict()), 303)  # type: ignore[arg-type]


def _as_value(value: object) -> str | tuple[str, ...]:
    if isinstance(value, list):
        return tuple(f"group: {each['group']}" if isinstance(each, dict) else str(each) for each in value)
    return "" if value is None else str(value)
