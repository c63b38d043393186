"""The Publish workspace: what differs from what is live, and what was published."""

from __future__ import annotations

from urllib.parse import urlsplit

from flask import current_app, g, render_template, request

from basilica.core.diff import in_words
from basilica.core.diff.line_differences import DiffLine, differences
from basilica.core.diff.live_differences import LiveState
from basilica.core.shared.page_encoding import as_text
from basilica.services.job_queue import JobState
from basilica.services.site_publishing import PublishRun
from basilica.store.errors import UsageError
from basilica.store.records import NotFound, SiteRecord
from basilica.store.targets import KINDS, TargetSettings, target_class, words_of
from basilica.store.targets.target_settings import secret_variable
from basilica.web.context import services
from basilica.web.publish.forms import TargetForm
from basilica.web.publish.view_model import TILE_CLASSES, first_shown, groups, reasons, tiles

PATIENCE = 1.5
_ROWS = 200
_SHOWN = 400_000
_CLICKED = 12
"""Pages that one clicks through after a publish."""


def show(slug: str, error: str = "") -> str:
    """The targets of a site; of the chosen one what is live, what differs, and what was published."""
    site = services().sites.open(slug)
    publishing = services().publishing
    targets, error = _targets(site, error)
    form = TargetForm.unchecked()
    wanted = request.args.get("target") or request.form.get("target", "")
    chosen = targets.get(wanted) or next(iter(targets.values()), None)
    token = request.args.get("run") or request.form.get("run", "")
    run: PublishRun | None = None
    if token and chosen is not None:
        try:
            job = publishing.job(token)
        except NotFound as lost:
            return _page(site, targets, chosen, None, form, error or str(lost))
        run = job.wait(PATIENCE)
        if run is None and not job.reason and job.state in (JobState.WAITING, JobState.RUNNING):
            progress = publishing.progress(token)
            return render_template(
                "publish/running.html", site=site, job=job, failed=False, run_token=token, progress=progress
            )
        if run is None:
            error = error or job.reason or "It was stopped. What was sent is there; publish again to complete it."
    return _page(site, targets, chosen, run if run is not None and run.slug == slug else None, form, error, token)


def _page(
    site: SiteRecord,
    targets: dict[str, TargetSettings],
    chosen: TargetSettings | None,
    run: PublishRun | None,
    form: TargetForm,
    error: str,
    token: str = "",
) -> str:
    log = services().publishing.log
    prepared = run.prepared if run is not None else None
    fields, more = tiles(prepared) if prepared is not None else ([], 0)
    file = request.args.get("file") or (first_shown(run) if run is not None else "")
    rows, live_problem = _differences(chosen, run, file)
    impact = run.impact if run is not None else None
    return render_template(
        "publish/show.html",
        site=site,
        targets=targets,
        of_file=set(targets) - {one.name for one in log.targets(site.slug)},
        chosen=chosen,
        run_token=token,
        run=run,
        prepared=prepared,
        groups=groups(prepared) if prepared is not None else [],
        fields=fields,
        signs=TILE_CLASSES,
        more_tiles=more,
        states=LiveState,
        reasons=list(reasons(prepared))[:_ROWS] if prepared is not None else [],
        impact=in_words(impact) if impact is not None and not impact.nothing else "",
        parts=prepared.parts if prepared is not None else {},
        file=file,
        rows=rows,
        live_problem=live_problem,
        history=log.of_place(chosen.place)[:_ROWS] if chosen is not None else [],
        last={name: (log.of_place(one.place, 1) or [None])[0] for name, one in targets.items()},  # type: ignore[list-item]
        words={kind: words_of(kind) for kind in KINDS},
        titles={kind: target_class(kind).TITLE for kind in KINDS},
        secrets={kind: target_class(kind).SECRET for kind in KINDS},
        form=form,
        typed={name: value for name, value in request.form.items() if "-" in name},
        unknown_key=services().publishing.unknown_key(token) if error and token else "",
        variable=secret_variable(chosen.name) if chosen is not None else "",
        is_open=current_app.config["IS_OPEN"],
        error=error,
        shown=_ROWS,
    )


def _targets(site: SiteRecord, error: str) -> tuple[dict[str, TargetSettings], str]:
    try:
        return services().publishing.targets(site), error
    except UsageError as problem:
        return {one.name: one for one in services().publishing.log.targets(site.slug)}, error or str(problem)


def _differences(
    settings: TargetSettings | None, run: PublishRun | None, file: str
) -> tuple[tuple[DiffLine, ...], str]:
    """What differs in one file, from what is live to what is built."""
    if settings is None or run is None or run.sent is not None or not file:
        return (), ""
    built = run.prepared.built.get(file, b"")
    known = next((one for one in run.prepared.found.files.files if one.path == file), None)
    if known is None:
        return (), ""
    try:
        live = services().publishing.live_bytes(settings, file) if known.live else b""
    except UsageError as problem:
        return (), str(problem)
    live = live or b""
    if b"\0" in built + live or max(len(built), len(live)) > _SHOWN:
        return (), "This is not a text file." if built != live else ""
    return differences(as_text(live), as_text(built)), ""


def refused(slug: str, problem: str) -> str:
    """The page with what is the matter, and what was filled in."""
    return show(slug, problem)


def pages(slug: str) -> str:
    """The pages that one clicks through, as they are here and live, side by side."""
    site = services().store.get(slug)
    targets, _ = _targets(site, "")
    chosen = targets.get(request.args.get("target", ""))
    plan = services().maps.good_plan(site)
    if chosen is None or plan is None or not chosen.address:
        return show(slug, "Say at the target where its live site is read: its `address`.")
    files = set(request.args.getlist("file"))
    keys = [key for key in plan.builds() if plan.routes[key].file in files][:_CLICKED]
    tops = [key for key in plan.builds() if "/" not in key]
    keys = list(dict.fromkeys([*([plan.site.home] if plan.site.home else []), *keys, *tops]))[:_CLICKED]
    page = request.args.get("page", "")
    page = page if page in keys else keys[0]
    parts = urlsplit(chosen.address)
    g.framed = (f"{parts.scheme}://{parts.netloc}",)
    root = f"{current_app.config['PREVIEW_ORIGIN']}/{services().previews.sessions.open(slug)}"
    at = keys.index(page)
    return render_template(
        "publish/pages.html",
        site=site,
        chosen=chosen,
        plan=plan,
        keys=keys,
        page=page,
        following=keys[at + 1] if at + 1 < len(keys) else None,
        files=sorted(files),
        shown_here=root + plan.routes[page].path,
        shown_live=chosen.address + plan.routes[page].path,
    )
