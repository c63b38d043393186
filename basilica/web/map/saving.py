"""What is typed is saved as it is typed, kept when the person says so, and never written over unseen."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from flask import Response, jsonify, render_template, request

from basilica.core.diff.merge import merge
from basilica.core.map.map_files import Files
from basilica.core.plan.content_links import Contents, following
from basilica.store.contents import Moves
from basilica.store.records import Conflict, SiteRecord
from basilica.web.context import site_services
from basilica.web.map.blueprint import blueprint, drawn, facts, stale, underlined
from basilica.web.values import data_of_request, number_in, text_in

CONTENT_CHARACTERS = 500_000


@blueprint.put("/text")
def save(slug: str) -> Response | tuple[Response, int]:
    """Save the text as it is typed, and say what became of it."""
    services = site_services()
    data = data_of_request()
    text = text_in(data)
    compiled = services.compiled(text, slug)
    moves = _moves(data.get("moves"))
    before = services.compiled(services.sites.get(slug).text, slug).plan
    if before and compiled.plan and not compiled.stops:
        # A page that is back under its old key, however it came to be gone, finds its text again.
        moves = [*moves, *((None, key) for key in compiled.plan.site.pages if key not in before.site.pages)]

    def rewrite(contents: Contents, files: Files) -> tuple[Contents, Files]:
        if before is None or compiled.plan is None:
            return contents, files
        gone = {old for old, new in moves if old}
        keys = {key: key for key in before.site.pages if key not in gone}
        keys.update({old: new for old, new in moves if old and new})
        return following(contents, files, keys, before, compiled.plan)

    try:
        site = services.save(slug, text, number_in(data, "revision"), not compiled.stops, moves, rewrite)
    except Conflict as error:
        return stale(error)
    reading = services.read(text, services.sites.contents(slug), slug)
    answer: dict[str, Any] = {
        "revision": site.revision,
        "saved": site.is_saved,
        **facts(reading, services.good_plan(site)),
        "folder": _folder_message(site),
    }
    if reading.good:
        answer["drawing"] = render_template("map/_plan.html", drawing=drawn(reading.plan, data))
    answer["lists"] = render_template("map/_findings.html", site=site, reading=reading)
    answer["status"] = render_template("map/_status.html", site=site, reading=reading)
    return jsonify(answer)


def _folder_message(site: SiteRecord) -> str:
    """What is the matter with the folder of a site; empty where nothing is."""
    problem = site_services().folder_problem(site)
    return problem.message if problem is not None else ""


def _moves(asked: Any) -> Moves:
    """The content that goes along with pages, as pairs of old and new key; what is no such pair is left out."""
    if not isinstance(asked, list):
        return ()
    pairs = [tuple(pair) for pair in asked if isinstance(pair, list) and len(pair) == 2]
    return [pair for pair in pairs if pair != (None, None) and all(k is None or isinstance(k, str) for k in pair)]


@blueprint.get("/proof")
def proof(slug: str) -> Response | tuple[Response, int]:
    """Everything that is off, that in the built files included; 202 while the build is not done."""
    services = site_services()
    site = services.sites.get(slug)
    build = services.build(site).wait(0.5)
    if build is None:
        return jsonify(revision=site.revision), 202
    reading = replace(services.read(site.text, services.sites.contents(slug), site), findings=build.findings)
    return jsonify(
        revision=site.revision,
        findings=underlined(reading),
        lists=render_template("map/_findings.html", site=site, reading=reading),
        status=render_template("map/_status.html", site=site, reading=reading),
    )


@blueprint.put("/content")
def write(slug: str) -> Response | tuple[Response, int]:
    """Save the content of a page as it is typed. ``was`` is the text that was there before."""
    services = site_services()
    data = data_of_request()
    key, text = data.get("key"), data.get("text")
    plan = services.good_plan(services.sites.get(slug))
    if isinstance(text, str) and len(text) > CONTENT_CHARACTERS:
        return jsonify(message=f"A page's text has at most {CONTENT_CHARACTERS:,} characters; this was not saved."), 413
    if not isinstance(key, str) or not isinstance(text, str) or plan is None or key not in plan.site.pages:
        return jsonify(message="There is no such page any more. What you typed is still here; copy it."), 404
    try:
        site = services.write(slug, key, text_in(data), text_in(data, "was"))
    except Conflict as error:
        return stale(error)
    reading = services.read(site.text, services.sites.contents(slug), site)
    status = render_template("map/_status.html", site=site, reading=reading)
    return jsonify(saved=site.is_saved, status=status, folder=_folder_message(site))


@blueprint.post("/version")
def save_version(slug: str) -> Response | tuple[Response, int]:
    """Keep the current site, with a short note."""
    services = site_services()
    data = data_of_request()
    try:
        site = services.save_version(slug, number_in(data, "revision"), text_in(data, "note"))
    except Conflict as error:
        return stale(error)
    reading = services.read(site.text, services.sites.contents(slug), site)
    status = render_template("map/_status.html", site=site, reading=reading)
    return jsonify(revision=site.revision, saved=site.is_saved, status=status)


@blueprint.post("/merge")
def merging(slug: str) -> Response:
    """Mine and theirs put together where they do not meet, and both shown where they do."""
    data = data_of_request()
    site = site_services().sites.get(slug)
    merged = merge(text_in(data, "base"), text_in(data, "mine"), site.text)
    return jsonify(
        text=merged.text,
        theirs=site.text,
        revision=site.revision,
        shown=render_template("map/_merge.html", merged=merged),
    )


@blueprint.get("/changes")
def changes(slug: str) -> Response:
    """Whether the site was changed from elsewhere: its revision, and its text where that is not the one asked from."""
    site = site_services().open(slug)
    same = request.args.get("revision", type=int) == site.revision
    text = None if same else site.text
    return jsonify(revision=site.revision, text=text, saved=site.is_saved, contents=site.contents_digest)
