"""`redirects:`: old addresses that belong to no page, each with where it leads."""

from __future__ import annotations

from dataclasses import replace

from basilica.core.map.document import Mapping, Node, Scalar
from basilica.core.map.site import site_rules
from basilica.core.map.site.entry_reader import outside_address
from basilica.core.map.site.field_reader import Context, kind_of
from basilica.core.map.site.model import OldRedirect
from basilica.core.map.site.references import References, split_reference

GONE = "gone"
"""What stands in place of a page where there is nothing any more."""
PAGE = "page:"
"""Before a reference, as in texts; needed only for a page called `gone`."""


def read_redirects(node: Node, known: References, context: Context) -> tuple[OldRedirect, ...]:
    """Every redirect, in map order."""
    if isinstance(node, Scalar) and node.is_nothing:
        return ()
    if not isinstance(node, Mapping):
        message = f"`redirects` is {kind_of(node)} where old addresses are expected."
        remedy = "Write each on a line of its own, such as `/old-shop.htm: visit/shop`."
        context.say(site_rules.WRONG_SHAPE, node.start, message, remedy)
        return ()
    found = (_read(address, target, known, context) for address, target in node.pairs)
    return tuple(redirect for redirect in found if redirect is not None)


def _read(address: Scalar, target: Node, known: References, context: Context) -> OldRedirect | None:
    old = address.value.strip()
    if not isinstance(target, Scalar) or target.is_nothing:
        message = f"`{old[:80]}` below `redirects` leads to {kind_of(target)}."
        remedy = "Write a page, a full address on another site, or `gone`."
        context.say(site_rules.WRONG_SHAPE, target.start, message, remedy)
        return None
    found = target_of(old, target, known)
    if found is not None:
        return replace(found, at=address.start)
    value = target.value.strip()
    if "://" in value:
        message = f"`{value[:80]}` is not an address that a server can lead to."
        context.say(site_rules.BAD_SCHEME, target.start, message)
    else:
        known.resolve(Scalar(value.removeprefix(PAGE), target.start, target.quoted, target.end), context)
    return None


def target_of(old: str, target: Scalar, known: References) -> OldRedirect | None:
    """Where an old address leads by what is written: `gone`, a full address, or a page; None where it is neither."""
    value = target.value.strip()
    if value == GONE:
        return OldRedirect(old)
    if "://" in value:
        url = outside_address(value)
        return OldRedirect(old, url=url) if url is not None and url.startswith(("http:", "https:")) else None
    reference, fragment = split_reference(value.removeprefix(PAGE))
    pages = known.find(reference)
    return OldRedirect(old, pages[0], fragment or "") if len(pages) == 1 else None
