"""The Map workspace: the code, the plan, and the chosen page."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from flask import Blueprint, Response, jsonify, render_template, request

from basilica.core.catalogue import CATALOGUE, Level
from basilica.core.drawing import draw
from basilica.core.outline import outline
from basilica.core.plan import Plan
from basilica.core.site import words
from basilica.store.sites import Stale
from basilica.web.context import workbench
from basilica.web.workbench import Reading

blueprint = Blueprint("map", __name__, template_folder="templates", url_prefix="/sites/<slug>/map")

CONTENT_CHARACTERS = 500_000
_WIDTHS = (320, 4000)


@blueprint.get("")
def show(slug: str) -> str:
    """The workspace, as the site stands."""
    bench = workbench()
    site = bench.sites.get(slug)
    reading = bench.read(site.text, bench.sites.contents(slug))
    plan = bench.good_plan(site)
    chosen = _chosen(plan, request.args.get("page"))
    return render_template(
        "map/show.html",
        site=site,
        reading=reading,
        plan=plan,
        drawing=draw(plan, _width(request.args.get("width"))) if plan else None,
        chosen=chosen,
        content=bench.sites.contents(slug).get(chosen or ""),
        state={
            "slug": slug,
            "text": site.text,
            "revision": site.revision,
            "kept": site.kept,
            "chosen": chosen,
            "words": _words(),
            **_facts(reading, plan),
        },
    )


@blueprint.put("/text")
def save(slug: str) -> Response | tuple[Response, int]:
    """Save the text as it is typed, and say what became of it."""
    bench = workbench()
    data = _data()
    text = well_formed(data["text"])
    reading = bench.read(text, bench.sites.contents(slug))
    try:
        site = bench.sites.save(slug, text, data["revision"], reading.good)
    except Stale as stale:
        return _stale(stale)
    answer: dict[str, Any] = {"revision": site.revision, "kept": site.kept, **_facts(reading, bench.good_plan(site))}
    if reading.good:
        answer["drawing"] = render_template("map/_plan.html", drawing=draw(reading.plan, _width(data.get("width"))))
    answer["lists"] = render_template("map/_findings.html", site=site, reading=reading)
    answer["status"] = render_template("map/_status.html", site=site, reading=reading)
    return jsonify(answer)


@blueprint.get("/proof")
def proof(slug: str) -> Response | tuple[Response, int]:
    """Everything that is off, that in the built files included; 202 while the build is not done."""
    bench = workbench()
    site = bench.sites.get(slug)
    build = bench.build(site).wait(0.5)
    if build is None:
        return jsonify(revision=site.revision), 202
    reading = replace(bench.read(site.text, bench.sites.contents(slug)), findings=build.findings)
    return jsonify(
        revision=site.revision,
        findings=_underlined(reading),
        lists=render_template("map/_findings.html", site=site, reading=reading),
        status=render_template("map/_status.html", site=site, reading=reading),
    )


@blueprint.put("/content")
def write(slug: str) -> Response | tuple[Response, int]:
    """Save the content of a page as it is typed. ``was`` is the text that was there before."""
    bench = workbench()
    data = request.get_json()
    key, text, was = (data.get(name) if isinstance(data, dict) else None for name in ("key", "text", "was"))
    plan = bench.good_plan(bench.sites.get(slug))
    if isinstance(text, str) and len(text) > CONTENT_CHARACTERS:
        return jsonify(message=f"A page's text has at most {CONTENT_CHARACTERS:,} characters; this was not saved."), 413
    if not isinstance(key, str) or not isinstance(text, str) or plan is None or key not in plan.site.pages:
        return jsonify(message="There is no such page any more. What you typed is still here; copy it."), 404
    try:
        bench.sites.write(slug, key, well_formed(text), was if isinstance(was, str) else "")
    except Stale as stale:
        return _stale(stale)
    return jsonify(saved=True)


@blueprint.post("/keep")
def keep(slug: str) -> Response | tuple[Response, int]:
    """Keep the text as it stands, with a short note."""
    bench = workbench()
    data = _data()
    try:
        site = bench.sites.keep(slug, data["revision"], str(data.get("note", "")))
    except Stale as stale:
        return _stale(stale)
    reading = bench.read(site.text, bench.sites.contents(slug))
    status = render_template("map/_status.html", site=site, reading=reading)
    return jsonify(revision=site.revision, kept=site.kept, status=status)


@blueprint.get("/page")
def page(slug: str) -> str:
    """What is known of the chosen page, as a piece of a page."""
    bench = workbench()
    site = bench.sites.get(slug)
    plan = bench.good_plan(site)
    chosen = _chosen(plan, request.args.get("page"))
    content = bench.sites.contents(slug).get(chosen or "")
    return render_template("map/_page.html", site=site, plan=plan, chosen=chosen, content=content)


@blueprint.get("/drawing")
def drawing(slug: str) -> str:
    """The plan drawn for another width."""
    bench = workbench()
    plan = bench.good_plan(bench.sites.get(slug))
    drawn = draw(plan, _width(request.args.get("width"))) if plan else None
    return render_template("map/_plan.html", drawing=drawn)


def well_formed(text: str) -> str:
    """Text that UTF-8 can hold: halves of characters, which JSON can bring, are replaced."""
    return text.encode("utf-16", "surrogatepass").decode("utf-16", "replace")


def _data() -> dict[str, Any]:
    data = request.get_json()
    if not isinstance(data, dict) or not isinstance(data.get("revision"), int):
        data = {"revision": -1}
    if not isinstance(data.get("text", ""), str):
        data["text"] = ""
    return {"text": "", **data}


def _stale(stale: Stale) -> tuple[Response, int]:
    message = "This map was saved from another window since this one was opened. What you typed here is still here."
    return jsonify(message=message, text=stale.current.text, revision=stale.current.revision), 409


def _chosen(plan: Plan | None, key: str | None) -> str | None:
    """The page that is asked for, if it is there, and else home."""
    if plan is None:
        return None
    return key if key in plan.site.pages else plan.site.home


def _width(value: Any) -> int:
    try:
        return max(_WIDTHS[0], min(_WIDTHS[1], int(value)))
    except (TypeError, ValueError):
        return 640


def _facts(reading: Reading, plan: Plan | None) -> dict[str, Any]:
    """What the editor needs: findings to underline, places to choose by, pages to complete."""
    pages: list[dict[str, Any]] = []
    if plan:
        for key, known in plan.site.pages.items():
            line, column = plan.site.lines.place(known.at)
            pages.append({"key": key, "title": known.title, "line": line, "column": column})
    return {
        "good": reading.good,
        "findings": _underlined(reading),
        "places": outline(reading.compiled.document, reading.plan) if reading.good else None,
        "pages": pages,
    }


def _underlined(reading: Reading) -> list[dict[str, Any]]:
    """What the editor underlines: advice is listed and not underlined."""
    return [
        finding.as_dict("") for finding in reading.findings if not finding.file and finding.level is not Level.ADVICE
    ]


def _words() -> dict[str, list[dict[str, Any]]]:
    return {
        section: [{"name": word.name, "meaning": word.meaning, "values": word.values} for word in known]
        for section, known in words.SECTIONS.items()
    }


@blueprint.app_template_global("kind_of_finding")
def _kind(code: str) -> Any:
    return CATALOGUE[code]


@blueprint.app_template_global("count_findings")
def _count(reading: Reading) -> dict[str, int]:
    levels = [finding.level for finding in reading.findings]
    return {level: levels.count(level) for level in ("error", "warning", "advice")}  # type: ignore[arg-type]
