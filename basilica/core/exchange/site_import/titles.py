"""What all titles of a site have in common: its name, and the pattern around what each page is called."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Sequence

_SEPARATOR = re.compile(r"\s+[|·•–—:»›~-]{1,3}\s+|\s*[|·•»›]\s*|:\s+")
_IN_BRACKETS = re.compile(r"\S\s+\(([^()]+)\)$")
_SHARE = 0.6


def title_pattern(titles: Sequence[str]) -> tuple[str, str]:
    """The pattern of titles, such as `{title} – {site}`, and the name of the site in it; both empty where titles have
    nothing in common. Found in what stands before the first or behind the last sign that separates."""
    ends: Counter[tuple[str, str, bool]] = Counter()
    for title in titles:
        inside = _IN_BRACKETS.search(title)
        if inside:
            ends[inside[1], "(", True] += 1
            continue
        signs = list(_SEPARATOR.finditer(title))
        if signs:
            ends[title[signs[-1].end() :], signs[-1][0], True] += 1
            ends[title[: signs[0].start()], signs[0][0], False] += 1
    if not ends:
        return "", ""
    (name, sign, is_end), count = max(ends.items(), key=lambda one: (one[1], one[0][2]))
    if count < max(2, _SHARE * len(titles)) or not name:
        return "", ""
    if sign == "(":
        return "{title} ({site})", name
    return (f"{{title}}{sign}{{site}}" if is_end else f"{{site}}{sign}{{title}}"), name


def without_site(title: str, pattern: str, name: str) -> str:
    """A title without what all have in common; the whole title where it has not."""
    if not pattern:
        return title
    before, after = pattern.replace("{site}", name).split("{title}")
    if title.startswith(before) and title.endswith(after) and len(title) > len(before) + len(after):
        return title[len(before) : len(title) - len(after)].strip()
    return title
