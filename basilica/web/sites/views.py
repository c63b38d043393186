"""The list of sites, the archive, and one site at a glance."""

from __future__ import annotations

from flask import Response, render_template, request
from msgspec.structs import replace

from basilica.core.drawing import draw, folds
from basilica.core.plan.page_search import MOST
from basilica.web.answers import answered
from basilica.web.context import services
from basilica.web.map.view_model import pages_found
from basilica.web.sites.forms import NewSite


def index() -> str:
    """Every site, with a small drawing of its plan; where there is none yet, the form for the first one."""
    store = services().store
    rows = [(site, services().maps.overview(site)) for site in store.all()]
    archived = len(store.all(archived=True))
    return render_template("sites/index.html", rows=rows, archived=archived) if rows or archived else new()


def find() -> Response:
    """The pages of all sites that fit some letters, best first, each with its site's name before it."""
    rows = []
    for site in services().store.all():
        for score, row in pages_found(site.slug, request.args.get("words", "")):
            rows.append((score, replace(row, above=[site.name, *row.above])))
    rows.sort(key=lambda found: -found[0])
    return answered([row for _, row in rows[:MOST]])


def archived(error: str = "") -> str:
    """The sites that were archived."""
    return render_template("sites/archive.html", sites=services().store.all(archived=True), error=error)


def new(error: str = "") -> str:
    """The form for a new site, with what was typed."""
    return render_template("sites/new.html", form=NewSite.unchecked(), error=error)


def show(slug: str, error: str = "") -> str:
    """One site at a glance: its plan, its newest versions, and what can be done with the whole of it."""
    site = services().sites.open(slug)
    plan = services().maps.good_plan(site)
    drawing = draw(plan, folded=folds(plan)) if plan else None
    versions = services().store.versions(slug)
    return render_template("sites/show.html", site=site, drawing=drawing, states=versions, error=error)


def refused(slug: str, problem: str) -> str:
    """The page from which something was asked that is not done."""
    if request.endpoint == "sites.make":
        return new(problem)
    return archived(problem) if request.endpoint == "sites.delete" else show(slug, problem)
