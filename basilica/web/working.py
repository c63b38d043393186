"""Pages that wait for long work: how far it has come, or why it will not be done."""

from __future__ import annotations

from typing import Any

from flask import redirect, render_template, request, url_for
from werkzeug.wrappers import Response

from basilica.services.job_queue import Job, JobState
from basilica.web.context import services


def working(job: Job[Any], template: str, **values: Any) -> str:
    """The page of ``template``, a `working.html`, for a job that has no result."""
    return render_template(template, job=job, failed=job.state is JobState.FAILED, **values)


def stop_or_begin_again(slug: str, workspace: str, **query: Any) -> Response:
    """Stop what is on its way for a site; go to its map, or begin it again where that was asked for."""
    services().builds.forget(services().store.summary(slug).slug)
    if request.form.get("again"):
        return redirect(url_for(workspace, slug=slug, **query), 303)
    return redirect(url_for("map.show", slug=slug), 303)
