"""What the script of the Map workspace asks: where a page is, what a change reaches, what the built pages say."""

from __future__ import annotations

from contextlib import suppress
from dataclasses import replace

from flask import Response, render_template, request

from basilica.core.diff import in_words
from basilica.core.map.map_files import linkable, linked_file
from basilica.core.outputs.static_site.template_environment import icon
from basilica.core.shared.icons import shapes
from basilica.core.shared.icons.own_icon import own_icon
from basilica.services.job_queue import JobState
from basilica.web.answers import Refusal, answered
from basilica.web.context import services
from basilica.web.map.answers import Changes, Proof, VersionImpact, VersionText
from basilica.web.map.view_model import pages_found, underlined

PATIENCE = 0.5
"""Seconds that a request waits for a build."""


def find(slug: str) -> Response:
    """The pages that fit some letters, best first."""
    return answered([row for _, row in pages_found(slug, request.args.get("words", ""))])


def impact(slug: str) -> Response:
    """What has changed since the latest version: in numbers, in full, and as marks for the plan."""
    site = services().store.get(slug)
    found = services().comparisons.since_version(site)
    if found is None:
        full = render_template("map/_impact.html", found=None, site=site)
        return answered(VersionImpact(bar="", full=full, marks={}, same=False))
    marks = {change.key: "renamed" for change in found.retitled}
    marks |= {move.new: "moved" for move in found.moved}
    marks |= dict.fromkeys(found.added, "new")
    return answered(
        VersionImpact(
            bar=in_words(found),
            full=render_template("map/_impact.html", found=found, site=site),
            marks=marks,
            same=found.nothing and not marks and not found.gone,
        )
    )


def version_text(slug: str) -> Response:
    """The text of the latest version, to be held against."""
    store = services().store
    return answered(VersionText(text=store.version(slug, store.versions(slug)[0].id).text))


def icons(slug: str) -> Response:
    """The names of the icons that an entry may have."""
    files = services().maps.files(services().store.summary(slug))
    response = answered([*(name for name in linkable(files) if name.endswith(".svg")), *shapes()])
    response.headers["Cache-Control"] = "private, max-age=60"
    return response


def drawn_icons(slug: str) -> str:
    """Some icons as buttons, to choose one of."""
    asked, known = request.args.get("names", "").split()[:60], shapes()
    files = services().maps.files(services().store.summary(slug))
    drawn = []
    for name in asked:
        file = linked_file(name, files)
        if name in known:
            drawn.append((name, icon(name)))
        elif file is not None:
            with suppress(ValueError):
                drawn.append((name, icon(name, own_icon(files[file]))))
    return render_template("map/_icons.html", icons=drawn)


def proof(slug: str) -> Response | tuple[Response, int]:
    """Everything that is off, that in the built files included; 202 while the build is not done."""
    site = services().store.get(slug)
    job = services().builds.of(site)
    built = job.wait(PATIENCE)
    if job.state is JobState.FAILED:
        return answered(Refusal(message=f"The pages were not checked. {job.reason}")), 503
    if built is None:
        return answered(Proof(revision=site.revision)), 202
    reading = services().maps.read(site.text, services().store.contents(slug), site)
    reading = replace(reading, findings=built.build.findings)
    return answered(
        Proof(
            revision=site.revision,
            findings=underlined(reading),
            lists=render_template("map/_findings.html", site=site, reading=reading),
            status=render_template("map/_status.html", site=site, reading=reading, is_proved=True),
        )
    )


def changes(slug: str) -> Response:
    """Whether the site was changed from elsewhere: its revision, and its text where that is not the one asked from."""
    site = services().sites.open(slug)
    same = request.args.get("revision", type=int) == site.revision
    text = None if same else site.text
    marks = {"contents": site.contents_digest, "files": site.files_digest}
    return answered(Changes(revision=site.revision, text=text, saved=site.is_saved, **marks))
