"""Ids made from titles: what a page is called in addresses and references."""

from __future__ import annotations

from collections.abc import Container

from slugify import slugify

from basilica.core.language.sections.menu_words import ENTRY_WORDS

LONGEST = 60
"""Characters of an id made from a title; longer ones are hard to read in an address."""

_COUNTED = 64
"""Numbers that are tried one by one."""

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
    return f"{plain}-{_free(plain, taken)}"


def _free(plain: str, taken: Container[str]) -> int:
    """A number that makes an id free: the first, and where very many are taken one that is found without counting."""
    for number in range(2, _COUNTED):
        if f"{plain}-{number}" not in taken:
            return number
    least, most = _COUNTED - 1, 2 * _COUNTED  # the one is taken, the other is to be free
    while f"{plain}-{most}" in taken:
        least, most = most, 2 * most
    while most - least > 1:
        middle = (least + most) // 2
        least, most = (middle, most) if f"{plain}-{middle}" in taken else (least, middle)
    return most
