"""What the Addresses workspace writes into the map."""

from __future__ import annotations

from flask import redirect, url_for
from werkzeug.wrappers import Response

from basilica.core.edits.commands.set_settings import address_style
from basilica.core.edits.kept_addresses import taking
from basilica.core.plan.redirects import as_asked
from basilica.web.addresses.forms import Style, Taking
from basilica.web.context import services
from basilica.web.forms import InvalidForm
from basilica.web.values import whole_number


def take(slug: str) -> Response:
    """Write the old addresses that are chosen into the map, each for the page that was named beside it."""
    form = Taking.sent()
    plan = services().maps.good_plan(services().sites.open(slug))
    if plan is None:
        raise InvalidForm("The map has errors, so nothing was written.")
    rows = dict(enumerate(zip(form.address.data or (), form.to.data or (), strict=False)))
    numbers = [number for number in map(whole_number, form.take.data or ()) if number in rows]
    chosen = {rows[number][0]: rows[number][1].strip() for number in numbers}
    services().sites.apply(slug, form.revision.data, taking(chosen, plan.site))
    after = services().maps.good_plan(services().sites.open(slug))
    led = {each.address for each in after.redirects} if after else set()
    left = sum(as_asked(address, plan.site.base) not in led for address in chosen)
    return redirect(url_for("addresses.old", slug=slug, taken=len(chosen) - left, left=left or None), 303)


def set_style(slug: str) -> Response:
    """Another style of addresses; those that others may know are kept."""
    form = Style.sent()
    count = services().sites.apply(slug, form.revision.data, address_style(form.urls.data), keep=form.keep.data)
    return redirect(url_for("addresses.show", slug=slug, redirected=count), 303)
