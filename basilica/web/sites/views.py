"""The list of sites, new sites, and one site at a glance."""

from __future__ import annotations

import json
import re

from flask import Blueprint, Response, redirect, render_template, request, url_for
from werkzeug.wrappers import Response as BaseResponse

from basilica.core.compiled import Compiled, compile_map
from basilica.core.document import read
from basilica.core.drawing import draw
from basilica.store.folders import read_source
from basilica.store.sites import Unknown
from basilica.web.context import workbench
from basilica.web.demo import DEMO

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
    bench = workbench()
    rows = []
    for site in bench.sites.all():
        plan = bench.good_plan(site)
        rows.append((site, draw(plan) if plan else None, len(plan.site.pages) if plan else 0))
    return render_template("sites/index.html", rows=rows)


@blueprint.get("/new")
def new() -> str:
    """The form for a new site."""
    return render_template("sites/new.html", form={"start": "blank"}, error=None)


@blueprint.post("/new")
def make() -> BaseResponse | tuple[str, int]:
    """Make a site: blank, from the demo, or from an uploaded map."""
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
        record = workbench().sites.make(name, text, {}, "As it was uploaded")
    elif start == "demo":
        source = read_source(DEMO)
        record = workbench().sites.make(
            name or "Saltern Reach Tide Mill", source.map.decode(), source.contents, "From the demo"
        )
    else:
        if not name:
            return render_template("sites/new.html", form=request.form, error="Give the site a name."), 422
        printable = "".join(character for character in name if character.isprintable())
        text = _BLANK.format(name=json.dumps(printable, ensure_ascii=False))
        record = workbench().sites.make(name, text, {}, "Begun")
    return redirect(url_for("map.show", slug=record.slug), 303)


@blueprint.get("/sites/<slug>")
def show(slug: str) -> str:
    """One site at a glance: its plan, and every kept state."""
    bench = workbench()
    site = bench.sites.get(slug)
    plan = bench.good_plan(site)
    states = bench.sites.states(slug)
    return render_template("sites/show.html", site=site, drawing=draw(plan) if plan else None, states=states)


@blueprint.get("/sites/<slug>/kept/<int:number>.yaml")
def state(slug: str, number: int) -> Response:
    """The text of a kept state, as a file."""
    for kept in workbench().sites.states(slug):
        if kept.id == number:
            headers = {"Content-Disposition": f'attachment; filename="{slug}-{number}.yaml"'}
            return Response(kept.text, content_type="text/yaml; charset=utf-8", headers=headers)
    raise Unknown(slug)


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
