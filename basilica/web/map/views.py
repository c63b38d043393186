"""The Map workspace as it is shown: the code, the plan, the chosen page, the menus."""

from __future__ import annotations

from typing import Any

from flask import Response, abort, render_template, request

from basilica.core.diff.deletion_impact import references_to
from basilica.core.exchange import items_from, write_list, write_table
from basilica.core.findings import CHECKS
from basilica.core.language.sections.menu_words import AUTO
from basilica.core.language.word_tree import word_tree
from basilica.core.map.site.written_place import written_elsewhere
from basilica.web.context import services
from basilica.web.downloads import download
from basilica.web.map.answers import MapState
from basilica.web.map.entry_form import KINDS, entry_form, files_of
from basilica.web.map.view_model import asked_view, chosen_page, drawn, facts
from basilica.web.values import whole_number


def show(slug: str) -> str:
    """The workspace, as the site stands."""
    site = services().sites.open(slug)
    reading = services().maps.read(site.text, services().store.contents(slug), site)
    plan = services().maps.good_plan(site)
    chosen = chosen_page(plan, request.args.get("page"))
    return render_template(
        "map/show.html",
        site=site,
        reading=reading,
        plan=plan,
        auto_words=AUTO,
        drawing=drawn(plan, asked_view(chosen)) if plan else None,
        state=MapState(
            slug=slug,
            text=site.text,
            revision=site.revision,
            contents=site.contents_digest,
            files=site.files_digest,
            saved=site.is_saved,
            chosen=chosen,
            folder=site.folder,
            words=word_tree((check.code, check.title) for check in CHECKS),
            **facts(reading, plan),
        ).plain(),
        **_page_facts(slug, chosen),
    )


def page(slug: str) -> str:
    """What is known of the chosen page, as a piece of a page."""
    site = services().store.get(slug)
    plan = services().maps.good_plan(site)
    chosen = chosen_page(plan, request.args.get("page"))
    return render_template("map/_page.html", site=site, plan=plan, **_page_facts(slug, chosen))


def menus(slug: str) -> str:
    """Every menu as a list whose entries can be moved, as a piece of a page."""
    plan = services().maps.good_plan(services().store.get(slug))
    return render_template("map/_menus.html", plan=plan)


def entry(slug: str) -> str:
    """The form for an entry of a menu, or for a new one, as a piece of a page."""
    site = services().store.get(slug)
    plan = services().maps.good_plan(site)
    menu, number = request.args.get("menu", ""), whole_number(request.args.get("number"))
    parent = whole_number(request.args.get("parent"))
    form = entry_form(plan, services().maps.good_text(site), menu, number, parent) if plan else None
    if form is None or plan is None:
        abort(404, "There is no such entry any more.")
    return render_template("map/_entry.html", entry=form, plan=plan, kinds=KINDS, files=files_of(plan))


def drawing(slug: str) -> str:
    """The plan drawn for another width, or with other folds."""
    plan = services().maps.good_plan(services().store.get(slug))
    return render_template("map/_plan.html", drawing=drawn(plan, asked_view()) if plan else None)


def plan_svg(slug: str) -> Response:
    """The plan as a picture by itself."""
    site = services().store.get(slug)
    plan = services().maps.good_plan(site)
    if plan is None:
        abort(404, "There is no plan yet: the map has errors.")
    picture = render_template("map/plan.svg", drawing=drawn(plan, asked_view()), site=site)
    return download(picture, f"{slug}-plan.svg", "image/svg+xml")


def as_list(slug: str, form: str) -> Response:
    """The site, or one page with those under it, as an indented list (``txt``) or a table (``csv``)."""
    plan = services().maps.good_plan(services().store.get(slug))
    key = request.args.get("page")
    if plan is None or form not in ("txt", "csv") or (key and key not in plan.site.pages):
        abort(404, "There is no such list.")
    items = items_from(plan, key or None)
    text = write_table(items) if form == "csv" else write_list(items)
    kind = "text/csv" if form == "csv" else "text/plain"
    if request.args.get("save"):
        return download(text, f"{slug}.{form}", kind)
    return Response(text, content_type=f"{kind}; charset=utf-8")


def _page_facts(slug: str, chosen: str | None) -> dict[str, Any]:
    contents = services().store.contents(slug)
    plan = services().maps.good_plan(services().store.get(slug))
    leading = references_to(plan, contents, chosen) if plan and chosen else []
    elsewhere = written_elsewhere(plan.site, chosen) if plan and chosen else None
    return {"chosen": chosen, "content": contents.get(chosen or ""), "leading": leading, "elsewhere": elsewhere}
