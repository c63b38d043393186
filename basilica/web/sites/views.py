"""The list of sites, new sites, and one site at a glance."""

from __future__ import annotations

import json
import re

from flask import Blueprint, Response, jsonify, redirect, render_template, request, url_for
from werkzeug.wrappers import Response as BaseResponse

from basilica.core.drawing import draw, folds
from basilica.core.exchange import map_of, read_list_or_table, site_section
from basilica.core.map.document import read
from basilica.core.pipeline import Compiled, compile_map
from basilica.core.plan.page_search import MOST
from basilica.store.folders import read_source
from basilica.web.context import site_services
from basilica.web.demo import DEMO
from basilica.web.map.editing import shown_list
from basilica.web.map.queries import found_in
from basilica.web.values import data_of_request, text_in

blueprint = Blueprint("sites", __name__, template_folder="templates")

_BLANK = """\
# The page map of the site. Everything shared is made from here.
site:
  name: {name}
  language: en

pages:
  home:
    path: /
    title: {name}
    label: Home

menus:
  main:
    - home
"""


@blueprint.get("/")
def index() -> str:
    """Every site, with a small drawing of its plan."""
    services = site_services()
    rows = []
    for site in services.sites.all():
        plan = services.good_plan(services.sites.get(site.slug))
        rows.append((site, draw(plan, folded=folds(plan)) if plan else None, len(plan.site.pages) if plan else 0))
    return render_template("sites/index.html", rows=rows, archived=len(services.sites.all(archived=True)))


@blueprint.get("/find")
def find() -> Response:
    """The pages of all sites that fit some letters, best first, each with its site's name before it."""
    rows = []
    for site in site_services().sites.all():
        for score, row in found_in(site.slug, request.args.get("words", "")):
            rows.append((score, {**row, "above": [site.name, *row["above"]]}))
    rows.sort(key=lambda found: -found[0])
    return jsonify([row for _, row in rows[:MOST]])


@blueprint.get("/new")
def new() -> str:
    """The form for a new site."""
    return render_template("sites/new.html", form={"start": "blank"}, error=None)


@blueprint.post("/new")
def make() -> BaseResponse | tuple[str, int]:
    """Make a site: blank, by importing a list, from the demo, or from an uploaded map."""
    start = request.form.get("start", "blank")
    name = " ".join(request.form.get("name", "").split())[:120]
    if start == "upload":
        text, error = _uploaded()
        if text is None:
            return render_template("sites/new.html", form=request.form, error=error), 422
        named = compile_map(text).plan
        stem = (request.files["file"].filename or "").rpartition("/")[2].rpartition(".")[0]
        own = named.site.name if named and named.site.named else ""
        name = name or own or stem or "Uploaded site"
        record = site_services().sites.make(name, text, {}, "As it was uploaded")
    elif start == "demo":
        source = read_source(DEMO)
        record = site_services().sites.make(
            name or "Saltern Reach Tide Mill", source.map.decode(), source.contents, "From the demo", files=source.files
        )
    elif start == "list":
        items, _ = read_list_or_table(request.form.get("list", ""))
        if not items or not name:
            message = "Give the site a name." if items else "The list has no lines. Write one page a line."
            return render_template("sites/new.html", form=request.form, error=message), 422
        text, _ = map_of(items, site_section(_printable(name)))
        record = site_services().sites.make(name, text, {}, "Import a list")
    else:
        if not name:
            return render_template("sites/new.html", form=request.form, error="Give the site a name."), 422
        text = _BLANK.format(name=json.dumps(_printable(name), ensure_ascii=False))
        record = site_services().sites.make(name, text, {}, "Begun")
    return redirect(url_for("map.show", slug=record.slug), 303)


@blueprint.get("/sites/<slug>")
def show(slug: str) -> str:
    """One site at a glance: its plan, its newest versions, and what can be done with the whole of it."""
    return _shown(slug)


