"""What is drawn is done to the text: edits on the plan, and lists that become maps."""

from __future__ import annotations

from flask import Response, jsonify, render_template

from basilica.core.diff.deletion_impact import deletion_impact
from basilica.core.edits import EditRejected, command_from
from basilica.core.exchange import Item, map_of, other_sections, read_list_or_table, site_section
from basilica.core.rules.finding import Finding, in_order
from basilica.web.context import site_services
from basilica.web.map.blueprint import blueprint, drawn
from basilica.web.values import data_of_request, text_in


@blueprint.post("/edit")
def apply_edit(slug: str) -> Response | tuple[Response, int]:
    """Do an edit to a text, and give it back. It is the browser that saves it, as one step that can be undone."""
    data = data_of_request()
    text, services = text_in(data), site_services()
    try:
        edited = services.edit(services.sites.get(slug), text, command_from(data.get("edit")))
    except EditRejected as refused:
        return jsonify(message=str(refused)), 422
    except ValueError as error:
        return jsonify(message=f"This cannot be done: {error}. Nothing was changed."), 422
    plan = services.compiled(text, slug).plan
    before = plan.site.pages if plan else {}
    moves = [(old, new) for old, new in edited.keys.items() if old != new]
    moves += [(old, None) for old in before if old not in edited.keys]  # type: ignore[misc]
    return jsonify(text=edited.text, words=edited.words, chosen=edited.chosen, moves=moves)


@blueprint.post("/going")
def going(slug: str) -> Response | tuple[Response, int]:
    """What goes with a page that is deleted: the pages under it, and every link that would die."""
    data = data_of_request()
    compiled = site_services().compiled(text_in(data), slug)
    key = data.get("key")
    if compiled.plan is None or compiled.stops or not isinstance(key, str) or key not in compiled.plan.site.pages:
        return jsonify(message="This page is not there any more, or the text has errors."), 422
    going = deletion_impact(compiled.plan, site_services().sites.contents(slug), key)
    shown = render_template("map/_going.html", plan=compiled.plan, going=going)
    return jsonify(shown=shown, edit={"edit": "delete-page", "key": key})


@blueprint.post("/list")
def from_list(slug: str) -> Response:
    """The map that a list or a table makes, with the plan of it, before it is taken."""
    data = data_of_request()
    services = site_services()
    items, findings = read_list_or_table(text_in(data, "list"))
    site = services.sites.get(slug)
    now = services.compiled(text_in(data), slug)
    good = site.last_valid_text if now.stops else text_in(data)  # what cannot be read has no sections to keep
    text, more = map_of(items, other_sections(good) or site_section(site.name))
    made, plan = services.compiled(text, slug).plan, services.compiled(good, slug).plan
    gone = [(key, None) for key in (plan.site.pages if plan else ()) if not made or key not in made.site.pages]
    return jsonify(text=text, empty=not items, moves=gone, shown=shown_list(text, items, findings + more))


def shown_list(text: str, items: tuple[Item, ...], findings: tuple[Finding, ...]) -> str:
    """What a list will make, as a piece of a page: its findings, the plan, the text."""
    compiled = site_services().compiled(text)
    plan = compiled.plan if not compiled.stops else None
    stoppers = tuple(finding for finding in compiled.findings if finding.stops)
    return render_template(
        "map/_list.html",
        text=text,
        items=items,
        findings=in_order(findings),
        stoppers=stoppers,
        plan=plan,
        drawing=drawn(plan, {"width": 560}) if plan else None,
    )
