"""Versions: listed with what they changed, compared two by two, taken along."""

from __future__ import annotations

from collections.abc import Mapping

from flask import Response, render_template, request

from basilica.core.diff.line_differences import differences
from basilica.core.outputs.archive import zip_of
from basilica.core.shared.output_file import File
from basilica.store.records import NotFound, SiteRecord, Version
from basilica.web.context import services
from basilica.web.downloads import download
from basilica.web.values import whole_number

NOW = "now"


def show(slug: str) -> str:
    """Every version, and two of them, or one and the current site, held against each other."""
    site = services().sites.open(slug)
    states = services().store.versions(slug)
    numbers = [state.id for state in states]
    newer = _number(request.args.get("newer"), numbers)
    older = _number(request.args.get("older"), numbers)
    if newer is None and older is None and site.is_saved and len(numbers) > 1 and request.args.get("newer") != NOW:
        newer = numbers[0]
    if older is None:
        candidates = numbers if newer is None else numbers[numbers.index(newer) + 1 :]
        older = candidates[0] if candidates else numbers[-1]
    before = services().store.version(slug, older)
    after: SiteRecord | Version = site if newer is None else services().store.version(slug, newer)
    if isinstance(after, Version):
        contents, files = after.contents, after.files
    else:
        contents, files = services().store.contents(slug), services().maps.files(site)
    return render_template(
        "history/show.html",
        site=site,
        states=states,
        older=older,
        newer=newer,
        rows=differences(before.text, after.text),
        contents=_differing(before.contents, contents),
        files=_differing(before.files, files),
        found=services().comparisons.between(slug, older, newer),
        back=request.args.get("back"),
    )


def text(slug: str, number: int) -> Response:
    """The map of a version, as a file."""
    return download(services().store.version(slug, number).text, f"{slug}-{number}.yaml", "text/yaml")


def archive(slug: str, number: int) -> Response:
    """A version with its content, as `basilica build` reads it, in one archive."""
    version = services().store.version(slug, number)
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
