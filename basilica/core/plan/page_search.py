"""Finding a page by a few letters of its key, label, title or address."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass

from rapidfuzz import fuzz

from basilica.core.plan import Plan

MOST = 30
"""Pages that a search brings back."""


@dataclass(frozen=True, slots=True)
class Found:
    """A page that was looked for, and how well it fits (0 to 100)."""

    key: str
    score: float


def find_pages(plan: Plan, words: str) -> list[Found]:
    """The pages that fit some letters, best first; for no letters, the pages in map order.

    Each word must be in the page's key, label, title or address: as its beginning, the beginning of a word, anywhere,
    or letter by letter in order; where none is, what is spelt alike will do.
    """
    pages = list(plan.site.pages.values())
    wanted = words.casefold().split()
    if not wanted:
        return [Found(page.key, 0) for page in pages[:MOST]]
    found = []
    for index, page in enumerate(pages):
        texts = [page.label, page.title, page.key, plan.path_of(page.key)]
        scores = [max(_fit(word, text.casefold()) for text in texts) for word in wanted]
        if min(scores) > 0:
            found.append((-sum(scores) / len(scores), index, page.key))
    if not found:
        found = list(_similar(plan, words))
    return [Found(key, -score) for score, _, key in sorted(found)[:MOST]]


def _fit(word: str, text: str) -> float:
    """How well a word fits a text: 100 for the whole, 0 for not at all; shorter texts first."""
    if word not in text:
        return max(0.0, 30 - len(text) / 10) if len(word) > 2 and _in_order(word, text) else 0
    if word == text:
        return 100
    slack = min(len(text) / 20, 9)
    if text.startswith(word):
        return 90 - slack
    return (75 if re.search(rf"(?<!\w){re.escape(word)}", text) else 50) - slack


def _in_order(word: str, text: str) -> bool:
    letters = iter(text)
    return all(letter in letters for letter in word)


def _similar(plan: Plan, words: str) -> Iterator[tuple[float, int, str]]:
    for index, page in enumerate(plan.site.pages.values()):
        score = max(fuzz.WRatio(words.casefold(), text.casefold()) for text in (page.label, page.title))
        if score >= 70:
            yield -score, index, page.key
