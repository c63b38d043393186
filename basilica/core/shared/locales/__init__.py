"""The phrases that Basilica itself puts on pages, in the languages that are built in. A map can write others.

Each language is one file beside this, named after its tag (RFC 5646), with every phrase by its name. Where a language
is not here, the phrases are English, and a finding says so. `{}` stands for a label.
"""

from __future__ import annotations

import json
from collections.abc import Iterable, Mapping
from functools import cache
from importlib.resources import files as resources
from importlib.resources.abc import Traversable

PHRASES: dict[str, str] = {
    "skip": "The link at the top of the page that skips the menu.",
    "menu": "The button that opens the folded main menu.",
    "main": "The name of the main menu for screen readers.",
    "footer": "The name of the footer menu for screen readers.",
    "utility": "The name of the menu above the header for screen readers.",
    "breadcrumb": "The name of the breadcrumbs for screen readers.",
    "languages": "The name of the links to other languages for screen readers.",
    "under": "The button that opens the entries under a page, and the name of their list; `{}` is the page.",
    "more": "The button that shows the folded breadcrumbs.",
    "outside": "What screen readers add to a link that leaves the site.",
    "sequence": "The name of the links to the previous and the next page.",
    "previous": "Before the label of the previous page.",
    "next": "Before the label of the next page.",
    "all-pages": "The name of the list of all pages.",
    "not-found": "The title of the page for addresses that do not exist.",
    "not-found-text": "The text of that page.",
    "go-home": "The link to the home page on that page.",
    "moved": "The title of the page at an old address.",
    "moved-text": "The text of that page; `{}` is the link.",
    "search": "The field and the button of a search form.",
    "send": "The button of a message form.",
    "your-name": "The field for a name in a message form.",
    "your-mail": "The field for an e-mail address in a message form.",
    "your-message": "The field for the text in a message form.",
}
"""Each phrase by its name in the map, and what it is for."""

MENU_NAMES = ("main", "footer", "utility")
"""Phrases that name menus, those of the same name."""
PART_NAMES = ("breadcrumb", "sequence", "all-pages", "languages")
"""Phrases that name other parts of a page. Those who cannot see the parts tell them apart by these."""

_FOLDER: Traversable = resources(__name__)


@cache
def languages() -> tuple[str, ...]:
    """The languages that are built in, by the first piece of their tags."""
    names = (file.name for file in _FOLDER.iterdir())
    return tuple(sorted(name.removesuffix(".json") for name in names if name.endswith(".json")))


@cache
def built_in(language: str) -> Mapping[str, str]:
    """Every phrase of a language that is built in. Raises ``KeyError`` where its file lacks one."""
    known = json.loads(_FOLDER.joinpath(f"{language}.json").read_text(encoding="utf-8"))
    return {name: known[name] for name in PHRASES}


ENGLISH = built_in("en")


def phrases(language: str, own: Mapping[str, str]) -> dict[str, str]:
    """Every phrase in a language (a tag such as `pt-BR`), with the map's ``own`` in place of those it gives."""
    plain = primary(language)
    return {**built_in(plain if plain in languages() else "en"), **own}


def ships(language: str) -> bool:
    """Whether the phrases are built in for a language."""
    return primary(language) in languages()


_OWN_NAMES = {
    "ar": "العربية",
    "cy": "Cymraeg",
    "de": "Deutsch",
    "en": "English",
    "es": "Español",
    "fr": "Français",
    "ga": "Gaeilge",
    "gd": "Gàidhlig",
    "he": "עברית",
    "it": "Italiano",
    "ja": "日本語",
    "nl": "Nederlands",
    "pl": "Polski",
    "pt": "Português",
    "ru": "Русский",
    "sv": "Svenska",
    "tr": "Türkçe",
    "uk": "Українська",
    "zh": "中文",
}


def primary(language: str) -> str:
    """A language by its tag without region and script: `en` of `en-GB`, and of `en_GB`, which some pages write."""
    return language.strip().lower().partition("-")[0].partition("_")[0]


def own_name(language: str, among: Iterable[str] = ()) -> str:
    """What a language is called by those who speak it; its tag where that is not known, or where another ``among``
    those of a site is called the same."""
    plain = primary(language)
    same = [other for other in among if primary(other) == plain]
    name = _OWN_NAMES.get(plain, language)
    return f"{name} ({language})" if len(same) > 1 and name != language else name


_RIGHT_TO_LEFT = frozenset(["ar", "arc", "ckb", "dv", "fa", "ha", "he", "khw", "ks", "ps", "sd", "ur", "uz", "yi"])


def is_right_to_left(language: str) -> bool:
    """Whether a language, by its tag, is written from right to left."""
    return primary(language) in _RIGHT_TO_LEFT
