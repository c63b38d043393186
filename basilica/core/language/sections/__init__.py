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
    Word("site", KEYS, "Settings of the whole site."),
    Word("pages", Structure(name="pages"), "Every page, nested as the site is."),
    Word("menus", Structure(name="menus"), "Which pages are in which menu, in what order."),
    Word("breadcrumbs", KEYS, "How breadcrumbs look."),
    Word("header", KEYS, "How the header looks and behaves."),
    Word("page-end", KEYS, "What follows the content of each page.", old_name="closing"),
    Word("theme", KEYS, "Colours, fonts and sizes of the generated pages.", old_name="looks"),
    Word(
        "facts",
        NAMED_TEXTS,
        "Facts that several pages repeat, each a name and a text, such as `phone: 01632 960142`. "
        "`{fact:phone}` inserts it in labels, titles, fields of parts, the tagline and any text.",
    ),
    Word("parts", Structure(name="parts"), "Named pieces of content that pages share."),
    Word("slots", KEYS, "Which part or parts fill each slot of the layout, on every page."),
    Word("layout", named("name of a layout"), "The layout of every page that names no other.", "plain"),
    Word("head", KEYS, "What every page loads."),
    Word("phrases", KEYS, "Your own wording for the words that Basilica puts on pages.", old_name="words"),
    Word(
        "redirects",
        Structure(name="addresses", control="pairs"),
        "Old addresses that no page has any more, each with its target: a page, a full address on"
        " another site, or `gone`.",
    ),
    Word("inlay", KEYS, "How the shared parts are inserted into existing pages."),
    Word("checks", KEYS, "What the checks should know about this site, and how serious each finding is."),
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


def default_of(words: tuple[Word, ...], name: str) -> str:
    """The default of the key ``name`` in ``words``."""
    return next(word.default for word in words if word.name == name)
