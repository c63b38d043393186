"""What the Addresses workspace writes into the map."""

from __future__ import annotations

from flask import redirect, url_for
from werkzeug.wrappers import Response

from basilica.core.edits.commands.set_address_style import SetAddressStyle
from basilica.core.edits.kept_addresses import taking
from basilica.core.map.site.references import References
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
    known = References(plan.site.pages)
    rows = dict(enumerate(zip(form.address.data or (), form.to.data or (), strict=False)))
    chosen: dict[str, str] = {}
    for number in form.take.data or ():
        address, to = rows.get(whole_number(number) or 0, ("", ""))
        found = known.find(to.strip())
        if not to.strip():
            raise InvalidForm(f"Name a page for {address[:80]} to lead to, or leave it out. Nothing was written.")
        if len(found) != 1:
            raise InvalidForm(f"There is no page `{to[:80]}` for {address[:80]} to lead to. Nothing was written.")
        chosen[address] = found[0]
    if not chosen:
        raise InvalidForm("No address was chosen, so nothing was written.")
    services().sites.apply(slug, form.revision.data, taking(chosen))
    return redirect(url_for("addresses.old", slug=slug, taken=len(chosen)), 303)


def set_style(slug: str) -> Response:
    """Another style of addresses; those that others may know are kept."""
    form = Style.sent()
    services().sites.apply(slug, form.revision.data, SetAddressStyle(form.urls.data))
    return redirect(url_for("addresses.show", slug=slug), 303)
