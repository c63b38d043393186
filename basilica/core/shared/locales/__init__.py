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
    "skip": "The link at the very top that leads past the menu.",
    "menu": "On the button behind which the main menu folds.",
    "main": "The name of the main menu, for those who cannot see it.",
    "footer": "The name of the menu in the footer, for those who cannot see it.",
    "utility": "The name of the menu above the header, for those who cannot see it.",
    "breadcrumb": "The name of the breadcrumbs, for those who cannot see them.",
    "languages": "The name of the links to other languages, for those who cannot see them.",
    "under": "On a button that opens what is under a page, and the name of the list of these; `{}` is the page.",
    "more": "On the mark that opens the breadcrumbs in the middle.",
    "outside": "What is read out at a link that leaves the site.",
    "sequence": "The name of the links to the page before and the one after.",
    "previous": "Before the label of the page before.",
    "next": "Before the label of the page after.",
    "all-pages": "The name of the list of all pages.",
    "not-found": "The title of the page for addresses that do not exist.",
    "not-found-text": "Content.",
    "go-home": "Its link home.",
    "moved": "The title of the page at an old address.",
    "moved-text": "Content; `{}` is the link.",
    "search": "On a form that searches: its field and its button.",
    "send": "On the button of a form that sends a message.",
    "your-name": "On a form: the field for a name.",
    "your-mail": "On a form: the field for an address of a mailbox.",
    "your-message": "On a form: the field for what one has to say.",
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
