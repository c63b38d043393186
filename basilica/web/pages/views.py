"""The Pages workspace: one page as the site sees it, and its settings, each an edit of the map's text."""

from __future__ import annotations

import re

from flask import Blueprint, current_app, flash, redirect, render_template, request, url_for
from werkzeug.wrappers import Response as BaseResponse

from basilica.core.content import layouts_of
from basilica.core.diff.deletion_impact import references_to
from basilica.core.edits import EditRejected, page_option_values, plain_value
from basilica.core.edits.commands.set_word import SetWord
from basilica.core.map.schema import sections as words
from basilica.store.records import Conflict, SiteRecord
from basilica.web.context import previews, site_services
from basilica.web.map.saving import CONTENT_CHARACTERS
from basilica.web.pages.view_model import page_view

blueprint = Blueprint("pages", __name__, template_folder="templates", url_prefix="/sites/<slug>/pages")

CHOICES = {word.name: word for word in words.PAGE if word.values}
_STILL = "What you typed is still here: look at the map, and write again."
_SLOT = re.compile(r"[a-z0-9-]{1,60}")
_UNDO = 1500
"""Characters of old values that are remembered, so that they can be put back."""


@blueprint.get("")
def show(slug: str) -> str:
    """One page of the newest good text."""
    return _page(site_services().open(slug), request.args.get("page"), {}, "")


@blueprint.post("")
def write(slug: str) -> BaseResponse | tuple[str, int]:
    """Write the settings that were changed, all of them or none."""
    services = site_services()
    site = services.open(slug)
    key = request.form.get("page", "")
    compiled = services.compiled(site.text, site)
    if compiled.plan is None or compiled.stops:
        return _page(site, key, _submitted(), "The map has errors, so nothing was written. " + _STILL), 422
    if key not in compiled.plan.site.pages:
        return _page(site, key, {}, "There is no such page any more."), 404
    page = compiled.plan.site.pages[key]
    now = page_option_values(page)
    submitted = {word: value for word, value in _submitted().items() if value != now[word]}
    if not submitted:
        return redirect(url_for("pages.show", slug=slug, page=key), 303)
    try:
        text = services.edit(site, site.text, *(SetWord(key, word, value) for word, value in submitted.items())).text
        services.save(slug, text, request.form.get("revision", -1, type=int), True)
    except EditRejected as refused:
        return _page(site, key, _submitted(), str(refused)), 422
    except Conflict:
        message = "The site was changed meanwhile, so nothing was written. " + _STILL
        return _page(services.open(slug), key, _submitted(), message), 409
    old = {word: now[word] for word in submitted}
    flash({"words": sorted(submitted), "old": old if sum(map(len, old.values())) < _UNDO else {}})  # type: ignore[arg-type]
    return redirect(url_for("pages.show", slug=slug, page=key), 303)


@blueprint.post("/text")
def write_text(slug: str) -> BaseResponse | tuple[str, int]:
    """Save the text of a page, or of a slot of its layout; an empty one removes it."""
    services = site_services()
    key, slot = request.form.get("page", ""), request.form.get("slot", "").strip()
    text, was = (request.form.get(name, "").replace("\r\n", "\n") for name in ("text", "was"))
    site = services.open(slug)
    plan = services.good_plan(site)
    if plan is None or key not in plan.site.pages:
        return _page(site, key, {}, "There is no such page any more, so its text was not saved.", text), 404
    problem = ""
    if len(text) > CONTENT_CHARACTERS:
        problem = f"A page's text has at most {CONTENT_CHARACTERS:,} characters. {_STILL}"
    elif slot and not _SLOT.fullmatch(slot):
        problem = f"`{slot[:60]}` cannot be the name of a slot. {_STILL}"
    if problem:
        return _page(site, key, {}, problem, text), 422
    try:
        markup = request.form.get("markup")
        services.write(slug, f"{key}.{slot}" if slot else key, text, was, markup if markup in ("md", "html") else None)
    except Conflict:
        return _page(services.open(slug), key, {}, f"The text was changed from elsewhere. {_STILL}", text), 409
    return redirect(url_for("pages.show", slug=slug, page=key, slot=slot or None, _anchor="text"), 303)


def _submitted() -> dict[str, str]:
    """What the form says, by word. What it lacks is as it was."""
    known = [word for word in request.form.getlist("word") if word in page_option_values(None)]
    return {word: plain_value(word, " ".join(request.form.getlist(word))) for word in known}


def _page(site: SiteRecord, submitted: str | None, typed: dict[str, str], problem: str, text: str | None = None) -> str:
    """The workspace with a page of the newest good text chosen, and what was ``typed`` in its form."""
    services = site_services()
    plan = services.good_plan(site)
    chosen = None
    view = None
    leading = []
    contents = services.sites.contents(site.slug)
    if plan:
        chosen = submitted if submitted in plan.site.pages else plan.site.home
        good = site.text if not services.compiled(site.text, site).stops else site.last_valid_text
        site_version = services.site_version(good, contents, site.contents_digest, services.files(site))
        if chosen is not None and site_version is not None:
            view = page_view(site_version.plan, site_version.with_drafts, chosen)
            leading = references_to(site_version.plan, contents, chosen)
    return render_template(
        "pages/show.html",
        site=site,
        plan=plan,
        current=not services.compiled(site.text, site).stops,
        chosen=chosen,
        view=view,
        leading=leading,
        own={**page_option_values(plan.site.pages[chosen]), **typed} if plan and chosen else {},
        choices=CHOICES,
        layouts=layouts_of(plan.site.files).good if plan else (),
        problem=problem,
        slot=(slot := request.values.get("slot", "").strip()),
        slots=layouts_of(plan.site.files).contained[plan.assignment_of(chosen).layout][1] if plan and chosen else (),
        content=contents.get(f"{chosen}.{slot}" if slot else chosen or ""),
        with_text=[name.partition(".")[2] for name in contents if name.startswith(f"{chosen}.")],
        text=text,
        root=f"{current_app.config['PREVIEW_ORIGIN']}/{previews().open(site.slug)}",
    )
