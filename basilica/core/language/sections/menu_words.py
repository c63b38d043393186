"""Menus, their entries, and the pages of the tree in place of entries."""

from __future__ import annotations

import re
from dataclasses import dataclass

from basilica.core.language.codecs import (
    ADDRESS,
    CLASSES,
    FILE,
    LABEL,
    NO_OR_YES,
    PAGE_KEY,
    TEXT_SCHEMA,
    Codec,
    Nearest,
    Number,
    Schema,
    Structure,
    Unfit,
    named,
    one_of,
    several,
)
from basilica.core.language.word import Word
from basilica.core.rules import limits

SEPARATOR = "separator"
"""An entry that is a line between others."""

AUTO_WORD = "auto"
"""In the place of entries: the pages of the tree."""

WIDTH = Number(name="width", control="text", least=1, most=limits.WINDOW_WIDTH)
"""The width of a window, CSS px."""


@dataclass(frozen=True, kw_only=True)
class Fold(Codec[str]):
    """A width, `always` or `never`."""

    name: str = "width"

    def read(self, text: str, what: str, nearest: Nearest) -> str:
        """As they are written; a width without its unit."""
        return text if text in ("always", "never") else str(WIDTH.read(text, what, nearest))

    def schema(self) -> Schema:
        """Both."""
        return {"anyOf": [{"enum": ["always", "never"]}, WIDTH.schema()]}


@dataclass(frozen=True, kw_only=True)
class Query(Codec[str]):
    """What is behind `?` in an address, as it is written there."""

    name: str = "query"
    is_prose: bool = True  # a fact may be in it

    def read(self, text: str, what: str, nearest: Nearest) -> str:
        """The same without its `?`."""
        query = text.strip().removeprefix("?")
        if not re.fullmatch(r"[^\s#\"<>?]+", query):
            message = f"{what} is `{text[:60]}`, which cannot be behind `?` in an address."
            raise Unfit(message, "Write such as `month=5`, with `%20` for a space.")
        return query

    def schema(self) -> Schema:
        """Any such text."""
        return {**TEXT_SCHEMA, "pattern": r"^\s*\??[^\s#\"<>?]+\s*$"}


ENTRY = (
    Word(
        "page",
        PAGE_KEY,
        "A page, by its key or the end of its key; `hours#times` links to an anchor on it.",
        synonyms=("key", "target-page"),
    ),
    Word("group", LABEL, "A heading that opens a submenu and is not a link."),
    Word("file", FILE, "A file of the site to open or to download, from `public` or `files`, such as `timetable.pdf`."),
    Word(
        "label",
        LABEL,
        "The text of the entry.",
        "the page's label; of a file, its name in words",
        synonyms=("title", "name", "text"),
    ),
    Word(
        "query",
        Query(),
        "What is behind `?` in the address of the page, such as `month=5`; `page: hours?month=5` says the same.",
    ),
    Word(
        "url",
        ADDRESS,
        "An address outside the site: https, http, mailto or tel.",
        synonyms=("href", "link", "external"),
    ),
    Word(
        "items",
        Structure(name="entries"),
        "The entries under this one, or `auto`.",
        synonyms=("children", "entries", "submenu", "pages", "links"),
    ),
    Word(
        "auto",
        Structure(name="number or keys"),
        "Pages from the tree, this many levels deep, instead of entries written out. A page "
        "written out elsewhere in the menu is skipped.",
    ),
    Word(
        "icon",
        named("icon"),
        "The icon before the label: the name of an icon, or an SVG file of the site, such as `mill.svg`.",
    ),
    Word(
        "note", LABEL, "A few words below the label.", called="The note", synonyms=("description", "hint", "subtitle")
    ),
    Word(
        "show",
        one_of("text", "icon", "button"),
        "`icon` shows only the icon and keeps the label for screen readers; `button` is for the "
        "most important action of the site.",
        "text",
    ),
    Word("above", WIDTH, "Shown only in windows at least this many pixels wide.", title="From width, px"),
    Word("below", WIDTH, "Shown only in windows narrower than this many pixels.", title="Below width, px"),
    Word(
        "class",
        CLASSES,
        "Class names for the entry, for the site's own styles.",
        field_name="css_class",
        synonyms=("css-class", "classes"),
    ),
)


