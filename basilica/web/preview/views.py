"""The Preview workspace."""

from __future__ import annotations

from flask import Blueprint, Response, current_app, jsonify, render_template, request

from basilica.web.context import previews, workbench

blueprint = Blueprint("preview", __name__, template_folder="templates", url_prefix="/sites/<slug>/preview")

WIDTHS = {"phone": 390, "tablet": 768, "desktop": 1280}


@blueprint.get("")
def show(slug: str) -> str:
    """The workspace: the pages, and the one that is shown in its frame."""
    bench = workbench()
    site = bench.sites.get(slug)
    plan = bench.good_plan(site)
    chosen = None
    if plan:
        asked = request.args.get("page")
        chosen = asked if asked in plan.routes else plan.site.home
    token = previews().open(slug)
    root = f"{current_app.config['PREVIEW_ORIGIN']}/{token}"
    width = request.args.get("width", "desktop")
    return render_template(
        "preview/show.html",
        site=site,
        plan=plan,
        current=plan is not None and not bench.compiled(site.text).stops,
        chosen=chosen,
        width=width if width in WIDTHS else "desktop",
        script=request.args.get("script") != "off",
        widths=WIDTHS,
        state={
            "token": token,
            "root": root,
            "widths": WIDTHS,
            "pages": {key: route.path for key, route in plan.routes.items()} if plan else {},
            "chosen": chosen,
        },
    )


@blueprint.get("/seen")
def seen(slug: str) -> Response | tuple[Response, int]:
    """Which page a preview served last."""
    token = request.args.get("token", "")
    if previews().site(token) != slug:
        return jsonify(message="This preview has ended. Load the workspace again."), 404
    last = previews().seen(token)
    return jsonify(key=last.key, serial=last.serial)
