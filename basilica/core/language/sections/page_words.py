"""A page, and what it has of its own beside its text."""

from __future__ import annotations

from basilica.core.language.codecs import (
    ADDRESS,
    CLASSES,
    CODE,
    DATE,
    FILE,
    KEYS,
    LABEL,
    NO_OR_YES,
    PAGE_KEY,
    PATH,
    PLAIN,
    PROSE,
    Structure,
    named,
    one_of,
    several,
)
from basilica.core.language.word import Word

PAGE_EXTRA = (
    Word(
        "layout",
        named("name of a layout"),
        "The layout of this page and the pages under it.",
        "the layout of the site",
        field_name="options.extra.layout",
        synonyms=("template",),
    ),
    Word(
        "slots",
        KEYS,
        "Which parts fill each slot on this page and the pages under it; `none` leaves a slot empty.",
        field_name="options.extra.slots",
        screen="Parts: the slot, chosen; from this page on",
    ),
    Word(
        "without",
        several(named("part"), "name or list of names"),
        "Parts to leave out on this page and the pages under it.",
        field_name="options.extra.without",
        group="Head and files",
    ),
    Word(
        "keywords",
        LABEL,
        "Keywords for search, separated by commas.",
        field_name="options.extra.keywords",
        synonyms=("tags",),
    ),
    Word(
        "date",
        DATE,
        "The date of publication, such as `2026-03-01`.",
        field_name="options.extra.date",
        synonyms=("published", "publish-date"),
    ),
    Word(
        "updated",
        DATE,
        "The date of the last change; it is in the sitemap.",
        field_name="options.extra.updated",
        synonyms=("modified", "lastmod", "last-modified"),
    ),
    Word(
        "social",
        KEYS,
        "What is shown where the page is shared.",
        field_name="options.extra.social",
        screen="Settings: This page alone",
    ),
    Word(
        "styles",
        several(FILE, "file or list of files"),
        "Style sheets for this page only.",
        field_name="options.extra.styles",
        group="Head and files",
    ),
    Word(
        "scripts",
        several(FILE, "file or list of files"),
        "Scripts for this page only.",
        field_name="options.extra.scripts",
        group="Head and files",
    ),
    Word("css", CODE, "CSS for this page only.", field_name="options.extra.css", group="Head and files"),
    Word("js", CODE, "JavaScript for this page only.", field_name="options.extra.js", group="Head and files"),
    Word(
        "class",
        CLASSES,
        "Class names for the `body` of the page.",
        field_name="options.extra.css_class",
        synonyms=("body-class", "css-class", "classes"),
    ),
    Word(
        "noindex",
        NO_OR_YES,
        "Keeps the page out of search engines and out of the sitemap.",
        "no",
        field_name="options.extra.noindex",
        group="Address and breadcrumbs",
    ),
    Word(
        "ignore",
        KEYS,
        "Checks to ignore on this page and the pages under it: the code of each, with the reason.",
        old_name="silent",
        field_name="options.extra.ignored",
        screen="Checks: Ignore, beside a finding",
    ),
)

TABLE = (
    Word("file", FILE, "The table, a file in `tables` that ends with .csv or .json."),
    Word(
        "title",
        PLAIN,
        "The title of each row's page; `{name}` inserts the cell of the column `name`.",
        "the first cell of the row",
    ),
    Word("label", PLAIN, "The label of each page.", "the title"),
    Word(
        "path", PATH, "The page's part of the address; if it begins with `/`, the whole address.", "made from the title"
    ),
    Word("description", PLAIN, "One or two sentences for search results."),
    Word("keywords", PLAIN, "Keywords for search."),
    Word(
        "section",
        PLAIN,
        "Groups the rows: one page for each different text, with its rows under it; `letter` groups by first letter.",
    ),
    Word("layout", named("name of a layout"), "The layout of the pages.", "the layout of the page above"),
    Word("text", FILE, "The content of each page: a file in `tables` in which `{name}` inserts the cell of a column."),
)

