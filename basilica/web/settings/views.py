"""The Settings workspace: the words of the map as fields, and a page beside them, with what is tried."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Any

from flask import Response, current_app, render_template, request

from basilica.core.edits import EditRejected
from basilica.core.edits.commands.set_settings import SetSettings
from basilica.core.edits.map_data import map_data
from basilica.core.edits.source_patcher import NotHere
from basilica.core.map.site.written_place import written_elsewhere
from basilica.core.plan import Plan
from basilica.core.plan.address_styles import addresses_in_styles, links_in_styles
from basilica.services.preview_sessions import Tried
from basilica.store.records import SiteRecord
from basilica.web.answers import Refusal, answered
from basilica.web.context import services
from basilica.web.forms import STILL
from basilica.web.merged_form import conflicts_of
from basilica.web.settings.answers import SettingsState, TriedSettings
from basilica.web.settings.controls import SECTIONS, Control, controls
from basilica.web.settings.forms import SettingsForm, SettingsQuery, SettingsTried, wanted
from basilica.web.settings.view_model import contrasts
from basilica.web.values import body


def show(slug: str) -> str:
    """A section of settings, as the newest good text has it."""
    return _page(services().sites.open(slug), None, "")


def refused(slug: str, problem: str) -> str:
    """The workspace with what was typed, and why it was not written."""
    form = SettingsForm.unchecked() if request.endpoint == "settings.write" else None
    return _page(services().sites.open(slug), form, f"{problem} {STILL}" if form else problem)


def look(slug: str) -> Response | tuple[Response, int]:
    """Settings that are being tried: whether they can be, and what follows; the preview shows them from then on."""
    site, asked = services().store.get(slug), body(SettingsTried)
    plan, text = services().maps.good_plan(site), services().maps.good_text(site)
    if plan is None:
        return answered(Refusal(message="There is nothing to look at: the map has errors.")), 422
    query, tried, message = SettingsQuery.of(request.args, plan), None, ""
    changes = wanted(query, plan, map_data(text, plan.site.files), asked.form)
    try:
        if changes:
            edited = services().maps.edit(site, text, SetSettings(changes, query.key))
            tried, plan = Tried(edited.text, edited.files), edited.compiled.plan or plan
    except EditRejected as rejected:
        message = str(rejected).replace(" So nothing was changed.", "")
    sessions = services().previews.sessions
    if sessions.site(asked.token) == slug:
        sessions.try_out(asked.token, tried)
    return answered(
        TriedSettings(
            message=message,
            changed=len(changes) if tried else 0,
            path=plan.routes[query.page].path if query.page in plan.routes else "/",
            beside=render_template("settings/_beside.html", **_beside(query, plan)),
        )
    )


def _beside(query: SettingsQuery, plan: Plan) -> dict[str, Any]:
    return {
        "section": query.section,
        "contrasts": contrasts(plan) if query.section == "theme" else (),
        "examples": {
            "address style": addresses_in_styles(plan, query.page),
            "link style": links_in_styles(plan, query.page),
        }
        if query.section == "site"
        else {},
    }


def _groups(query: SettingsQuery, plan: Plan, text: str) -> list[tuple[str, list[Control]]] | None:
    """The controls of a section; None where the page is written elsewhere."""
    try:
        return controls(query.section, plan, map_data(text, plan.site.files), query.page)
    except NotHere:
        return None


def _fields(
    groups: Iterable[tuple[str, list[Control]]], form: SettingsForm | None, sent: Mapping[str, list[str]]
) -> dict[str, Any]:
    """What was typed in the fields that were changed, what all were when the form was opened, and which are in
    conflict."""
    seen = {control.name: control.now for _, inside in groups for control in inside}
    if form is None:
        return {"typed": {}, "seen": seen, "conflicts": ()}
    merge = form.merged_with(groups, sent)
    return {
        "typed": merge.typed(sent),
        "seen": seen | merge.seen(),
        "conflicts": conflicts_of(merge.fields, merge.titles),
    }


def _page(site: SiteRecord, form: SettingsForm | None, problem: str) -> str:
    plan = services().maps.good_plan(site)
    shown: dict[str, Any] = {}
    if plan:
        text = services().maps.good_text(site)
        query = SettingsQuery.of(request.args, plan)
        token = services().previews.sessions.open(site.slug)
        files = services().maps.files(site)
        shown = {
            "query": query,
            "elsewhere": written_elsewhere(plan.site, query.key) if query.key else None,
            "groups": (groups := _groups(query, plan, text)),
            **_fields(groups or (), form, request.form.to_dict(flat=False)),
            "files": sorted(name.partition("/")[2] for name in files if name.startswith("files/")),
            "state": SettingsState(
                token=token,
                root=f"{current_app.config['PREVIEW_ORIGIN']}/{token}",
                path=plan.routes[query.page].path,
            ).plain(),
            **_beside(query, plan),
        }
    return render_template(
        "settings/show.html",
        site=site,
        plan=plan,
        current=services().maps.is_good(site),
        sections={name: title for name, (title, _) in SECTIONS.items()},
        problem=problem,
        **shown,
    )
