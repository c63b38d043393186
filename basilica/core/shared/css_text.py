"""Text as style sheets write it."""

from __future__ import annotations

from collections.abc import Iterator


def css_string(text: str) -> str:
    """Text as a CSS string: what could end it or the style sheet is escaped (CSS Syntax 3, 4.3.7)."""
    return '"' + "".join(c if c.isalnum() or c in " -_." else f"\\{ord(c):x} " for c in text) + '"'


def selectors(listed: str) -> Iterator[str]:
    """The selectors of a list, which are parted by commas outside all brackets."""
    depth, start = 0, 0
    for at, sign in enumerate(listed):
        depth += (sign in "([") - (sign in ")]")
        if sign == "," and depth == 0:
            yield listed[start:at].strip()
            start = at + 1
    yield listed[start:].strip()
