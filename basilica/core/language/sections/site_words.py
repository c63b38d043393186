"""The site as a whole: its name, its base, its languages and the style of its addresses."""

from __future__ import annotations

from basilica.core.language.codecs import ADDRESS, LABEL, LANGUAGE, ListOf, Pattern, one_of
from basilica.core.language.word import Word
from basilica.core.rules import limits

SITE = (
    Word(
        "name",
        LABEL,
        "The name of the site. In the header it links to the home page.",
        group="Name and titles",
        synonyms=("brand", "sitename", "site-name"),
    ),
    Word(
        "title",
        Pattern(most=limits.LABEL_CHARACTERS, is_prose=True, needs="title"),
        "The pattern of page titles in browsers and search results, such as `{title} · {site}`; "
        "`{label}` and `{section}` work too. The heading on the page is always its title alone.",
        "{title}",
        title="Page titles",
        group="Name and titles",
    ),
    Word(
        "home-title",
        LABEL,
        "The same pattern for the home page.",
        "{title}",
        title="Title of home",
        group="Name and titles",
    ),
    Word(
        "base",
        ADDRESS,
        "The address where the site is published, such as `https://mill.example`; it may include a path.",
        title="Site address",
        group="Addresses",
        synonyms=("url", "baseurl", "base-url", "domain", "host", "origin"),
    ),
    Word(
        "language",
        LANGUAGE,
        "The language of the pages, such as `en-GB`.",
        "en",
        group="Name and titles",
        synonyms=("lang", "locale"),
    ),
    Word(
        "languages",
        ListOf(of=LANGUAGE, name="list of language tags", is_plain=False, least=2, top=20),
        "The languages of the site if it has more than one, such as `[en, cy]`. Addresses in the "
        "first language stay as they are; those in the others begin with the language tag.",
        group="Name and titles",
        synonyms=("langs", "locales", "translations"),
    ),
    Word(
        "language-prefix",
        one_of("others", "all"),
        "Which addresses begin with a language tag: those in all languages but the first, or all "
        "of them; then `/` leads to the first language.",
        "others",
        group="Name and titles",
    ),
    Word(
        "urls",
        one_of("folders", "files", "bare"),
        "The style of addresses: `/visit/hours/`, `/visit/hours.html` or `/visit/hours`.",
        "folders",
        title="Address style",
        group="Addresses",
    ),
    Word(
        "links",
        one_of("root", "document", "file", "absolute"),
        "How links are written: from the root, relative to the address, relative to the file, or in full.",
        "root",
        title="Link style",
        group="Addresses",
    ),
)
