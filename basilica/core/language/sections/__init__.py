"""The words of the map language by section. Reading, writing, completion, the reference, the controls and the JSON
Schema are made from here."""

from __future__ import annotations

from basilica.core.language.codecs import KEYS, NAMED_TEXTS, Structure, named
from basilica.core.language.sections.breadcrumbs_words import BREADCRUMBS
from basilica.core.language.sections.checks_words import CHECKS, LEVEL
from basilica.core.language.sections.head_words import COUNTER, HEAD, SOCIAL
from basilica.core.language.sections.header_words import BELOW, HEADER, MOBILE, PAGE_HEADER
from basilica.core.language.sections.inlay_words import INLAY, MARKUP
from basilica.core.language.sections.menu_words import AUTO, ENTRY, MENU
from basilica.core.language.sections.page_end_words import PAGE_END
from basilica.core.language.sections.page_words import PAGE, TABLE, TRAIL
from basilica.core.language.sections.part_words import PART
from basilica.core.language.sections.phrases_words import PHRASE_WORDS
from basilica.core.language.sections.site_words import SITE
from basilica.core.language.sections.theme_words import THEME
from basilica.core.language.word import Word

MAP = (
    Word("site", KEYS, "Settings of the whole site.", screen="Settings: Site"),
    Word(
        "pages",
        Structure(name="pages"),
        "Every page, nested as the site is.",
        screen="Map: After and Under, above the plan",
    ),
    Word(
        "menus",
        Structure(name="menus"),
        "Which pages are in which menu, in what order.",
        screen="Map: New menu, beside the menus",
        synonyms=("nav", "navigation", "menu", "navs"),
    ),
    Word("breadcrumbs", KEYS, "How breadcrumbs look.", screen="Settings: Breadcrumbs"),
    Word("header", KEYS, "How the header looks and behaves.", screen="Header: every field"),
    Word("page-end", KEYS, "What follows the content of each page.", old_name="closing", screen="Settings: Every page"),
    Word(
        "theme",
        KEYS,
        "Colours, fonts and sizes of the generated pages.",
        old_name="looks",
        screen="Settings: Theme",
        synonyms=("style", "design", "colors", "colours"),
    ),
    Word(
        "facts",
        NAMED_TEXTS,
        "Facts that several pages repeat, each a name and a text, such as `phone: 01632 960142`. "
        "`{fact:phone}` inserts it in labels, titles, fields of parts, the tagline and any text.",
        screen="Settings: Facts",
        synonyms=("variables", "vars", "data", "constants"),
    ),
    Word(
        "parts",
        Structure(name="parts"),
        "Named pieces of content that pages share.",
        screen="Parts: New part",
        synonyms=("partials", "blocks", "components", "snippets"),
    ),
    Word(
        "slots",
        KEYS,
        "Which part or parts fill each slot of the layout, on every page.",
        screen="Parts: the slot, chosen",
    ),
    Word(
        "layout",
        named("name of a layout"),
        "The layout of every page that names no other.",
        "plain",
        screen="Settings: Every page",
    ),
    Word("head", KEYS, "What every page loads.", screen="Settings: Head"),
    Word(
        "phrases",
        KEYS,
        "Your own wording for the words that Basilica puts on pages.",
        old_name="words",
        screen="Settings: Phrases",
        synonyms=("strings", "translations", "messages"),
    ),
    Word(
        "redirects",
        Structure(name="addresses", control="pairs"),
        "Old addresses that no page has any more, each with its target: a page, a full address on"
        " another site, or `gone`.",
        screen="Settings: Redirects",
        synonyms=("aliases", "moved"),
    ),
    Word("inlay", KEYS, "How the shared parts are inserted into existing pages.", screen="Settings: Existing pages"),
    Word(
        "checks",
        KEYS,
        "What the checks should know about this site, and how serious each finding is.",
        screen="Settings: Checks",
    ),
)

SECTIONS: dict[str, tuple[Word, ...]] = {
    "": MAP,
    "site": SITE,
    "pages": PAGE,
    "levels of breadcrumbs": TRAIL,
    "menus": MENU,
    "entries": ENTRY,
    "auto": AUTO,
    "breadcrumbs": BREADCRUMBS,
    "header": HEADER,
    "header on a page": PAGE_HEADER,
    "mobile": (BELOW, *MOBILE),
    "page-end": PAGE_END,
    "theme": THEME,
    "phrases": PHRASE_WORDS,
    "parts": PART,
    "head": HEAD,
    "social": SOCIAL,
    "counter": COUNTER,
    "table": TABLE,
    "inlay": INLAY,
    "own markup": MARKUP,
    "checks": CHECKS,
    "level": LEVEL,
}
"""By the name of a section its words."""


SCREENS = {
    "site": "Settings: Site",
    "pages": "Pages: Settings",
    "levels of breadcrumbs": "Settings: This page alone, as a line `group: Name`",
    "menus": "Settings: Menus",
    "entries": "Map: New entry and Edit, beside the menus",
    "auto": "Map: Follow the pages, beside a menu",
    "breadcrumbs": "Settings: Breadcrumbs",
    "header": "Header: the field of that name",
    "header on a page": "Header: written for this page",
    "mobile": "Header: in mobile windows",
    "page-end": "Settings: Every page",
    "theme": "Settings: Theme",
    "phrases": "Settings: Phrases",
    "parts": "Parts: the part, chosen",
    "head": "Settings: Head",
    "social": "Settings: Head; This page alone",
    "counter": "Settings: Head",
    "table": "Settings: This page alone",
    "inlay": "Settings: Existing pages",
    "own markup": "Settings: Existing pages",
    "checks": "Settings: Checks",
    "level": "Checks: Ignore, beside a finding",
}
"""Where the words of a section are set: a workspace, and what to look for there."""


def screen_of(section: str, word: Word) -> str:
    """Where a word of a section is set."""
    alone = "Settings: This page alone" if section == "pages" and word.group else ""
    return word.screen or alone or SCREENS[section]


def default_of(words: tuple[Word, ...], name: str) -> str:
    """The default of the key ``name`` in ``words``."""
    return next(word.default for word in words if word.name == name)
