"""Versions: listed with their reach, compared two by two, taken along, gone back to."""

from __future__ import annotations

from collections.abc import Mapping

from flask import Blueprint, Response, redirect, render_template, request, url_for
from werkzeug.wrappers import Response as BaseResponse

from basilica.core.diff.line_differences import differences
from basilica.core.outputs.archive import zip_of
from basilica.core.shared.output_file import File
from basilica.store.records import Conflict, NotFound, SiteRecord, Version
from basilica.web.context import site_services
from basilica.web.downloads import download
from basilica.web.values import whole_number

blueprint = Blueprint("history", __name__, template_folder="templates", url_prefix="/sites/<slug>/history")

NOW = "now"


@blueprint.get("")
def show(slug: str) -> str:
    """Every version, and two of them, or one and the current site, held against each other."""
    services = site_services()
    site = services.open(slug)
    states = services.sites.versions(slug)
    numbers = [state.id for state in states]
    newer = _number(request.args.get("newer"), numbers)
    older = _number(request.args.get("older"), numbers)
    if newer is None and older is None and site.is_saved and len(numbers) > 1 and request.args.get("newer") != NOW:
        newer = numbers[0]
    if older is None:
        after = numbers if newer is None else numbers[numbers.index(newer) + 1 :]
        older = after[0] if after else numbers[-1]
    before = services.sites.version(slug, older)
    after: SiteRecord | Version = site if newer is None else services.sites.version(slug, newer)
    if isinstance(after, Version):
        contents, files = after.contents, after.files
    else:
        contents, files = services.sites.contents(slug), services.files(site)
    return render_template(
        "history/show.html",
        site=site,
        states=states,
        older=older,
        newer=newer,
        rows=differences(before.text, after.text),
        contents=_differing(before.contents, contents),
        files=_differing(before.files, files),
        found=services.impact_between(slug, older, newer),
        back=request.args.get("back"),
    )


@blueprint.post("/<int:number>/back")
def back(slug: str, number: int) -> BaseResponse | tuple[str, int]:
    """Restore to a version, which keeps a new one; nothing is ever removed."""
    services = site_services()
    try:
        services.restore(slug, number, request.form.get("revision", -1, type=int))
    except Conflict:
        message = "The site was changed meanwhile, so nothing was done. Look at it again, and go back then."
        return render_template("error.html", code=409, message=message), 409
    return redirect(url_for("history.show", slug=slug, back=number), 303)


@blueprint.get("/<int:number>.yaml")
def text(slug: str, number: int) -> Response:
    """The map of a version, as a file."""
    return download(site_services().sites.version(slug, number).text, f"{slug}-{number}.yaml", "text/yaml")


@blueprint.get("/<int:number>.zip")
def archive(slug: str, number: int) -> Response:
    """A version with its content, as `basilica build` reads it, in one archive."""
    version = site_services().sites.version(slug, number)
    files = [File("site.yaml", version.text.encode())]
    files += [File(content.name, content.text.encode()) for content in version.contents.values()]
    files += [File(name, data) for name, data in version.files.items()]
    return download(zip_of(files, slug), f"{slug}-{number}.zip", "application/zip")


def _differing(before: Mapping[str, object], after: Mapping[str, object]) -> list[str]:
    return [name for name in sorted({**before, **after}) if before.get(name) != after.get(name)]


def _number(asked: str | None, numbers: list[int]) -> int | None:
    if asked is None or asked == NOW:
        return None
    number = whole_number(asked)
    if number is None or number not in numbers:
        raise NotFound(asked)
    return number
