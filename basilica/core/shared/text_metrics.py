"""How wide a text is, near enough to lay boxes and menus out, and how it breaks into lines."""

from __future__ import annotations

import unicodedata
from functools import lru_cache

_NARROW = frozenset("iIjl.,:;'|!ftr()[]-/ ·›")
_WIDE = frozenset("mwMW@%—…")


def text_width(text: str, size: float) -> float:
    """An estimate of the width of ``text`` in a plain grotesque of ``size`` px; it errs on the wide side."""
    return sum(_em(character) for character in text) * size


@lru_cache(maxsize=4096)
def _em(character: str) -> float:
    if character in _NARROW:
        return 0.34
    if character in _WIDE:
        return 0.92
    if unicodedata.combining(character):
        return 0.0
    if unicodedata.east_asian_width(character) in "WF":
        return 1.0
    return 0.67 if character.isupper() else 0.55


def wrap(text: str, width: float, size: float, lines: int) -> tuple[str, ...]:
    """``text`` in at most ``lines`` lines of ``width`` px; what does not fit ends in an ellipsis."""
    words = text[:400].split()
    done: list[str] = []
    line = ""
    for word in words:
        longer = f"{line} {word}" if line else word
        if text_width(longer, size) <= width:
            line = longer
        else:
            if line:
                done.append(line)
            line = word
        if len(done) == lines:
            break
    if line and len(done) < lines:
        done.append(line)
    shown = " ".join(done)
    if shown != " ".join(text.split()) and done:
        done[-1] += "…"
    return tuple(_cut(line, width, size) for line in done)


def _cut(line: str, width: float, size: float) -> str:
    if text_width(line, size) <= width:
        return line
    line = line.rstrip("…")
    while line and text_width(line + "…", size) > width:
        line = line[:-1]
    return line + "…"
