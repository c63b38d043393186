"""The Checks workspace: every page by every shared part and check, and what is behind each tile."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from flask import Response, abort, current_app, render_template, request, url_for

from basilica.core.drawing import draw, folds
from basilica.core.findings.mosaic import BY_GRAVITY, SIGNS, WORDS, Mosaic, MosaicRow, State, worst
from basilica.core.findings.reports import FORMATS, Report
from basilica.core.outputs.static_site import Renderer
from basilica.core.plan import Plan
from basilica.services.job_queue import JobState
from basilica.store.records import SiteRecord
from basilica.web.answers import Refusal, answered
from basilica.web.checks.answers import ChecksState, MosaicTiles
from basilica.web.checks.forms import ChecksQuery
from basilica.web.checks.view_model import of_site, silencing, source_line, stops_of, tile, ways
from basilica.web.context import services
from basilica.web.downloads import download
from basilica.web.working import working

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


def show(slug: str) -> str:
    """The mosaic, with what is chosen on it beside it."""
    site = services().sites.open(slug)
    job = services().builds.of(site)
    built = job.wait(PATIENCE)
    if built is None:
        return working(job, "checks/reading.html", site=site)
    mosaic = built.mosaic
    if mosaic is None:
        return render_template("checks/stopped.html", site=site, build=built.build)
    ask = ChecksQuery.now()
    rows = [row for row in mosaic.rows if ask.matches(row)]
    step = ROWS if ask.table else ROWS_BEHIND
    start = min(ask.start, max(0, len(rows) - 1) // step * step)
    return render_template(
        "checks/show.html",
        site=site,
        ask=ask,
        state=ChecksState(
            data=url_for("checks.data"),
            beside=url_for("checks.beside"),
            page=ask.page,
            check=ask.check,
            words=ask.words,
            findings_only=ask.findings_only,
            table=ask.table,
        ).plain(),
        mosaic=mosaic,
        rows=rows[start : start + step],
        start=start,
        count=len(rows),
        step=step,
        build=built.build,
        **_words(),
        **_chosen(built.files, site, mosaic, ask),
    )


def data(slug: str) -> Response | tuple[Response, int]:
    """The tiles, for the drawing."""
    built = services().builds.of(services().sites.open(slug)).wait(PATIENCE)
    if built is None or built.mosaic is None:
        return answered(Refusal(message="The pages are still being read. Load this workspace again.")), 409
    mosaic = built.mosaic
    return answered(
        MosaicTiles(
            columns=[(column.name, column.short, column.title, column.is_part) for column in mosaic.columns],
            rows=[(row.name, row.label, row.depth, row.tiles) for row in mosaic.rows],
            words={state.value: WORDS[state] for state in State},
            order="".join(BY_GRAVITY),
        )
    )


def beside(slug: str) -> str | tuple[str, int]:
    """What is behind a tile, a row or a column, as a piece of the page."""
    site = services().sites.open(slug)
    built = services().builds.of(site).wait(PATIENCE)
    if built is None or built.mosaic is None:
        return "The pages are still being read. Load this workspace again.", 409
    ask = ChecksQuery.now()
    chosen = _chosen(built.files, site, built.mosaic, ask)
    return render_template("checks/_beside.html", site=site, ask=ask, mosaic=built.mosaic, **_words(), **chosen)


def found(slug: str) -> str | tuple[str, int]:
    """What the bar says of the pages; 202 until they were checked."""
    site = services().store.get(slug)
    job = services().builds.of(site)
    job.wait(PATIENCE)
    if job.state is JobState.FAILED:
        abort(503, f"The pages were not checked. {job.reason}")
    is_proved = services().builds.is_proved(site)
    return render_template("_found.html", site=site, is_proved=is_proved), 200 if is_proved else 202


def report(slug: str, form: str) -> Response | tuple[str, int]:
    """The report in one of its formats, to be kept."""
    site = services().sites.open(slug)
    if form not in _TYPES:
        abort(404, "There is no report of this kind.")
    job = services().builds.of(site)
    built = job.wait(PATIENCE)
    if built is None:
        return working(job, "checks/reading.html", site=site), 202
    text = FORMATS[form](Report("site.yaml", "", built.build.all_findings, built.mosaic))
    kind, suffix = _TYPES[form]
    return download(text, f"{slug}-checks.{suffix}", kind)


def refused(slug: str, problem: str) -> str:
    """Why nothing was written, with what was typed still there."""
    site = services().sites.open(slug)
    return render_template("checks/refused.html", site=site, message=problem, typed=request.form)


def _words() -> dict[str, Any]:
    return {"State": State, "words": WORDS, "signs": SIGNS, "worst": worst, "listed": LISTED}


def _chosen(files: Mapping[str, bytes], site: SiteRecord, mosaic: Mosaic, ask: ChecksQuery) -> dict[str, Any]:
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
    if row is not None:
        found["frame"] = _frame(site.slug, mosaic.found_in(ask.check).built.plan, row)
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
    if plan is None or not plan.is_built(row.name):
        return ""
    session = services().previews.sessions.open(slug)
    return f"{current_app.config['PREVIEW_ORIGIN']}/{session}{plan.routes[row.name].path}"
