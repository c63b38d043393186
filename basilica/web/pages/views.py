"""The Pages workspace: one page as the site sees it, and its settings, each an edit of the map's text."""

from __future__ import annotations

import re

from flask import Blueprint, current_app, flash, redirect, render_template, request, url_for
from werkzeug.wrappers import Response as BaseResponse

from basilica.core.content import layouts_of
from basilica.core.diff.deletion_impact import references_to
from basilica.core.edits import Edited, Refused, SetWord, edit, own_words, plain_value
from basilica.core.map.schema import sections as words
from basilica.store.sites import SiteRecord, Stale
from basilica.web.context import previews, workbench
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
    return _page(workbench().open(slug), request.args.get("page"), {}, "")


@blueprint.post("")
def write(slug: str) -> BaseResponse | tuple[str, int]:
    """Write the settings that were changed, all of them or none."""
    bench = workbench()
    site = bench.open(slug)
    key = request.form.get("page", "")
    compiled = bench.compiled(site.text, site)
    if compiled.plan is None or compiled.stops:
        return _page(site, key, _asked(), "The map has errors, so nothing was written. " + _STILL), 422
    if key not in compiled.plan.site.pages:
        return _page(site, key, {}, "There is no such page any more."), 404
    page = compiled.plan.site.pages[key]
    now = own_words(page)
    asked = {word: value for word, value in _asked().items() if value != now[word]}
    edited: Edited | None = None
    text = site.text
    try:
        for word, value in asked.items():
            edited = edit(bench.compiled(text, site), text, SetWord(key, word, value))
            text = edited.text
        if edited is None:
            return redirect(url_for("pages.show", slug=slug, page=key), 303)
        bench.save(slug, text, request.form.get("revision", -1, type=int), True)
    except Refused as refused:
        return _page(site, key, _asked(), str(refused)), 422
    except Stale:
        message = "The site was changed meanwhile, so nothing was written. " + _STILL
        return _page(bench.open(slug), key, _asked(), message), 409
    old = {word: now[word] for word in asked}
    flash({"words": sorted(asked), "old": old if sum(map(len, old.values())) < _UNDO else {}})  # type: ignore[arg-type]
    return redirect(url_for("pages.show", slug=slug, page=key), 303)


@blueprint.post("/text")
def write_text(slug: str) -> BaseResponse | tuple[str, int]:
    """Save the text of a page, or of a slot of its layout; an empty one removes it."""
    bench = workbench()
    key, slot = request.form.get("page", ""), request.form.get("slot", "").strip()
    text, was = (request.form.get(name, "").replace("\r\n", "\n") for name in ("text", "was"))
    site = bench.open(slug)
    plan = bench.good_plan(site)
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
        bench.write(slug, f"{key}.{slot}" if slot else key, text, was, markup if markup in ("md", "html") else None)
    except Stale:
        return _page(bench.open(slug), key, {}, f"The text was changed from elsewhere. {_STILL}", text), 409
    return redirect(url_for("pages.show", slug=slug, page=key, slot=slot or None, _anchor="text"), 303)


def _asked() -> dict[str, str]:
    """What the form says, by word. What it lacks is as it was."""
    known = [word for word in request.form.getlist("word") if word in own_words(None)]
    return {word: plain_value(word, " ".join(request.form.getlist(word))) for word in known}


def _page(site: SiteRecord, asked: str | None, typed: dict[str, str], problem: str, text: str | None = None) -> str:
    """The workspace with a page of the newest good text chosen, and what was ``typed`` in its form."""
    bench = workbench()
    plan = bench.good_plan(site)
    chosen = None
    view = None
    leading = []
    contents = bench.sites.contents(site.slug)
    if plan:
        chosen = asked if asked in plan.site.pages else plan.site.home
        good = site.text if not bench.compiled(site.text, site).stops else site.good_text
        edition = bench.edition(good, contents, site.contents_mark, bench.files(site))
        if chosen is not None and edition is not None:
            view = page_view(edition.plan, edition.with_drafts, chosen)
            leading = references_to(edition.plan, contents, chosen)
    return render_template(
        "pages/show.html",
        site=site,
        plan=plan,
        current=not bench.compiled(site.text, site).stops,
        chosen=chosen,
        view=view,
        leading=leading,
        own={**own_words(plan.site.pages[chosen]), **typed} if plan and chosen else {},
        choices=CHOICES,
        layouts=layouts_of(plan.site.files).good if plan else (),
        problem=problem,
        slot=(slot := request.values.get("slot", "").strip()),
        slots=layouts_of(plan.site.files).standing[plan.arrangement_of(chosen).layout][1] if plan and chosen else (),
        content=contents.get(f"{chosen}.{slot}" if slot else chosen or ""),
        with_text=[name.partition(".")[2] for name in contents if name.startswith(f"{chosen}.")],
        text=text,
        root=f"{current_app.config['PREVIEW_ORIGIN']}/{previews().open(site.slug)}",
    )
