"""Where a site that exists is named, and the report of what was found in it, before anything is made."""

from __future__ import annotations

from collections import Counter
from urllib.parse import quote

from flask import Response, abort, current_app, render_template, request

from basilica.core.exchange.site_import.framed_page import place_of_menu
from basilica.core.exchange.site_import.import_report import called, place_of
from basilica.core.plan.old_addresses import Answer
from basilica.services.job_queue import JobState
from basilica.services.site_imports import SiteImport
from basilica.services.site_stays import archive_of
from basilica.web.context import services
from basilica.web.downloads import download
from basilica.web.site_import.forms import ExistingSite, MakeSite, StaySite
from basilica.web.site_import.view_model import columns_of, differing, job_of, page_differences
from basilica.web.working import working

PATIENCE = 1.0
"""Seconds that a request waits for a reading before it shows how far that has come."""
SHOWN = 200
"""Rows of a table that are shown."""


def new(error: str = "") -> str:
    """The form for a site that exists, with what was typed."""
    form = ExistingSite.unchecked()
    return render_template("site_import/new.html", form=form, error=error, is_open=current_app.config["IS_OPEN"])


def show(token: str, error: str = "") -> str:
    """What was found; or how far the reading is."""
    job = job_of(token)
    found = job.wait(PATIENCE)
    if found is None:
        if job.state is JobState.DONE or job.reason:
            return new(job.reason)
        return working(job, "site_import/reading.html", reading=token)
    findings = Counter(f.code for f in found.build.findings if f.level in ("error", "warning") and not f.ignored)
    rows = differing(found.site)
    return render_template(
        "site_import/report.html",
        reading=token,
        found=found,
        old=found.site,
        error=error,
        name=MakeSite.unchecked().name.data or found.site.name,
        columns=columns_of(found.site),
        differing=rows[:SHOWN],
        more=len(rows) - SHOWN,
        count=sum(len(each.pages) for each in found.site.in_languages),
        translation_of={tag: {b: a for a, b in pairs.items()} for tag, pairs in found.site.partners.items()},
        answers={one.address: one for one in found.answers},
        counts=Counter(one.answer for one in found.answers),
        charsets=Counter(page.page.charset for each in found.site.in_languages for page in each.pages.values()),
        Answer=Answer,
        called=called,
        place_of=place_of,
        findings=findings,
        shown=SHOWN,
        frames=[_frame(found, token, number) for number in range(len(found.site.menus))],
    )


def _frame(found: SiteImport, token: str, number: int) -> str:
    """The address at which a menu is shown on a page that has it."""
    file, anchor = place_of_menu(found.site, number) or ("", "")
    return f"{current_app.config['PREVIEW_ORIGIN']}/existing/{token}/{number}/{quote(file)}#{quote(anchor)}"


def stay(token: str, error: str = "") -> str:
    """What becomes of the pages if they stay where they are; or how far that is worked out."""
    form = StaySite.unchecked()
    left = frozenset(request.args.getlist("left") or form.left.data)
    reading = services().imports.reading(token)
    job = services().imports.stay(token, left)
    found = job.wait(PATIENCE)
    if found is None:
        return show(token, job.reason) if job.reason else working(job, "site_import/reading.html", reading=token)
    return render_template(
        "site_import/stay.html",
        reading=token,
        found=found,
        folder=reading.folder if not current_app.config["IS_OPEN"] else None,
        error=error,
        name=form.name.data or found.site.name,
        left=left,
        exceptions=sorted(left),
        rows={one.file: page_differences(one) for one in found.mended[:SHOWN]},
        more=len(found.mended) - SHOWN,
        called=called,
    )


def stay_archive(token: str) -> Response:
    """The pages with their marks, and their map, as an archive."""
    left = frozenset(request.args.getlist("left"))
    reading = services().imports.reading(token)
    found = services().imports.stay(token, left).wait(PATIENCE * 20)
    if found is None:
        abort(409, "What changes is still being worked out. Try again in a moment.")
    return download(archive_of(found, reading.files), "site-with-marks.zip", "application/zip")


def refused(_slug: str, problem: str) -> str:
    """The form again, or the report, with what is the matter."""
    token = (request.view_args or {}).get("token")
    if token and request.path.endswith("/stay"):
        return stay(token, problem)
    return show(token, problem) if token else new(problem)