PAGE = (
    Word(
        "title",
        LABEL,
        "The title of the page: `<title>` and `<h1>`.",
        "the id, in words",
        synonyms=("name", "heading", "headline"),
    ),
    Word(
        "label",
        LABEL,
        "The page's name in menus and breadcrumbs.",
        "the title",
        synonyms=("menu-title", "nav-title", "short-title", "menu-label", "nav-label"),
    ),
    Word("description", PROSE, "One or two sentences for search results.", synonyms=("summary", "excerpt", "abstract")),
    Word(
        "path",
        PATH,
        "The page's part of the address; if it begins with `/`, the whole address. If it ends in "
        "a file name, such as `/AboutUs.htm`, the page is written to that file.",
        "the id",
        synonyms=("slug", "url", "address", "permalink", "href", "link"),
    ),
    Word(
        "was",
        several(ADDRESS, "address or list of addresses"),
        "Old addresses of the page, which redirect to it: from the root, spelled exactly, including any query.",
        group="Address and breadcrumbs",
        synonyms=("aliases", "redirect-from", "old-path", "old-url", "redirects"),
    ),
    Word(
        "also",
        several(ADDRESS, "address or list of addresses"),
        "Further addresses that serve the page, such as `/hours/`. Its own address is the canonical one.",
        group="Address and breadcrumbs",
        synonyms=("also-at", "further-paths"),
    ),
    Word(
        "kind",
        one_of("page", "section", "backend", was={"served": "backend"}),
        "`section` has no page of its own, only pages under it; `backend` is answered by other code of the site.",
        "page",
        field_name="options.kind",
    ),
    Word(
        "hidden",
        several(
            one_of(
                "menus",
                "breadcrumbs",
                "sitemap",
                synonyms={"true": "menus", "yes": "menus", "menu": "menus", "nav": "menus"},
            ),
            "one or several of",
        ),
        "Where the page does not appear. If it is hidden from menus, `auto` leaves out the page "
        "and the pages under it.",
        field_name="options.hidden",
        synonyms=("hide", "exclude"),
    ),
    Word(
        "draft",
        NO_OR_YES,
        "A draft and the pages under it are built only on request, and nothing links to them.",
        "no",
        field_name="options.draft",
    ),
    Word(
        "breadcrumbs",
        Structure(name="reference or list of levels", control="lines"),
        "Breadcrumbs set by hand: the page whose breadcrumbs come before this page, or the levels"
        " between home and it. A level is a page, or a `group:` that is only a name. The pages "
        "under this one follow it.",
        "the pages above it",
        group="Address and breadcrumbs",
    ),
    Word(
        "highlight",
        PAGE_KEY,
        "The page whose menu entry is current on this page, if this page has no entry of its own.",
        field_name="options.highlight",
    ),
    Word(
        "list",
        one_of("under", "site", "none"),
        "What is listed below the page's content: the pages under it, the whole site, or nothing.",
        "as in `page-end`",
        field_name="options.list",
    ),
    Word(
        "sequence",
        one_of("section", "map", "none"),
        "Links to the previous and the next page: in its section, in the whole map, or none.",
        "as in `page-end`",
        field_name="options.sequence",
    ),
    Word(
        "header",
        KEYS,
        "Header settings for this page and the pages under it, or only its `behaviour`.",
        screen="Header: written for this page",
    ),
    *PAGE_EXTRA,
    Word(
        "table",
        KEYS,
        "A table of data: each row becomes a page under this one. Its settings, or only its file.",
        screen="Settings: This page alone",
    ),
    Word(
        "include",
        FILE,
        "A file in `maps` that describes this page and the pages under it.",
        old_name="mount",
        group="Address and breadcrumbs",
    ),
    Word(
        "pages",
        Structure(name="pages"),
        "The pages under this one.",
        screen="Map: Under, above the plan",
        synonyms=("children", "subpages", "items", "nested", "sub-pages"),
    ),
)

TRAIL = (Word("group", LABEL, "A level that is only a name, without a link."),)

_AS_WRITTEN = "Pages come in the order in which the map has them, and are nested as they are written: move the page."
_IN_A_FILE = "The content of a page is in a file of its own, such as `content/visit/hours.md`."
_IN_MENUS = (
    "Write the page under `menus:`, where it is to be; or `hidden: menus` to keep it out of menus made by `auto`."
)
PAGE_ELSEWHERE = {
    **dict.fromkeys(("order", "weight", "position", "sort", "parent"), _AS_WRITTEN),
    **dict.fromkeys(("file", "content", "body", "source", "markdown"), _IN_A_FILE),
    **dict.fromkeys(("menu", "nav", "in-menu", "show-in-menu"), _IN_MENUS),
}
"""What people write at a page who come from elsewhere, and how a map says it."""
