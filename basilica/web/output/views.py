"""The Output workspace: the files that a build makes, of one output or of several."""

from __future__ import annotations

from pathlib import Path

from flask import Response, abort, current_app, render_template, request

from basilica.core.diff.line_differences import differences
from basilica.core.exchange.site_import.old_page import PAGE_ENDINGS
from basilica.core.outputs.archive import zip_of
from basilica.core.outputs.kits.route_clashes import route_clashes
from basilica.core.outputs.kits.setting_in import KITS, ApplicationNames, steps
from basilica.core.outputs.output_formats import OUTPUT_FORMATS
from basilica.core.shared.output_file import File
from basilica.core.shared.page_encoding import as_text
from basilica.services.application_folder import application_names
from basilica.services.job_queue import Job
from basilica.services.site_builds import CheckedBuild, Outputs
from basilica.store.errors import UsageError
from basilica.store.folders import must_be_opened
from basilica.store.records import SiteRecord
from basilica.web.context import services
from basilica.web.downloads import download
from basilica.web.output.forms import Application, ExistingPages, OutputQuery
from basilica.web.output.view_model import file_tree, states
from basilica.web.working import working

PATIENCE = 1.0
"""Seconds that a request waits for a build before it shows how far that has come."""
_ROWS = 300
"""Rows of a list that are shown."""
_SHOWN = 400_000
"""Bytes of a file that are shown; whoever wants more downloads it."""


def show(slug: str) -> str:
    """The files of a build of the current text; or what stops it."""
    site = services().store.get(slug)
    ask = OutputQuery.now()
    job = services().builds.of(site, ask.drafts)
    built = job.wait(PATIENCE)
    if built is None:
        return working(job, "output/building.html", site=site, ask=ask)
    made = _outputs(site, built, ask)
    if made.result is None:
        return working(made, "output/building.html", site=site, ask=ask)
    files, before, build = made.result.files, made.result.before, built.build
    became = states(files, before)
    wanted = request.args.get("file")
    chosen = wanted if wanted in became else next(iter(files), None)
    data = files.get(chosen or "", (before or {}).get(chosen or "", b""))
    old = (before or {}).get(chosen or "")
    text, was = _text(data), _text(old) if old is not None else None
    changed = chosen is not None and became[chosen] == "changed" and text is not None and was is not None
    plan = services().maps.good_plan(site)
    return render_template(
        "output/show.html",
        site=site,
        ask=ask,
        kinds=OUTPUT_FORMATS.values(),
        steps={kind: steps(kind.name, plan, ApplicationNames()) for kind in ask.kinds} if plan is not None else {},
        has_drafts=bool(plan and plan.drafts),
        build=build,
        files=files,
        tree=file_tree(files, before),
        became=became,
        compared=before is not None,
        chosen=chosen,
        missing=wanted if wanted and wanted not in became and files else None,
        lines=text.splitlines() if text is not None else None,
        size=len(data),
        rows=differences(was or "", text or "") if changed else (),
        total=sum(len(data) for data in files.values()),
    )


def _outputs(site: SiteRecord, built: CheckedBuild, ask: OutputQuery) -> Job[Outputs]:
    """The files that are asked for, or how far they are."""
    job = services().builds.outputs(site, built, ask.kinds, ask.compress, ask.drafts)
    job.wait(PATIENCE)
    return job


def _text(data: bytes) -> str | None:
    """A file as text; None for what is none, or is long."""
    try:
        return data.decode() if len(data) <= _SHOWN and b"\0" not in data else None
    except UnicodeDecodeError:
        return None


def archive(slug: str) -> Response | tuple[str, int]:
    """All files in one archive; refused while something stops the build."""
    site = services().store.get(slug)
    ask = OutputQuery.now()
    job = services().builds.of(site, ask.drafts)
    built = job.wait(PATIENCE)
    if built is None:
        return working(job, "output/building.html", site=site, ask=ask), 202
    if built.build.stops:
        abort(409, "The build is stopped by findings; the Output workspace lists them.")
    made = _outputs(site, built, ask)
    if made.result is None:
        return working(made, "output/building.html", site=site, ask=ask), 202
    plan = services().maps.good_plan(site)
    if plan is not None:
        services().addresses.handed_out(slug, plan)
    packed = zip_of((File(path, data) for path, data in made.result.files.items()), slug)
    return download(packed, f"{slug}.zip", "application/zip")


def application(slug: str) -> str:
    """How an output is set into an application that exists, with its own names, and which of its routes meet pages."""
    site = services().store.get(slug)
    form = Application.unchecked()
    asked = form.output.data if request.method == "POST" else request.args.get("output", "")
    kind = asked if asked in KITS else KITS[0]
    plan, error, names, is_open = services().maps.good_plan(site), "", ApplicationNames(), current_app.config["IS_OPEN"]
    if form.folder.data and not is_open:
        try:
            folder = Path(form.folder.data).expanduser()
            must_be_opened(folder, current_app.config["DATA"])
            names = application_names(folder, kind)
        except UsageError as problem:
            error = str(problem)
    return render_template(
        "output/application.html",
        site=site,
        kind=OUTPUT_FORMATS[kind],
        kinds=[OUTPUT_FORMATS[name] for name in KITS],
        steps=steps(kind, plan, names) if plan is not None else (),
        clashes=route_clashes(form.routes.data, plan) if plan is not None and form.routes.data else (),
        form=form,
        error=error,
        is_open=is_open,
        shown=_ROWS,
    )


def existing(slug: str, error: str = "") -> str:
    """The pages of a folder, and what a map would change, or has changed, in them."""
    site = services().store.get(slug)
    form = ExistingPages.unchecked()
    token = request.args.get("run", "")
    run = None
    if token and not error:
        job = services().inlays.job(token)
        run = job.wait(PATIENCE)
        if run is None and not job.reason:
            return working(job, "output/setting.html", site=site)
        error = job.reason
    report = run.report if run is not None and run.slug == slug else None
    folder = str(run.folder) if run is not None else form.folder.data or request.args.get("folder", "")
    changed = report.changed if report is not None else ()
    wanted = request.args.get("file")
    chosen = next((one for one in changed if one.file == wanted), changed[0] if changed else None)
    return render_template(
        "output/existing.html",
        site=site,
        folder=folder or services().inlays.folder_of(site),
        token=token,
        run=run,
        report=report,
        error=error,
        is_open=current_app.config["IS_OPEN"],
        chosen=chosen,
        rows=differences(*(as_text(data) for data in (chosen.before, chosen.after))) if chosen is not None else (),
        models=[one.file for one in report.results if one.file.lower().endswith(PAGE_ENDINGS)] if report else [],
        can_undo=services().inlays.can_undo(slug),
        shown=_ROWS,
    )


def refused(slug: str, problem: str) -> str:
    """The page with what is the matter."""
    return existing(slug, problem)


def file(slug: str) -> Response | tuple[str, int]:
    """One file, to be kept and not to be shown: it is never a page of this application."""
    site = services().store.get(slug)
    ask = OutputQuery.now()
    built = services().builds.of(site, ask.drafts).wait(PATIENCE)
    made = _outputs(site, built, ask).result if built is not None else None
    path, files = request.args.get("file", ""), made.files if made is not None else {}
    if path not in files:
        abort(404, "The build has no such file.")
    return download(files[path], path.rpartition("/")[2])
