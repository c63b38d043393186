"""How breadcrumbs look."""

from __future__ import annotations

from dataclasses import dataclass

from basilica.core.language.codecs import NO_OR_YES, Named, Number, Switch, one_of
from basilica.core.language.word import Word

SEPARATORS = {"slash": "/", "arrow": "→", "dot": "·", "bullet": "•"}
"""Separators that have names."""

BREADCRUMBS = (
    Word(
        "separator",
        Named(most=20, names=SEPARATORS),
        "What is drawn between two breadcrumbs: `slash`, `arrow`, `dot`, `bullet` or any text. Screen readers skip it.",
        "›",
        called="The separator",
        synonyms=("divider", "delimiter"),
    ),
    Word(
        "home",
        one_of("label", "icon", "none"),
        "How the home page is shown: by its label, as an icon, or not at all.",
        "label",
    ),
    Word(
        "itself",
        Switch(name="one of", values=("show", "hide"), on="show"),
        "Whether the page itself is the last breadcrumb.",
        "show",
        title="The page itself",
    ),
    Word(
        "groups",
        NO_OR_YES,
        "Whether groups of the main menu that hold the page count as levels, by their name.",
        "no",
        title="Menu groups",
    ),
    Word("place", one_of("top", "bottom"), "Below the header, or above the footer.", "top", title="Place"),
    Word("look", one_of("text", "steps"), "As text with a separator, or as `steps`.", "text"),
    Word(
        "size",
        Number(least=60, most=200),
        "The size of the text, in percent of the page's.",
        "94",
        title="Text size, %",
    ),
    Word(
        "shorten",
        Number(least=3, most=100),
        "With more breadcrumbs than this, those in the middle fold behind a button.",
        "never",
        title="Shorten past",
    ),
)


@dataclass(frozen=True, slots=True)
class Crumbs:
    """How breadcrumbs look. ``shorten`` is the most that are in view; 0 is no limit. With ``groups`` the groups of the
    main menu that hold a page are levels. ``place`` is `top`, below the header, or `bottom`, above the footer; ``size``
    is in percent of the text's."""

    separator: str = "›"
    home: str = "label"
    itself: bool = True
    shorten: int = 0
    groups: bool = False
    place: str = "top"
    look: str = "text"
    size: int = 94
