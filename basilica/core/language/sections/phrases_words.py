"""The words that Basilica puts on pages."""

from __future__ import annotations

from basilica.core.language.codecs import LABEL, WithLabel
from basilica.core.language.word import Word
from basilica.core.rules import limits
from basilica.core.shared.locales import ENGLISH, PHRASES

PHRASE_WORDS = tuple(
    Word(
        name,
        WithLabel(most=limits.LABEL_CHARACTERS, is_prose=True, example=ENGLISH[name])
        if "{}" in ENGLISH[name]
        else LABEL,
        meaning,
        f"“{ENGLISH[name]}”, or the same in the site's language",
        called=f"The phrase `{name}`",
    )
    for name, meaning in PHRASES.items()
)
