"""Whether words are likely misspelt, by the word list that a general-purpose library has for a language."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterable, Iterator
from functools import lru_cache

from spellchecker import SpellChecker

_WORD = re.compile(r"[^\W\d_]+(?:['’][^\W\d_]+)*")
_LEAST = 5
"""Shorter words have too many neighbours to be told apart from names."""
_PAIRS = (
    *(("our", "or"), ("is", "iz"), ("ys", "yz"), ("tre", "ter"), ("bre", "ber"), ("ence", "ense"), ("ogue", "og")),
    *(("ll", "l"), ("ph", "f"), ("mme", "m"), ("ae", "e"), ("oe", "e"), ("ou", "o"), ("ium", "um"), ("py", "pa")),
)
"""Pieces of words as they are spelt in Britain and in America; from memory."""
_BRITISH = frozenset(
    ["cheque", "chequer", "draught", "draughty", "grey", "jewellery", "kerb", "plough", "sceptic", "storey", "tyre"]
)
"""British words that no pair explains; from memory."""


@lru_cache(maxsize=2)
def _list(language: str) -> SpellChecker | None:
    """The list of a language, distance 1; None where the library has none."""
    try:
        return SpellChecker(language=language, distance=1)
    except ValueError:
        return None


class Speller:
    """Finds words that are in no list and nearly one that is."""

    def __init__(self, known: SpellChecker, own: Iterable[str], british: bool = False) -> None:
        self._known = known
        self._british = british
        self._own = {word.casefold() for text in own for word in _WORD.findall(text)}
        self._better: dict[str, str | None] = {}

    @classmethod
    def of(cls, language: str, own: Iterable[str]) -> Speller | None:
        """For a language tag such as `en-GB`, with the site's own words; None for a language without a list."""
        plain, _, region = language.lower().partition("-")
        known = _list(plain)
        return cls(known, own, plain == "en" and region != "us") if known is not None else None

    def misspellings(self, text: str) -> Iterator[tuple[str, str]]:
        """Each word of a text that is likely misspelt, with the one that was likely meant. Words with a capital inside
        a sentence are names, or may be."""
        begins = True
        for match in _WORD.finditer(text):
            word = match.group()
            if (word.islower() or (begins and word.istitle())) and len(word) >= _LEAST:
                better = self._meant(word.casefold())
                if better is not None:
                    yield word, better.capitalize() if word.istitle() else better
            begins = text[match.end() : match.end() + 1] in (".", "!", "?", ":")

    def often(self, texts: Iterable[str], least: int) -> frozenset[str]:
        """The words that stand in at least so many different texts."""
        counts = Counter(word for text in set(texts) for word in {w.casefold() for w in _WORD.findall(text)})
        return frozenset(word for word, count in counts.items() if count >= least)

    def _meant(self, word: str) -> str | None:
        if word not in self._better:
            self._better[word] = self._look_up(word.replace("’", "'"))
        return self._better[word]

    def _look_up(self, word: str) -> str | None:
        stem = word.removesuffix("'s")
        if {word, stem} & self._own or word in self._known or stem in self._known or self._is_british(stem):
            return None
        meant = [each for each in self._known.candidates(stem) or () if each != stem and "'" not in each]
        # A plural or a verb of a word that is known is no mistake, only missing in the list.
        if any(stem == each + ending for each in meant for ending in ("s", "d")):
            return None
        return max(meant, key=lambda each: (_is_slip(stem, each), self._known[each], each), default=None)

    def _is_british(self, word: str) -> bool:
        """Whether a word is spelt as in Britain; the list of English has words as they are spelt in America."""
        if not self._british:
            return False
        return word.removesuffix("s") in _BRITISH or any(
            here in word and word.replace(here, there) in self._known for here, there in _PAIRS
        )


def _is_slip(word: str, meant: str) -> bool:
    """Whether two words differ as those do that are typed in haste: two letters changed places, or one is doubled that
    should not be, or is not that should."""
    if sorted(word) == sorted(meant):
        return True
    longer, shorter = sorted((word, meant), key=len, reverse=True)
    doubled = (n for n in range(1, len(longer)) if longer[n] == longer[n - 1])
    return any(longer[:n] + longer[n + 1 :] == shorter for n in doubled)
