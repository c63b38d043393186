"""The Preview workspace."""

from __future__ import annotations

from flask import Response, current_app, render_template, request

from basilica.core.diff.part_differences import part_differences
from basilica.core.plan import Plan, other_languages
from basilica.core.shared.locales import own_name
from basilica.store.records import NotFound
from basilica.web.answers import Refusal, answered
from basilica.web.context import services
from basilica.web.preview.answers import DifferingPart, PreviewState, ServedPages
from basilica.web.preview.preview_options import SWITCHES

WIDTHS = {"phone": 390, "tablet": 768, "desktop": 1280}
VIEWS = {"all": "All three", "phone": "Phone", "tablet": "Tablet", "desktop": "Desktop", "over": "Overlay"}


def show(slug: str) -> str:
    """The workspace: the pages, and the one that is shown in its frame."""
    site = services().store.get(slug)
    plan = services().maps.good_plan(site)
    chosen = None
    if plan:
        asked = request.args.get("page")
        chosen = asked if asked in plan.routes else plan.site.home
    token = services().previews.sessions.open(slug)
    root = f"{current_app.config['PREVIEW_ORIGIN']}/{token}"
    width = request.args.get("width", "all")
    states = [
        (state.id, f"{state.saved_at:%d %b %H:%M} {state.note}".strip()) for state in services().store.versions(slug)
    ]
    return render_template(
        "preview/show.html",
        site=site,
        plan=plan,
        current=plan is not None and services().maps.is_good(site),
        chosen=chosen,
        languages=[(tag, own_name(tag, plan.languages)) for tag in plan.languages] if plan else [],
        width=width if width in VIEWS else "all",
        views=VIEWS,
        states=states,
        switches=SWITCHES,
        on=request.args.get("on", ""),
        asked={name: request.args.get(name, "") for name in ("state", "other", "otherstate")},
        script=request.args.get("script") != "off",
        widths=WIDTHS,
        state=PreviewState(
            token=token,
            root=root,
            widths=list(WIDTHS.items()),
            pages=_addresses(plan) if plan else [],
            chosen=chosen,
        ).plain(),
    )


def _addresses(plan: Plan) -> list[tuple[str, str]]:
    """Where the pages are in all languages, by their ids: those of the first, then what is built in the others."""
    found = [(key, route.path) for key, route in plan.routes.items()]
    for other in other_languages(plan):
        found += [(other.id_of(key), other.routes[key].path) for key in other.builds()]
    return found


def _in_its_language(plan: Plan | None, page: str) -> tuple[Plan | None, str]:
    """A page by its id: the plan of its language, and its key."""
    key, _, tag = page.partition("@")
    return (plan.languages.get(tag) if plan is not None and tag else plan), key


def seen(slug: str) -> Response | tuple[Response, int]:
    """Which pages a preview served last."""
    token = request.args.get("token", "")
    if services().previews.sessions.site(token.partition(".")[0]) != slug:
        return answered(Refusal(message="This preview has ended. Load the workspace again.")), 404
    last = services().previews.sessions.seen(token)
    return answered(ServedPages(keys=list(last.keys), serial=last.serial))


def differing(slug: str) -> Response | tuple[Response, int]:
    """What differs in the shared parts of two pages, each of the current site or of a version."""
    site = services().store.get(slug)
    found = []
    for page, state in (("page", "state"), ("other", "otherstate")):
        key, number = request.args.get(page, ""), request.args.get(state, type=int)
        try:
            plan, key = _in_its_language(services().maps.plan_of(site, number), key)
        except NotFound:
            return answered(Refusal(message="This version is not there any more.")), 404
        if plan is None or key not in plan.routes:
            which = "version" if number else "current site"
            return answered(Refusal(message=f"The {which} has no page `{key[:200]}` that could be shown.")), 404
        found.append((plan, key))
    parts = part_differences(*found)
    return answered([DifferingPart(part=one.part, selector=one.selector, words=list(one.words)) for one in parts])
