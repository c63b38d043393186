"""What the Pages workspace writes: the settings of a page into the map, and its text."""

from __future__ import annotations

from flask import flash, redirect, url_for
from werkzeug.wrappers import Response

from basilica.core.diff.field_merge import FieldMerge
from basilica.core.edits.commands.set_word import SetWord
from basilica.core.edits.commands.translate_page import TRANSLATED, TranslatePage, translation_of
from basilica.core.map.site import Site
from basilica.core.map.site.written_place import written_elsewhere
from basilica.core.plan import Plan
from basilica.core.shared.locales import own_name
from basilica.store.records import SiteRecord
from basilica.web.context import services
from basilica.web.forms import InvalidForm
from basilica.web.merged_form import write_merged
from basilica.web.pages.forms import PageSettings, PageText, PageTranslation
from basilica.web.workspace import say_unchanged


def write(slug: str) -> Response:
    """Write the settings that were changed, all of them or none."""
    form = PageSettings.sent()
    key = form.page.data
    file = _file_of(_plan_with(services().sites.open(slug), key, "nothing was written").site, key)

    def edits(site: SiteRecord, _: Plan) -> tuple[FieldMerge[str], list[SetWord]]:
        merge = form.merged_with(_plan_with(site, key, "nothing was written").site)
        return merge, [SetWord(key, word, value) for word, value in merge.apart.items()]

    count, done = write_merged(slug, form, edits, form.keep.data)
    if done:
        kept = f" {count} old {'address' if count == 1 else 'addresses'} kept." if count else ""
        words = sorted(command.word for command in done if isinstance(command, SetWord))
        flash(f"Saved {', '.join(words)} to {file}.{kept}")
    else:
        say_unchanged()
    return redirect(url_for("pages.show", slug=slug, page=key), 303)


def translate(slug: str) -> Response:
    """Write what a page is called in another language."""
    form = PageTranslation.sent()
    key, tag = form.page.data, form.language.data
    known = _plan_with(services().sites.open(slug), key, "nothing was written").site

    def edits(site: SiteRecord, plan: Plan) -> tuple[FieldMerge[str], list[TranslatePage]]:
        _plan_with(site, key, "nothing was written")
        now = dict.fromkeys(TRANSLATED, "") | translation_of(site.text, plan.site.files, key, tag)
        merge = form.merged(form.words, now)
        return merge, [TranslatePage(key, tag, merge.apart)] if merge.apart else []

    _, done = write_merged(slug, form, edits)
    if done:
        words = ", ".join(word for command in done if isinstance(command, TranslatePage) for word in command.words)
        flash(f"Saved {words} in {own_name(tag, known.languages)} to {_file_of(known, key)}.")
    else:
        say_unchanged()
    return redirect(url_for("pages.show", slug=slug, page=key, _anchor="languages"), 303)


def write_text(slug: str) -> Response:
    """Save the text of a page, or of a slot of its layout; an empty one removes it."""
    form = PageText.sent()
    key, slot = form.page.data, form.slot.data
    site = services().sites.open(slug)
    plan = _plan_with(site, key, "its text was not saved")
    saved, text = services().sites.write_merged(slug, form.key, form.text.data, form.was.data, form.suffix)
    if saved.contents_digest == site.contents_digest:
        say_unchanged()
    else:
        both = " with what somebody else wrote meanwhile" if text != form.text.data else ""
        done = "Saved" if form.text.data.strip() else "Deleted"
        flash(f"{done} the content of {plan.site.pages[key].label}{f', {slot}' if slot else ''}{both}.")
    return redirect(url_for("pages.show", slug=slug, page=key, slot=slot or None, _anchor="text"), 303)


def _file_of(site: Site, key: str) -> str:
    """Where a page is written, in words."""
    place = written_elsewhere(site, key)
    return place.file if place is not None else "the map"


def _plan_with(site: SiteRecord, key: str, outcome: str) -> Plan:
    """The newest good plan, which has this page. Raises ``InvalidForm``."""
    plan = services().maps.good_plan(site)
    if plan is None or key not in plan.site.pages:
        raise InvalidForm(f"There is no such page any more, so {outcome}.")
    return plan
