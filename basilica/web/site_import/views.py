"""Where a site that exists is named, and the report of what was found in it, before anything is made."""

from __future__ import annotations

from collections import Counter

from flask import current_app, render_template, request

from basilica.core.exchange.site_import.import_report import called
from basilica.core.plan.old_addresses import Answer
from basilica.services.job_queue import JobState
from basilica.web.site_import.forms import ExistingSite, MakeSite
from basilica.web.site_import.view_model import columns_of, differing, job_of
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
    return render_template(
        "site_import/report.html",
        reading=token,
        found=found,
        old=found.site,
        error=error,
        name=MakeSite.unchecked().name.data or found.site.name,
        columns=columns_of(found.site),
        differing=differing(found.site)[:SHOWN],
        more=len({one.file for one in found.site.drift}) - SHOWN,
        answers={one.address: one for one in found.answers},
        counts=Counter(one.answer for one in found.answers),
        charsets=Counter(page.page.charset for page in found.site.pages.values()),
        Answer=Answer,
        called=called,
        findings=findings,
        shown=SHOWN,
    )


def refused(_slug: str, problem: str) -> str:
    """The form again, or the report, with what is the matter."""
    token = (request.view_args or {}).get("token")
    return show(token, problem) if token else new(problem)
