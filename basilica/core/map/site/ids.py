"""Ids made from titles: what a page is called in addresses and references."""

from __future__ import annotations

from collections.abc import Container

from slugify import slugify

from basilica.core.map.schema.sections import ENTRY_WORDS

LONGEST = 60
"""Characters of an id made from a title; longer ones are hard to read in an address."""

_APOSTROPHES = (("'", ""), ("’", ""))
"""These stand inside words: ``What's on`` → ``whats-on``."""


def id_from(title: str, taken: Container[str]) -> str:
    """An id for a page with this title that none of the ids in ``taken`` is: ``Getting here`` → ``getting-here``.

    Letters of other scripts are written in Latin ones; a title without letters or digits gives ``page-1``."""
    plain = slugify(title, max_length=LONGEST, word_boundary=True, replacements=_APOSTROPHES)
    if not plain or plain in ENTRY_WORDS:
        plain = f"{plain or 'page'}-{'page' if plain else 1}"
    if plain not in taken:
        return plain
    number = 2
    while f"{plain}-{number}" in taken:
        number += 1
    return f"{plain}-{number}"
