"""The Output workspace: the files that a build makes, of one output or of several."""

from __future__ import annotations

from dataclasses import dataclass
from urllib.parse import urlencode

from flask import Blueprint, Response, redirect, render_template, request, url_for
from werkzeug.wrappers import Response as BaseResponse

from basilica.core.diff.line_differences import differences
from basilica.core.outputs.archive import zip_of
from basilica.core.outputs.output_formats import OUTPUT_FORMATS, SITE, OutputFormat
from basilica.core.shared.output_file import File
from basilica.web.context import site_services
from basilica.web.downloads import download
from basilica.web.output.file_tree import file_tree, states

blueprint = Blueprint("output", __name__, template_folder="templates", url_prefix="/sites/<slug>/output")

PATIENCE = 1.0
"""Seconds that a request waits for a build before it shows how far that has come."""
_SHOWN = 400_000
"""Bytes of a file that are shown; whoever wants more downloads it."""


@dataclass(frozen=True, slots=True)
class OutputQuery:
    """What is asked for: outputs, and whether with drafts and with compressed copies."""

    kinds: tuple[OutputFormat, ...]
    drafts: bool
    compress: bool

    @classmethod
    def now(cls) -> OutputQuery:
        """As the address says; the static site where it does not."""
        kinds = tuple(
            OUTPUT_FORMATS[name] for name in dict.fromkeys(request.args.getlist("output")) if name in OUTPUT_FORMATS
        )
        return cls(kinds or (SITE,), request.args.get("drafts") == "yes", request.args.get("compress") == "yes")

    def query(self, **more: str) -> str:
        """The same for an address, with more behind it."""
        pairs = [("output", kind.name) for kind in self.kinds if self.kinds != (SITE,)]
        pairs += [("drafts", "yes")] if self.drafts else []
        pairs += [("compress", "yes")] if self.compress else []
        return "?" + urlencode([*pairs, *more.items()])

    def commands(self) -> list[str]:
        """The commands that do the same in a terminal."""
        more = (" --drafts" if self.drafts else "") + (" --compress" if self.compress else "")
        return [
            f"basilica build site.yaml --out {kind.name}{'' if kind is SITE else f' --output {kind.name}'}{more}"
            for kind in self.kinds
        ]


@blueprint.get("")
def show(slug: str) -> str:
    """The files of a build of the current text; or what stops it."""
    services = site_services()
    site = services.sites.get(slug)
    ask = OutputQuery.now()
    job = services.build(site, ask.drafts)
    build = job.wait(PATIENCE)
    if build is None:
        return render_template("output/building.html", site=site, job=job, ask=ask)
    files, before = services.outputs(site, build, ask.kinds, ask.compress, ask.drafts)
    became = states(files, before)
    wanted = request.args.get("file")
    chosen = wanted if wanted in became else next(iter(files), None)
    data = files.get(chosen or "", (before or {}).get(chosen or "", b""))
    old = (before or {}).get(chosen or "")
    text, was = _text(data), _text(old) if old is not None else None
    changed = chosen is not None and became[chosen] == "changed" and text is not None and was is not None
    return render_template(
        "output/show.html",
        site=site,
        ask=ask,
        kinds=OUTPUT_FORMATS.values(),
        has_drafts=bool((plan := services.good_plan(site)) and plan.drafts),
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


def _text(data: bytes) -> str | None:
    """A file as text; None for what is none, or is long."""
    try:
        return data.decode() if len(data) <= _SHOWN and b"\0" not in data else None
    except UnicodeDecodeError:
        return None


@blueprint.post("/stop")
def stop(slug: str) -> BaseResponse:
    """Stop a build that is on its way."""
    services = site_services()
    services.build(services.sites.get(slug), OutputQuery.now().drafts).stop()
    return redirect(url_for("map.show", slug=slug), 303)


@blueprint.get("/archive.zip")
def archive(slug: str) -> Response | tuple[str, int]:
    """All files in one archive; refused while something stops the build."""
    services = site_services()
    site = services.sites.get(slug)
    ask = OutputQuery.now()
    job = services.build(site, ask.drafts)
    build = job.wait(PATIENCE)
    if build is None:
        return render_template("output/building.html", site=site, job=job, ask=ask), 202
    if build.stops:
        return render_template(
            "error.html", code=409, message="The build is stopped by findings; the Output workspace lists them."
        ), 409
    files, _ = services.outputs(site, build, ask.kinds, ask.compress, ask.drafts)
    packed = zip_of((File(path, data) for path, data in files.items()), slug)
    return download(packed, f"{slug}.zip", "application/zip")


@blueprint.get("/file")
def file(slug: str) -> Response | tuple[str, int]:
    """One file, to be kept and not to be shown: it is never a page of this application."""
    services = site_services()
    site = services.sites.get(slug)
    ask = OutputQuery.now()
    build = services.build(site, ask.drafts).wait(PATIENCE)
    path = request.args.get("file", "")
    files = services.outputs(site, build, ask.kinds, ask.compress, ask.drafts)[0] if build else {}
    if path not in files:
        return render_template("error.html", code=404, message="The build has no such file."), 404
    return download(files[path], path.rpartition("/")[2])
