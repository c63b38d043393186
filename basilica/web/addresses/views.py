"""The Addresses workspace: the table of routes, and the addresses of an old site held against it."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping
from itertools import islice

from flask import Response, abort, render_template, request

from basilica.core.edits.commands.set_settings import ADDRESS_STYLES
from basilica.core.exchange.address_lists import read_addresses
from basilica.core.plan import Plan
from basilica.core.plan.old_addresses import AddressAnswer, Answer
from basilica.core.plan.route_table import as_csv as table_of
from basilica.core.plan.route_table import route_rows
from basilica.services.address_check import look_up
from basilica.store.records import SiteRecord
from basilica.web.addresses.forms import OldList, RoutesQuery, Taking
from basilica.web.context import services
from basilica.web.downloads import download
from basilica.web.forms import InvalidForm
from basilica.web.values import whole_number

STEP = 200
"""Rows of the table on one page of it."""
_TYPED = 500_000
"""Characters of a list that come back with the page."""
SHOWN = 500
"""Old addresses that are shown of each kind."""


def show(slug: str) -> str:
    """Every address, with what stands there and what led there."""
    site = services().sites.open(slug)
    plan, ask = services().maps.good_plan(site), RoutesQuery.now()
    rows = ask.chosen(route_rows(plan, drafts=True)) if plan else []
    start = min(ask.start, max(0, len(rows) - 1) // STEP * STEP)
    styles = [(urls, _example(plan, urls)) for urls in ADDRESS_STYLES] if plan else []
    return render_template(
        "addresses/show.html",
        site=site,
        plan=plan,
        ask=ask,
        rows=rows[start : start + STEP],
        count=len(rows),
        start=start,
        step=STEP,
        styles=styles,
        redirected=whole_number(request.args.get("redirected")),
    )


def _example(plan: Plan, urls: str) -> str:
    """The address of a page as it is in a style: of one that is deep, so that the style shows."""
    key = max(plan.builds(), key=lambda each: each.count("/"), default=None)
    return plan.routes_in(urls)[key].path if key is not None else ""


def as_csv(slug: str) -> Response:
    """The rows that are shown, as a file."""
    plan = services().maps.good_plan(services().sites.open(slug))
    if plan is None:
        abort(409, "The map has errors, so it has no table of routes.")
    return download(table_of(RoutesQuery.now().chosen(route_rows(plan, drafts=True))), f"{slug}-routes.csv", "text/csv")


def old(slug: str) -> str:
    """The form for the addresses of an old site."""
    taken, left = (whole_number(request.args.get(name)) or 0 for name in ("taken", "left"))
    return _old(services().sites.open(slug), taken=taken, left=left)


def look_up_old(slug: str) -> str:
    """What each address of a list answers. Nothing is kept of it."""
    site, form = services().sites.open(slug), OldList.sent()
    text = form.file.data.read().decode("utf-8", "replace") if form.file.data else form.list.data
    if not read_addresses(text).addresses:
        raise InvalidForm("There are no addresses in this. Write one a line, such as /prices.htm.")
    plan = services().maps.good_plan(site)
    if plan is None:
        raise InvalidForm("The map has errors. Fix them first.")
    return _old(site, text)


def _old(
    site: SiteRecord,
    typed: str = "",
    problem: str = "",
    taken: int = 0,
    left: int = 0,
    entered: Mapping[str, str] | None = None,
) -> str:
    """The form, and what each address of the list that was ``typed`` answers; ``entered`` are the pages that were named
    beside them. Just now ``taken`` were written into the map, and ``left`` could not be."""
    addresses, is_cut = read_addresses(typed)
    found: tuple[AddressAnswer, ...] = ()
    if addresses and services().maps.good_plan(site) is not None:
        compiled = services().maps.compiled(services().maps.good_text(site), site)
        found = look_up(compiled, services().store.contents(site.slug), addresses)
    groups = {answer: list(islice((one for one in found if one.answer is answer), SHOWN)) for answer in Answer}
    return render_template(
        "addresses/old.html",
        site=site,
        plan=services().maps.good_plan(site),
        counts=Counter(one.answer for one in found),
        groups=groups,
        total=len(found),
        answers=Answer,
        shown=SHOWN,
        typed=typed[:_TYPED],
        entered=entered or {},
        is_cut=is_cut,
        problem=problem,
        taken=taken,
        left=left,
    )


def refused(slug: str, problem: str) -> str:
    """Why nothing was written, with the list and the pages that were named still there."""
    typed, form = OldList.unchecked().list.data or "", Taking.unchecked()
    entered = dict(zip(form.address.data or (), form.to.data or (), strict=False))
    return _old(services().sites.open(slug), typed, problem, entered=entered)