def _shown(slug: str, error: str = "") -> str:
    services = site_services()
    site = services.open(slug)
    plan = services.good_plan(site)
    states = services.sites.versions(slug)
    drawing = draw(plan, folded=folds(plan)) if plan else None
    return render_template("sites/show.html", site=site, drawing=drawing, states=states, error=error)


@blueprint.post("/sites/<slug>/name")
def rename(slug: str) -> BaseResponse | tuple[str, int]:
    """Another name in the list."""
    name = request.form.get("name", "")
    if not name.strip():
        return _shown(slug, "Give the site a name; it still has the old one."), 422
    site_services().sites.rename(slug, name)
    return redirect(url_for("sites.show", slug=slug), 303)


@blueprint.post("/sites/<slug>/folder")
def decide_folder(slug: str) -> BaseResponse:
    """What becomes of a site whose folder is gone, or is another than before."""
    services = site_services()
    site, decided = services.sites.get(slug), request.form.get("decided")
    if decided == "write":
        services.folders.write_anew(site)
    elif decided == "take":
        services.folders.take_over(site)
    elif decided == "part":
        services.folders.part(site)
    return redirect(url_for("map.show", slug=slug), 303)


@blueprint.post("/sites/<slug>/copy")
def duplicate(slug: str) -> BaseResponse:
    """A copy of the current site."""
    sites = site_services().sites
    copy = sites.duplicate(slug, f"{sites.get(slug).name}, a copy")
    return redirect(url_for("sites.show", slug=copy.slug), 303)


@blueprint.post("/sites/<slug>/archive")
def archive(slug: str) -> BaseResponse:
    """Out of the list, or back into it."""
    archived = request.form.get("archive") == "yes"
    site_services().sites.archive(slug, archived)
    return redirect(url_for("sites.archived" if archived else "sites.show", slug=None if archived else slug), 303)


@blueprint.get("/archive")
def archived() -> str:
    """The sites that were archived."""
    return render_template("sites/archive.html", sites=site_services().sites.all(archived=True), error=None)


@blueprint.post("/sites/<slug>/delete")
def delete(slug: str) -> BaseResponse | tuple[str, int]:
    """Delete a site permanently, once its name is typed. Only a site that was archived can be."""
    sites = site_services().sites
    site = sites.get(slug)
    if " ".join(request.form.get("name", "").split()) != site.name:
        error = f"{site.name} was not deleted: what was typed is not its name."
        return render_template("sites/archive.html", sites=sites.all(archived=True), error=error), 422
    sites.delete(slug)
    return redirect(url_for("sites.archived"), 303)


@blueprint.post("/new/list")
def show_list() -> Response:
    """The map that a list makes, with the plan of it, before the site is made."""
    data = data_of_request()
    items, findings = read_list_or_table(text_in(data, "list"))
    text, more = map_of(items, site_section(_printable(text_in(data, "name")[:120]) or "Untitled site"))
    return jsonify(empty=not items, shown=shown_list(text, items, findings + more))


def _printable(name: str) -> str:
    return "".join(character for character in " ".join(name.split()) if character.isprintable())


def _uploaded() -> tuple[str | None, str]:
    """The text of the uploaded map, or None and why it was not taken."""
    file = request.files.get("file")
    if file is None or not file.filename:
        return None, "Choose a file to upload."
    data = file.read()
    _, findings = read(data)
    for finding in findings:
        if finding.code in ("not-utf8", "not-text", "too-large", "map-empty"):
            return None, f"{file.filename} was not taken: {finding.message} {finding.remedy}"
    text = data.decode("utf-8-sig")
    compiled: Compiled = compile_map(text)
    if compiled.plan is None and not re.search(r"^pages\s*:", text, re.MULTILINE):
        return None, (
            f"{file.filename} is text, but it is not a page map: it has no `pages:`. "
            "Choose a map, or begin with a blank site and paste the text there."
        )
    return text, ""
