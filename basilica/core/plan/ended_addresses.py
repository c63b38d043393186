"""Addresses that led to pages before a change, and lead nowhere after it."""

from __future__ import annotations

from collections.abc import Mapping
from typing import NamedTuple

from basilica.core.plan.site_plan import Plan


class EndedAddress(NamedTuple):
    """An address that led to a page and leads nowhere after an edit. ``page`` is where what it led to is now (its key);
    None where that is gone."""

    address: str
    page: str | None


def answered(plan: Plan) -> dict[str, str]:
    """Every address that leads to a page which is built, old ones too, with the key of that page."""
    found = {plan.routes[key].path: key for key in plan.builds()}
    return {**{old.address: old.key for old in plan.redirects if old.key is not None}, **found}


def ended_addresses(before: Plan, after: Plan, keys: Mapping[str, str]) -> tuple[EndedAddress, ...]:
    """The addresses that led to pages of ``before`` and are answered by nothing ``after``. ``keys`` has, by the key
    that a page had, the one that it has."""
    now = answered(after).keys() | {old.address for old in after.redirects}
    now |= {route.path for route in after.routes.values() if route.is_backend}
    left = after.routes.keys() - after.drafts
    ended = []
    for address, key in answered(before).items():
        successor = keys.get(key)
        if address not in now:
            ended.append(EndedAddress(address, successor if successor in left else None))
    return tuple(ended)
