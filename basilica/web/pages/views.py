"""The Pages workspace: one page as the site sees it, and its settings, each an edit of the map's text."""

from __future__ import annotations

from flask import current_app, render_template, request

from basilica.core.content import layouts_of
from basilica.core.diff.deletion_impact import references_to
from basilica.core.diff.merge import merge
from basilica.core.edits import page_option_values
from basilica.core.edits.commands.translate_page import TRANSLATED
from basilica.core.language.sections.page_words import PAGE
from basilica.core.map.site.written_place import written_elsewhere
from basilica.store.records import SiteRecord
from basilica.web.context import services
from basilica.web.forms import STILL
from basilica.web.merged_form import conflicts_of
from basilica.web.pages.forms import PageSettings, PageText, PageTranslation
from basilica.web.pages.view_model import in_languages, page_view, with_typed

CHOICES = {word.name: word for word in PAGE if word.values}


def show(slug: str) -> str:
    """One page of the newest good text."""
    return _page(services().sites.open(slug), request.args.get("page"), None, "")


def refused(slug: str, problem: str) -> str:
    """The page with what was typed, and why it was not written."""
    site, problem = services().sites.open(slug), f"{problem} {STILL}"
    if request.endpoint == "pages.write_text":
        form = PageText.unchecked()
        known = services().store.contents(slug).get(form.key)
        merged = merge(form.was.data, form.text.data, known.text if known is not None else "")
        if merged.theirs_lost:
            problem += f" Lines of theirs that yours replace: {'; '.join(merged.theirs_lost[:5])}."
        return _page(site, form.page.data, None, problem, merged.text)
    if request.endpoint == "pages.translate":
        translation = PageTranslation.unchecked()
        return _page(site, translation.page.data, None, problem, translation=translation)
    sent = PageSettings.unchecked()
    return _page(site, sent.page.data, sent if request.endpoint == "pages.write" else None, problem)


def _page(
    site: SiteRecord,
    submitted: str | None,
    form: PageSettings | None,
    problem: str,
    text: str | None = None,
    translation: PageTranslation | None = None,
) -> str:
    """The workspace with a page of the newest good text chosen, and what was typed in a ``form`` or a ``translation``
    that was refused."""
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
    now = page_option_values(plan.site.pages[chosen]) if plan and chosen else {}
    is_there = form is not None and plan is not None and form.page.data in plan.site.pages
    merged = form.merged_with(plan.site) if form and plan and is_there else None
    languages = in_languages(plan, services().maps.good_text(site), chosen) if plan and chosen else []
    if translation is not None:
        languages = [with_typed(one, translation) if one.tag == translation.language.data else one for one in languages]
    return render_template(
        "pages/show.html",
        site=site,
        plan=plan,
        current=services().maps.is_good(site),
        chosen=chosen,
        elsewhere=written_elsewhere(plan.site, chosen) if plan and chosen else None,
        view=view,
        leading=leading,
        own={**now, **(merged.typed if merged else {})},
        seen=merged.opened if merged else now,
        conflicts=conflicts_of(merged) if merged else (),
        said=plan.site.files.heads.get(chosen) if plan and chosen else None,
        choices=CHOICES,
        layouts=layouts_of(plan.site.files).good if plan else (),
        problem=problem,
        slot=(slot := request.values.get("slot", "").strip()),
        slots=layouts_of(plan.site.files).contained[plan.assignment_of(chosen).layout][1] if plan and chosen else (),
        content=contents.get(f"{chosen}.{slot}" if slot else chosen or ""),
        with_text=[name.partition(".")[2] for name in contents if name.startswith(f"{chosen}.")],
        with_content=frozenset(contents),
        languages=languages,
        tags=plan.site.languages if plan else (),
        translated=TRANSLATED,
        text=text,
        root=f"{current_app.config['PREVIEW_ORIGIN']}/{services().previews.sessions.open(site.slug)}",
    )
