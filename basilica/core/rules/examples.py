"""What examples of rules are made of, and the texts in which they begin."""

from __future__ import annotations

from collections.abc import Mapping
from typing import NamedTuple


class Many(NamedTuple):
    """An example that is too long to stand in full: ``piece`` so many ``times`` behind ``before``; in it, `{n}` is the
    number of the piece, from 1."""

    before: str
    piece: str
    times: int

    def __str__(self) -> str:
        """The whole of it."""
        return self.before + "".join(self.piece.replace("{n}", str(number)) for number in range(1, self.times + 1))


Example = str | bytes | Many | Mapping[str, "str | bytes | Many"]
"""A map, or a piece of a page; or files by their names: the map and what stands beside it, or pages and pieces of
these. Bytes where it is no text."""

HOME = "site: {name: Mill, base: 'https://mill.example'}\npages:\n  home: {path: /, title: Mill}\n"
TWO_PAGES = HOME + "  tides: Tides\n  flour: Flour\n"
WIDE = "{% extends 'plain' %}\n{% block main %}\n<div class='wide'>{{ super() }}</div>\n{% endblock %}\n"
"""A layout."""
