"""Maps in which examples of rules begin."""

from __future__ import annotations

HOME = "site: {name: Mill, base: 'https://mill.example'}\npages:\n  home: {path: /, title: Mill}\n"
TWO_PAGES = HOME + "  tides: Tides\n  flour: Flour\n"
