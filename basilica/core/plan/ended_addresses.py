"""Addresses that led to pages before a change, and lead nowhere after it."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import NamedTuple

from basilica.core.plan.site_plan import Plan, every_further, every_language, every_redirect


class EndedAddress(NamedTuple):
    """An address that led to a page and leads nowhere after an edit. ``page`` is where what it led to is now (its key);
    None where that is gone. ``language`` is the tag of the language it is in; empty for the first."""

    address: str
    page: str | None
    language: str = ""


def answered(plan: Plan) -> dict[str, str]:
    """Every address that leads to a page which is built, in any language and old ones too, with the page's key."""
    return {address: key for each in every_language(plan) for address, key in _answered(each).items()}


def _answered(plan: Plan) -> dict[str, str]:
    found = {plan.routes[key].path: key for key in plan.builds()}
    beside = (*plan.redirects, *plan.further)
    return {**{other.address: other.key for other in beside if other.key is not None}, **found}


def moving_addresses(plan: Plan, addresses: Iterable[str]) -> tuple[str, ...]:
    """Those of some addresses that end when their pages get other ids: old and further ones stay."""
    stays = {other.address for _, other in (*every_redirect(plan), *every_further(plan))}
    return tuple(address for address in addresses if address not in stays)


def ended_addresses(before: Plan, after: Plan, keys: Mapping[str, str]) -> tuple[EndedAddress, ...]:
    """The addresses that led to pages of ``before`` and are answered by nothing ``after``. ``keys`` has, by the key
    that a page had, the one that it has."""
    now = answered(after).keys() | {old.address for _, old in (*every_redirect(after), *every_further(after))}
    now |= {route.path for each in every_language(after) for route in each.routes.values() if route.is_backend}
    ended = []
    for each in every_language(before):
        language = "" if each.site.is_first else each.site.language
        there = after.languages.get(language) if language else after
        left = there.routes.keys() - there.drafts if there is not None else frozenset[str]()
        for address, key in _answered(each).items():
            successor = keys.get(key)
            if address not in now:
                ended.append(EndedAddress(address, successor if successor in left else None, language))
    return tuple(ended)
