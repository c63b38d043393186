"""The Pages workspace: one page as the site sees it, and its settings, each an edit of the map's text."""

from __future__ import annotations

from flask import current_app, render_template, request

from basilica.core.content import layouts_of
from basilica.core.diff.deletion_impact import references_to
from basilica.core.edits import page_option_values
from basilica.core.edits.commands.translate_page import TRANSLATED
from basilica.core.map.schema import sections as words
from basilica.store.records import SiteRecord
from basilica.web.context import services
from basilica.web.forms import STILL
from basilica.web.pages.forms import PageSettings, PageText
from basilica.web.pages.view_model import in_languages, page_view

CHOICES = {word.name: word for word in words.PAGE if word.values}


def show(slug: str) -> str:
    """One page of the newest good text."""
    return _page(services().sites.open(slug), request.args.get("page"), {}, "")


def refused(slug: str, problem: str) -> str:
    """The page with what was typed, and why it was not written."""
    site, problem = services().sites.open(slug), f"{problem} {STILL}"
    if request.endpoint == "pages.write_text":
        text = PageText.unchecked()
        return _page(site, text.page.data, {}, problem, text.text.data)
    form = PageSettings.unchecked()
    return _page(site, form.page.data, form.settings, problem)


def _page(site: SiteRecord, submitted: str | None, typed: dict[str, str], problem: str, text: str | None = None) -> str:
    """The workspace with a page of the newest good text chosen, and what was ``typed`` in its form."""
    plan = services().maps.good_plan(site)
    chosen = None
    view = None
    leading = []
    contents = services().store.contents(site.slug)
    if plan:
        chosen = submitted if submitted in plan.site.pages else plan.site.home
        site_version = services().comparisons.now(site, services().maps.good_text(site), contents)
        if chosen is not None and site_version is not None:
            view = page_view(site_version.plan, site_version.with_drafts, chosen)
            leading = references_to(site_version.plan, contents, chosen)
    return render_template(
        "pages/show.html",
        site=site,
        plan=plan,
        current=services().maps.is_good(site),
        chosen=chosen,
        view=view,
        leading=leading,
        own={**page_option_values(plan.site.pages[chosen]), **typed} if plan and chosen else {},
        said=plan.site.files.heads.get(chosen) if plan and chosen else None,
        choices=CHOICES,
        layouts=layouts_of(plan.site.files).good if plan else (),
        problem=problem,
        slot=(slot := request.values.get("slot", "").strip()),
        slots=layouts_of(plan.site.files).contained[plan.assignment_of(chosen).layout][1] if plan and chosen else (),
        content=contents.get(f"{chosen}.{slot}" if slot else chosen or ""),
        with_text=[name.partition(".")[2] for name in contents if name.startswith(f"{chosen}.")],
        with_content=frozenset(contents),
        languages=in_languages(plan, services().maps.good_text(site), chosen) if plan and chosen else (),
        tags=plan.site.languages if plan else (),
        translated=TRANSLATED,
        text=text,
        root=f"{current_app.config['PREVIEW_ORIGIN']}/{services().previews.sessions.open(site.slug)}",
    )
