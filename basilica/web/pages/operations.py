"""What the Pages workspace writes: the settings of a page into the map, and its text."""

from __future__ import annotations

from flask import flash, redirect, url_for
from werkzeug.wrappers import Response

from basilica.core.edits import page_option_values
from basilica.core.edits.commands.set_word import SetWord
from basilica.core.plan import Plan
from basilica.store.records import SiteRecord
from basilica.web.context import services
from basilica.web.forms import InvalidForm
from basilica.web.pages.forms import PageSettings, PageText

_UNDO = 1500
"""Characters of old values that are remembered, so that they can be put back."""


def write(slug: str) -> Response:
    """Write the settings that were changed, all of them or none."""
    form = PageSettings.sent()
    key, site = form.page.data, services().sites.open(slug)
    now = page_option_values(_plan_with(site, key, "nothing was written").site.pages[key])
    changed = {word: value for word, value in form.settings.items() if value != now[word]}
    if changed:
        commands = (SetWord(key, word, value) for word, value in changed.items())
        count = services().sites.apply(slug, form.revision.data, *commands, keep=form.keep.data)
        old = {word: now[word] for word in changed}
        told: dict[str, object] = {"words": sorted(changed), "redirected": count}
        told["old"] = old if sum(map(len, old.values())) < _UNDO else {}
        flash(told)  # type: ignore[arg-type]
    return redirect(url_for("pages.show", slug=slug, page=key), 303)


def write_text(slug: str) -> Response:
    """Save the text of a page, or of a slot of its layout; an empty one removes it."""
    form = PageText.sent()
    key, slot = form.page.data, form.slot.data
    _plan_with(services().sites.open(slug), key, "its text was not saved")
    services().sites.write(slug, form.key, form.text.data, form.was.data, form.suffix)
    return redirect(url_for("pages.show", slug=slug, page=key, slot=slot or None, _anchor="text"), 303)


def _plan_with(site: SiteRecord, key: str, outcome: str) -> Plan:
    """The newest good plan, which has this page. Raises ``InvalidForm``."""
    plan = services().maps.good_plan(site)
    if plan is None or key not in plan.site.pages:
        raise InvalidForm(f"There is no such page any more, so {outcome}.")
    return plan
