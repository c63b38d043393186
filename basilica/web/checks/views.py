"""The Checks workspace: every page by every shared part and check, and what is behind each tile."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any
from urllib.parse import urlencode

from flask import Blueprint, Response, current_app, jsonify, redirect, render_template, request, url_for
from werkzeug.wrappers import Response as BaseResponse

from basilica.core.drawing import draw, folds
from basilica.core.edits import EditRejected
from basilica.core.edits.commands.suppress_check import SuppressCheck
from basilica.core.findings.mosaic import SIGNS, WORDS, Mosaic, MosaicRow, State, worst
from basilica.core.findings.reports import FORMATS, Report
from basilica.core.outputs.static_site import Renderer
from basilica.core.plan import Plan
from basilica.store.records import Conflict, SiteRecord
from basilica.web.checks.view_model import of_site, silencing, source_line, stops_of, tile, ways
from basilica.web.context import previews, site_services
from basilica.web.downloads import download

blueprint = Blueprint("checks", __name__, template_folder="templates", url_prefix="/sites/<slug>/checks")

PATIENCE = 0.6
"""Seconds that a request waits for the checks before it shows how far they have come."""
ROWS, ROWS_BEHIND = 60, 25
"""Rows of the table on one page of it; and where it stands behind the drawing, for those who have no script."""
LISTED = 100
"""Pages of a list beside the mosaic."""
_TYPES = {
    "html": ("text/html", "html"),
    "json": ("application/json", "json"),
    "sarif": ("application/sarif+json", "sarif"),
    "junit": ("application/xml", "xml"),
    "text": ("text/plain", "txt"),
}


@dataclass(frozen=True, slots=True)
class ChecksQuery:
    """What the address asks for: a page and a check, words to look for, and findings only."""

    page: str
    check: str
    words: str
    only_off: bool
    start: int
    table: bool

    @classmethod
    def now(cls) -> ChecksQuery:
        """As the address says."""
        args = request.args
        start = max(0, args.get("from", 0, type=int) or 0)
        only_off, table = args.get("off") == "yes", args.get("view") == "table"
        return cls(args.get("page", ""), args.get("check", ""), args.get("q", "").strip()[:200], only_off, start, table)

    def query(self, **changed: str) -> str:
        """The same for an address, with some of it changed."""
        known = {
            "page": self.page,
            "check": self.check,
            "q": self.words,
            "off": "yes" if self.only_off else "",
            "view": "table" if self.table else "",
            "from": str(self.start) if self.start else "",
        }
        return "?" + urlencode({name: value for name, value in {**known, **changed}.items() if value})

    def matches(self, row: MosaicRow) -> bool:
        """Whether a row is asked for."""
        words = self.words.casefold()
        return (not self.only_off or row.has_violations) and (
            not words or words in f"{row.name} {row.label}".casefold()
        )


@blueprint.get("")
def show(slug: str) -> str:
    """The mosaic, with what is chosen on it beside it."""
    services = site_services()
    site = services.open(slug)
    job = services.build(site)
    build = job.wait(PATIENCE)
    if build is None:
        return render_template("checks/reading.html", site=site, job=job)
    mosaic = job.mosaic
    if mosaic is None:
        return render_template("checks/stopped.html", site=site, build=build)
    ask = ChecksQuery.now()
    rows = [row for row in mosaic.rows if ask.matches(row)]
    step = ROWS if ask.table else ROWS_BEHIND
    start = min(ask.start, max(0, len(rows) - 1) // step * step)
    return render_template(
        "checks/show.html",
        site=site,
        ask=ask,
        mosaic=mosaic,
        rows=rows[start : start + step],
        start=start,
        count=len(rows),
        step=step,
        build=build,
        **_words(),
        **_chosen(services.files_of(job), site, mosaic, ask),
    )


@blueprint.get("/mosaic.json")
def data(slug: str) -> Response | tuple[Response, int]:
    """The tiles, for the drawing."""
    services = site_services()
    job = services.build(services.open(slug))
    if job.wait(PATIENCE) is None or job.mosaic is None:
        return jsonify(message="The pages are still being read. Load this workspace again."), 409
    mosaic = job.mosaic
    return jsonify(
        columns=[[column.name, column.short, column.title, column.is_part] for column in mosaic.columns],
        rows=[[row.name, row.label, row.depth, row.tiles] for row in mosaic.rows],
        words={state.value: WORDS[state] for state in State},
    )


@blueprint.get("/tile")
def beside(slug: str) -> str | tuple[str, int]:
    """What is behind a tile, a row or a column, as a piece of the page."""
    services = site_services()
    site = services.open(slug)
    job = services.build(site)
    build = job.wait(PATIENCE)
    if build is None or job.mosaic is None:
        return "The pages are still being read. Load this workspace again.", 409
    ask = ChecksQuery.now()
    chosen = _chosen(services.files_of(job), site, job.mosaic, ask)
    return render_template("checks/_beside.html", site=site, ask=ask, mosaic=job.mosaic, **_words(), **chosen)


@blueprint.get("/report.<form>")
def report(slug: str, form: str) -> Response | tuple[str, int]:
    """The report in one of its formats, to be kept."""
    services = site_services()
    site = services.open(slug)
    job = services.build(site)
    build = job.wait(60)
    if form not in _TYPES or build is None:
        return render_template("error.html", code=404, message="There is no report of this kind, or not yet."), 404
    findings = build.all_findings
    text = FORMATS[form](Report("site.yaml", "", findings, job.mosaic))
    kind, suffix = _TYPES[form]
    return download(text, f"{slug}-checks.{suffix}", kind)


@blueprint.post("/ignore")
def suppress(slug: str) -> BaseResponse | tuple[str, int]:
    """Write into the map that a check says nothing, with the reason; or that it speaks again."""
    services = site_services()
    site = services.open(slug)
    form = request.form
    page, check, reason = form.get("page", ""), form.get("check", ""), form.get("reason", "")
    code, where = form.get("code", ""), form.get("where", "")
    if form.get("speak") is None and not reason.strip():
        return _refused(site, "Write the reason; it stands beside every finding that this ignores."), 422
    try:
        command = SuppressCheck(
            code, "" if form.get("speak") is not None else reason, page if where == "page" and page else None
        )
        text = services.edit(site, site.text, command).text
        if text != site.text:
            services.save(slug, text, form.get("revision", -1, type=int), True)
    except EditRejected as refused:
        return _refused(site, str(refused)), 422
    except Conflict:
        return _refused(site, "The site was changed meanwhile, so nothing was written."), 409
    return redirect(url_for("checks.show", slug=slug, page=page or None, check=check or None), 303)


def _refused(site: SiteRecord, message: str) -> str:
    """Why nothing was written, with what was typed still there."""
    return render_template("checks/refused.html", site=site, message=message, typed=request.form)


@blueprint.post("/stop")
def stop(slug: str) -> BaseResponse:
    """Stop what is on its way."""
    services = site_services()
    services.build(services.sites.get(slug)).stop()
    return redirect(url_for("map.show", slug=slug), 303)


def _words() -> dict[str, Any]:
    return {"State": State, "words": WORDS, "signs": SIGNS, "worst": worst, "listed": LISTED}


def _chosen(files: dict[str, bytes], site: SiteRecord, mosaic: Mosaic, ask: ChecksQuery) -> dict[str, Any]:
    """What is chosen: a tile, a row, a column, or the whole."""
    row, column = mosaic.by_name.get(ask.page), mosaic.column(ask.check)
    plan = mosaic.results.built.plan
    found: dict[str, Any] = {"row": row, "column": column, "tile": None, "ways": None, "gone": ask.page and row is None}
    if row is not None and column is not None:
        renderer = Renderer(plan, {}) if plan is not None and mosaic.at(row.name, column.name) else None
        found["tile"] = tile(mosaic, files, row, column, renderer)
    if row is not None and row.file:
        found["ways"] = ways(mosaic, row)
        if plan is not None:
            found["drawing"] = draw(plan, folded=folds(plan, (), row.name))
            found["stops"] = stops_of(found["ways"].way, found["drawing"])
        found["frame"] = _frame(site.slug, plan, row)
    if column is not None and row is None:
        violations = list(mosaic.in_column(column.name))
        found["violations"] = [
            (each, *mosaic.level(check, one), check, one) for each, check, one in violations[:LISTED]
        ]
        found["violation_count"] = len(violations)
    if row is None and column is None:
        found["of_site"] = of_site(mosaic)
    found["said_at"] = lambda check: mosaic.results.levels.said_at(check.code, row.name if row is not None else "")
    found["source_line"] = lambda fault: source_line(site.text, fault)
    found["silencing"] = lambda check: silencing(plan, row, check)
    return found


def _frame(slug: str, plan: Plan | None, row: MosaicRow) -> str:
    """The address of a page in the preview."""
    route = plan.routes.get(row.name) if plan is not None else None
    if route is None:
        return ""
    return f"{current_app.config['PREVIEW_ORIGIN']}/{previews().open(slug)}{route.path}"
