"""The words that Basilica puts on pages."""

from __future__ import annotations

from basilica.core.language.codecs import PHRASE
from basilica.core.language.word import Word
from basilica.core.shared.locales import ENGLISH, PHRASES

PHRASE_WORDS = tuple(
    Word(name, PHRASE, meaning, f"“{ENGLISH[name]}”, or the same in the site's language")
    for name, meaning in PHRASES.items()
)
