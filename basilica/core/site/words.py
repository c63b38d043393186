"""The words of the map language. Reading, completion, the reference and the JSON Schema are made from here."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Word:
    """A key that may stand in one place of the map."""

    name: str
    takes: str
    meaning: str
    values: tuple[str, ...] = ()
    default: str = ""


MAP = (
    Word("site", "keys", "What is true of the whole site."),
    Word("pages", "pages", "Every page, nested as the site is."),
    Word("menus", "menus", "Which pages stand in which menu, in what order."),
    Word("breadcrumbs", "keys", "How breadcrumbs look."),
    Word("header", "keys", "What the header does."),
)

SITE = (
    Word("name", "text", "The site's name; the header leads home by it."),
    Word("base", "address", "Where the site lives, such as `https://mill.example`; it may have a path."),
    Word("language", "language tag", "The language of the pages, such as `en-GB`.", (), "en"),
    Word(
        "urls",
        "one of",
        "The style of addresses: `/visit/hours/`, `/visit/hours.html` or `/visit/hours`.",
        ("folders", "files", "bare"),
        "folders",
    ),
    Word(
        "links",
        "one of",
        "How links are written: from the root, relative between addresses, relative between files, or in full.",
        ("root", "document", "file", "absolute"),
        "root",
    ),
)

PAGE = (
    Word("title", "text", "The page's own title: `<title>` and `<h1>`.", (), "the id, in words"),
    Word("label", "text", "What menus and breadcrumbs show.", (), "the title"),
    Word("description", "text", "One or two sentences for search results."),
    Word(
        "path",
        "path",
        "Replaces the page's own piece of the address; with a `/` in front, the whole address.",
        (),
        "the id",
    ),
    Word("was", "path or list of paths", "Old addresses of the page, from the root; they redirect to it."),
    Word("pages", "pages", "The pages under this one."),
)

ENTRY = (
    Word("page", "reference", "A page, by its key or the end of its key; `hours#times` for an anchor on it."),
    Word("group", "text", "A heading that opens a submenu and goes nowhere."),
    Word("label", "text", "What the entry shows.", (), "the page's label"),
    Word("url", "address", "An address outside the site: https, http, mailto or tel."),
    Word("items", "entries", "The entries under this one, or `auto`."),
    Word("auto", "number", "The pages of the tree, so many levels deep, in place of entries written out."),
)

BREADCRUMBS = (Word("separator", "text", "What is drawn between two breadcrumbs; it is not read aloud.", (), "›"),)

HEADER = (
    Word(
        "behaviour",
        "one of",
        "`static` scrolls away, `stick` stays at the top, `shrink` stays and becomes small.",
        ("static", "stick", "shrink"),
        "static",
    ),
)

ENTRY_WORDS = frozenset(word.name for word in ENTRY)
"""These begin a menu entry, so no page can have one of them as its id."""

SECTIONS = {
    "": MAP,
    "site": SITE,
    "pages": PAGE,
    "menus": ENTRY,
    "breadcrumbs": BREADCRUMBS,
    "header": HEADER,
}


def default_of(words: tuple[Word, ...], name: str) -> str:
    """The default of the key ``name`` in ``words``."""
    return next(word.default for word in words if word.name == name)
