"""The Map workspace as it is shown: the code, the plan, the chosen page, the menus."""

from __future__ import annotations

from typing import Any

from flask import Response, render_template, request

from basilica.core.diff.deletion_impact import references_to
from basilica.core.findings import CHECKS
from basilica.core.map.schema import sections as words
from basilica.web.context import site_services
from basilica.web.downloads import download
from basilica.web.map.blueprint import blueprint, chosen_page, drawn, facts


@blueprint.get("")
def show(slug: str) -> str:
    """The workspace, as the site stands."""
    services = site_services()
    site = services.open(slug)
    reading = services.read(site.text, services.sites.contents(slug), site)
    plan = services.good_plan(site)
    chosen = chosen_page(plan, request.args.get("page"))
    return render_template(
        "map/show.html",
        site=site,
        reading=reading,
        plan=plan,
        drawing=drawn(plan, {**request.args, "chosen": chosen}) if plan else None,
        state={
            "slug": slug,
            "text": site.text,
            "revision": site.revision,
            "saved": site.is_saved,
            "chosen": chosen,
            "folder": site.folder,
            "words": _words(),
            **facts(reading, plan),
        },
        **_page_facts(slug, chosen),
    )


@blueprint.get("/page")
def page(slug: str) -> str:
    """What is known of the chosen page, as a piece of a page."""
    services = site_services()
    site = services.sites.get(slug)
    plan = services.good_plan(site)
    chosen = chosen_page(plan, request.args.get("page"))
    return render_template("map/_page.html", site=site, plan=plan, **_page_facts(slug, chosen))


@blueprint.get("/menus")
def menus(slug: str) -> str:
    """Every menu as a list whose entries can be moved, as a piece of a page."""
    plan = site_services().good_plan(site_services().sites.get(slug))
    return render_template("map/_menus.html", plan=plan)


@blueprint.get("/drawing")
def drawing(slug: str) -> str:
    """The plan drawn for another width, or with other folds."""
    services = site_services()
    plan = services.good_plan(services.sites.get(slug))
    return render_template("map/_plan.html", drawing=drawn(plan, {**request.args}) if plan else None)


@blueprint.get("/plan.svg")
def plan_svg(slug: str) -> Response | tuple[str, int]:
    """The plan as a picture by itself."""
    services = site_services()
    site = services.sites.get(slug)
    plan = services.good_plan(site)
    if plan is None:
        return render_template("error.html", code=404, message="There is no plan yet: the map has errors."), 404
    picture = render_template("map/plan.svg", drawing=drawn(plan, {**request.args}), site=site)
    return download(picture, f"{slug}-plan.svg", "image/svg+xml")


def _page_facts(slug: str, chosen: str | None) -> dict[str, Any]:
    services = site_services()
    contents = services.sites.contents(slug)
    plan = services.good_plan(services.sites.get(slug))
    leading = references_to(plan, contents, chosen) if plan and chosen else []
    return {"chosen": chosen, "content": contents.get(chosen or ""), "leading": leading}


def _words() -> dict[str, list[dict[str, Any]]]:
    found = {
        section: [{"name": word.name, "meaning": word.meaning, "values": word.values} for word in known]
        for section, known in words.SECTIONS.items()
    }
    levels = words.LEVEL[0].values
    found["codes"] = [{"name": check.code, "meaning": check.title, "values": levels} for check in CHECKS]
    return found
