"""Questions about the map: where a page is, what a change reaches, how the site is as a list."""

from __future__ import annotations

from typing import Any

from flask import Response, jsonify, render_template, request, url_for

from basilica.core.diff import in_words
from basilica.core.exchange import items_from, write_list, write_table
from basilica.core.plan.page_search import find_pages
from basilica.core.shared.icons import shapes
from basilica.web.context import site_services
from basilica.web.downloads import download
from basilica.web.map.blueprint import blueprint


@blueprint.get("/find")
def find(slug: str) -> Response:
    """The pages that fit some letters, best first."""
    return jsonify([row for _, row in found_in(slug, request.args.get("words", ""))])


def found_in(slug: str, words: str) -> list[tuple[float, dict[str, Any]]]:
    """The pages of a site that fit some letters: how well, and what is shown of them."""
    plan = site_services().good_plan(site_services().sites.get(slug))
    rows: list[tuple[float, dict[str, Any]]] = []
    for found in find_pages(plan, words[:200]) if plan else ():
        page = plan.site.pages[found.key]
        row = {
            "key": page.key,
            "label": page.label,
            "path": plan.path_of(found.key),
            "above": [plan.site.pages[key].label for key in plan.trail(found.key)[:-1]],
            "href": url_for("map.show", slug=slug, page=page.key),
        }
        rows.append((found.score, row))
    return rows


@blueprint.get("/reach")
def impact(slug: str) -> Response:
    """What has changed since the latest version: in numbers, in full, and as marks for the plan."""
    services = site_services()
    site = services.sites.get(slug)
    found = services.impact(site)
    if found is None:
        return jsonify(bar="", full=render_template("map/_impact.html", found=None, site=site), marks={})
    marks = {change.key: "renamed" for change in found.retitled}
    marks |= {move.new: "moved" for move in found.moved}
    marks |= dict.fromkeys(found.added, "new")
    return jsonify(
        bar=in_words(found),
        full=render_template("map/_impact.html", found=found, site=site),
        marks=marks,
        same=found.nothing and not marks and not found.gone,
    )


@blueprint.get("/listed.<form>")
def as_list(slug: str, form: str) -> Response | tuple[str, int]:
    """The site, or one page with those under it, as an indented list (``txt``) or a table (``csv``)."""
    plan = site_services().good_plan(site_services().sites.get(slug))
    key = request.args.get("page")
    if plan is None or form not in ("txt", "csv") or (key and key not in plan.site.pages):
        return render_template("error.html", code=404, message="There is no such list."), 404
    items = items_from(plan, key or None)
    text = write_table(items) if form == "csv" else write_list(items)
    kind = "text/csv" if form == "csv" else "text/plain"
    if request.args.get("save"):
        return download(text, f"{slug}.{form}", kind)
    return Response(text, content_type=f"{kind}; charset=utf-8")


@blueprint.get("/icons")
def icons(slug: str) -> Response:
    """The names of the icons that an entry may have."""
    response = jsonify(list(shapes()))
    response.headers["Cache-Control"] = "private, max-age=3600"
    return response
