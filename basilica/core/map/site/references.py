"""From what a person writes to the page they mean."""

from __future__ import annotations

import re
from collections.abc import Iterable
from functools import cached_property

from basilica.core.map.document import Scalar
from basilica.core.map.site import site_rules
from basilica.core.map.site.field_reader import Context


class References:
    """Looks pages up by their key, or by any suffix of whole segments that fits one page only."""

    def __init__(self, keys: Iterable[str]) -> None:
        self._keys = dict.fromkeys(keys)

    @cached_property
    def _by_suffix(self) -> dict[str, list[str]]:
        found: dict[str, list[str]] = {}
        for key in self._keys:
            at = key.find("/")
            while at >= 0:
                found.setdefault(key[at + 1 :], []).append(key)
                at = key.find("/", at + 1)
        return found

    def find(self, reference: str) -> tuple[str, ...]:
        """The keys of all pages that ``reference`` fits: one is what is wanted. A full key always wins."""
        if reference in self._keys:
            return (reference,)
        return tuple(self._by_suffix.get(reference, ()))

    @cached_property
    def names(self) -> tuple[str, ...]:
        """Every text that ``find`` knows, in the order of the map."""
        return (*self._keys, *self._by_suffix)

    def resolve(self, written: Scalar, context: Context) -> str | None:
        """The key of the one page that is meant by what is written (an anchor on it aside), or None and a finding."""
        reference, at = split_reference(written.value)[0], written.start
        found = self.find(reference)
        if len(found) == 1:
            return found[0]
        if found:
            context.say(site_rules.AMBIGUOUS_PAGE, at, *several(reference, found))
        elif context.complete:
            near = context.nearest(reference, self.names)
            behind = re.sub(r"^[^?#]*", "", written.value)
            context.say(
                site_rules.UNKNOWN_PAGE,
                at,
                f"There is no page `{reference[:80]}`.",
                f"Did you mean `{near}`?" if near else "Add it under `pages:`, or remove this.",
                context.instead(written, None if near is None else near + behind),
            )
        return None


def several(reference: str, found: tuple[str, ...]) -> tuple[str, str]:
    """The message and the remedy for a reference that fits several pages."""
    listed = ", ".join(f"`{key}`" for key in found[:6]) + (f" and {len(found) - 6} more" if len(found) > 6 else "")
    return f"`{reference}` fits several pages: {listed}.", "Write the whole key of the one you mean."


def split_reference(text: str) -> tuple[str, str | None]:
    """A reference and its anchor: ``hours#times`` → ``("hours", "times")``. A query between them is left out."""
    reference, mark, fragment = text.partition("#")
    return reference.partition("?")[0].strip().strip("/"), fragment.strip() if mark else None


def query_of(text: str) -> str:
    """The query of a reference: ``hours?month=5#times`` → ``month=5``; empty where there is none."""
    return text.partition("#")[0].partition("?")[2].strip()


def rewritten(written: str, key: str, known: References) -> str:
    """A reference that leads to page ``key``: as it is written where it does, else with as many pieces, or more."""
    reference, fragment = split_reference(written)
    if known.find(reference) == (key,):
        return written
    query = query_of(written)
    anchor = (f"?{query}" if query else "") + (f"#{fragment}" if fragment is not None else "")
    return shortest(key, known, reference.count("/") + 1) + anchor


def shortest(key: str, known: References, least: int = 1) -> str:
    """The shortest reference of at least so many pieces that fits page ``key`` alone."""
    pieces = key.split("/")
    for count in range(min(least, len(pieces)), len(pieces)):
        reference = "/".join(pieces[-count:])
        if known.find(reference) == (key,):
            return reference
    return key
