"""Words that say nothing about where they lead."""

from __future__ import annotations

VAGUE = frozenset(
    [
        # English
        "click", "click here", "click me", "here", "link", "this link", "more", "read more", "learn more", "see more",
        "find out more", "more info", "more information", "details", "go", "continue", "this page", "this", "page",
        # Other languages; from memory
        "hier", "hier klicken", "klicken sie hier", "mehr", "mehr erfahren", "weiterlesen",
        "ici", "cliquez ici", "en savoir plus", "lire la suite", "plus",
        "aquí", "haga clic aquí", "leer más", "más", "saber más",
        "qui", "clicca qui", "leggi di più", "scopri di più",
        "klik hier", "lees meer", "meer",
        "clique aqui", "leia mais", "saiba mais", "aqui",
    ]
)  # fmt: skip
_KEYWORDS = ("CONTINUE", "GO", "THIS")
"""Written so, they are words of a programming language."""
_ENDS = " .…:!>»→›"


def is_vague(text: str) -> bool:
    """Whether words say nothing by themselves."""
    return text not in _KEYWORDS and len(text) < 30 and text.strip(_ENDS).casefold() in VAGUE
