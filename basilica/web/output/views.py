"""The Output workspace: the files that a build makes."""

from __future__ import annotations

from flask import Blueprint, Response, redirect, render_template, request, url_for
from werkzeug.wrappers import Response as BaseResponse

from basilica.core.archive import zip_of
from basilica.web.context import workbench

blueprint = Blueprint("output", __name__, template_folder="templates", url_prefix="/sites/<slug>/output")

PATIENCE = 1.0
"""Seconds that a request waits for a build before it shows how far that has come."""


@blueprint.get("")
def show(slug: str) -> str:
    """The files of a build of the text as it stands; or what stops it."""
    bench = workbench()
    site = bench.sites.get(slug)
    drafts = _drafts()
    job = bench.build(site, drafts)
    build = job.wait(PATIENCE)
    if build is None:
        return render_template("output/building.html", site=site, job=job, drafts=drafts)
    files = {file.path: file.data for file in build.files}
    asked = request.args.get("file")
    chosen = asked if asked in files else next(iter(files), None)
    return render_template(
        "output/show.html",
        site=site,
        drafts=drafts,
        has_drafts=bool((plan := bench.good_plan(site)) and plan.drafts),
        build=build,
        files=files,
        chosen=chosen,
        missing=asked if asked and asked not in files and files else None,
        lines=files[chosen].decode("utf-8", "replace").splitlines() if chosen else [],
        total=sum(len(data) for data in files.values()),
    )


@blueprint.post("/stop")
def stop(slug: str) -> BaseResponse:
    """Stop a build that is on its way."""
    bench = workbench()
    bench.build(bench.sites.get(slug), _drafts()).stop()
    return redirect(url_for("map.show", slug=slug), 303)


@blueprint.get("/archive.zip")
def archive(slug: str) -> Response | tuple[str, int]:
    """The whole built site in one archive; refused while something stops the build."""
    bench = workbench()
    site = bench.sites.get(slug)
    build = bench.build(site, _drafts()).wait(PATIENCE)
    if build is None:
        return render_template(
            "output/building.html", site=site, job=bench.build(site, _drafts()), drafts=_drafts()
        ), 202
    if build.stops:
        return render_template(
            "error.html", code=409, message="The build is stopped by findings; the Output workspace lists them."
        ), 409
    headers = {"Content-Disposition": f'attachment; filename="{slug}.zip"'}
    return Response(zip_of(build.files, slug), content_type="application/zip", headers=headers)


def _drafts() -> bool:
    """Whether drafts are asked for."""
    return request.args.get("drafts") == "yes"