@dataclass(frozen=True, slots=True)
class EntryDisplay:
    """How an entry is shown. ``icon`` is the name of one that ships, or the file of one of the site's own, with its
    ``drawing`` as pages have it; ``above`` and ``below`` are widths of the window in CSS px, 0 for no limit."""

    icon: str = ""
    note: str = ""
    show: str = "text"
    above: int = 0
    below: int = 0
    css_class: str = ""
    drawing: str = ""


AUTO = (
    Word(
        "levels",
        Number(least=1, most=limits.LEVELS),
        "How many levels deep.",
        "2 at the top of a menu, 1 below an entry",
    ),
    Word(
        "except", several(PAGE_KEY, "reference or list of references"), "Pages to leave out, with the pages under them."
    ),
    Word("order", one_of("map", "title"), "In the order of the map, or sorted by label.", "map"),
    Word("first", Number(least=1, most=limits.PAGES), "At most this many pages, from the beginning.", "all"),
    Word("by", one_of("letter"), "`letter` groups the pages by their first letter."),
    Word(
        "under",
        PAGE_KEY,
        "The page whose child pages are taken, for example in a group.",
        "the page of the entry; at the top of a menu and in a group, the top of the tree",
    ),
)


@dataclass(frozen=True, slots=True)
class AutoOptions:
    """What `auto` takes of the tree: so many ``levels``, in an ``order``, ``without`` some pages; only the ``first`` so
    many (0: all); and in groups ``by`` letter, or none."""

    levels: int
    order: str = "map"
    without: tuple[str, ...] = ()
    first: int = 0
    by: str = ""


MENU = (
    Word(
        "entries",
        Structure(name="entries"),
        "The entries of the menu, or `auto`.",
        "auto",
        screen="Map: New entry, beside the menu",
        synonyms=("items", "links", "pages"),
    ),
    Word(
        "label",
        LABEL,
        "The name of the menu for screen readers.",
        "its name, in words",
        called="The label",
        synonyms=("title", "name"),
    ),
    Word("section", PAGE_KEY, "A page: the menu appears only on it and on the pages under it."),
    Word(
        "place",
        one_of("utility", "footer", "part"),
        "Where the menu appears: in a row above the header, as a column of the footer, or only inside a `part`.",
        "`footer`; `utility` for the menu of that name",
    ),
    Word(
        "opens",
        one_of("beside", "inside"),
        "How an entry with a page and a submenu works: a link with a button `beside` it, or a "
        "button that opens a list which begins with the page, `inside`.",
        "beside",
        title="Submenus open",
    ),
    Word(
        "submenus",
        one_of("list", "panel"),
        "How submenus of the main menu look: a `list` below their entry, or a `panel` as wide as the bar, with notes.",
        "list",
    ),
    Word(
        "hover",
        NO_OR_YES,
        "Whether submenus also open when the pointer is over their entry.",
        "no",
        title="Open on hover",
    ),
    Word(
        "fold",
        Fold(),
        "Below this window width the main menu folds behind one button: pixels, `always` or `never`.",
        "where its labels no longer fit",
        title="Folds below",
        synonyms=("collapse", "breakpoint"),
    ),
    Word(
        "class",
        CLASSES,
        "Class names for the menu, for the site's own styles.",
        field_name="css_class",
        synonyms=("css-class", "classes"),
    ),
)


@dataclass(frozen=True, slots=True)
class MenuSettings:
    """How a menu is drawn, and where. ``section`` is the key of the page to which it belongs, with those under it.
    ``fold`` is a width in CSS px, `always`, `never`, or empty: worked out from the labels."""

    label: str = ""
    section: str | None = None
    place: str = ""
    opens: str = "beside"
    hover: bool = False
    submenus: str = "list"
    fold: str = ""
    css_class: str = ""


NOT_OF_KIND = {
    "page": ("url", "file", "group"),
    "url": ("page", "file", "group", "query"),
    "file": ("page", "url", "group", "query"),
    "group": ("page", "url", "file", "label", "query"),
}
"""By the word that says where an entry leads, the words that such an entry does not have."""

ENTRY_WORDS = frozenset(["page", "group", "file", "label", "url", "items", "auto", SEPARATOR])
"""These begin a menu entry, so no page can have one of them as its id."""
