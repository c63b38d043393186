"""The words for what pages share, and for what one page has of its own beside its text."""

from __future__ import annotations

from basilica.core.map.schema.word import Word

BUILT_IN_PARTS = ("header", "breadcrumbs", "section-menus", "list", "sequence", "footer")
"""Parts that the map itself gives; with ``menu-NAME`` for each menu."""

MENU_PART = "menu-"

IDENTITY = "identity"
"""The part of this name stands in the header, in place of the site's name."""

SLOTS = ("header", "bar", "before", "after", "aside", "footer", "end")
"""The slots of the layout that ships."""

PLAIN_LAYOUT = "plain"
"""The name of the layout that ships."""

KINDS: dict[str, tuple[str, ...]] = {
    "text": (),
    "identity": ("picture", "small-picture", "name", "show-name", "height", "line"),
    "contact": ("title", "telephone", "mail", "place", "opening"),
    "links": ("title", "menu"),
    "form": ("title", "form", "to", "button"),
    "notice": ("title",),
    "embed": ("title", "url", "height"),
    "legal": ("name", "since"),
}
"""The words of each ready kind, beside ``kind``, ``text`` and ``html``."""

PART = (
    Word(
        "kind",
        "one of",
        "A ready-made kind, or `text`: only what you write.",
        tuple(KINDS),
        "text",
    ),
    Word(
        "text",
        "text",
        "Markdown. `{title}`, `{label}`, `{section}`, `{description}` and `{site}` insert those of the page.",
    ),
    Word("html", "text", "The same in HTML, instead of `text`."),
    Word("title", "text", "A heading above the part. `embed`: a description of what is shown."),
    Word("picture", "file", "`identity`: the logo, a file in `files`."),
    Word("small-picture", "file", "`identity`: the logo that replaces it after the header has shrunk."),
    Word("name", "text", "`identity` and `legal`: the name that is shown.", (), "the site's name"),
    Word(
        "show-name",
        "one of",
        "`identity`: whether the name is shown beside the logo; if not, it is the logo's text alternative.",
        ("yes", "no"),
        "yes",
    ),
    Word("line", "text", "`identity`: a line of text below the name."),
    Word("telephone", "text", "`contact`: the telephone number, as people read it."),
    Word("mail", "text", "`contact`: the e-mail address."),
    Word("place", "text", "`contact`: the postal address, line by line."),
    Word("opening", "text", "`contact`: the opening hours, line by line."),
    Word("menu", "name of a menu", "`links`: the menu to list. With `place: part` it appears nowhere else."),
    Word("form", "one of", "`form`: what it is for.", ("search", "message"), "message"),
    Word("to", "address", "`form`: where it is sent: a path of the site, or a full address."),
    Word("button", "text", "`form`: the text of its button.", (), "“Search” or “Send”"),
    Word("url", "address", "`embed`: the address that is shown in a frame."),
    Word(
        "height",
        "number",
        "`embed`: the height of the frame, in pixels. `identity`: the height of the logo, in pixels.",
        (),
        "`embed`: 360, `identity`: 40",
    ),
    Word("since", "text", "`legal`: the year, or the years, of the copyright."),
)

SOCIAL = (
    Word("title", "text", "The title shown where the page is shared.", (), "the page's title"),
    Word("description", "text", "The text shown below the title.", (), "the page's description"),
    Word(
        "picture",
        "file",
        "The picture shown with it, a file in `files`; an SVG file is shown as a PNG of 1200 by 630 pixels.",
    ),
    Word(
        "card",
        "one of",
        "How messages that share the page show it (`twitter:card`): with a small picture, or a large one.",
        ("none", "summary", "summary_large_image"),
        "none",
    ),
)

HEAD = (
    Word("icon", "file", "The icon of the site, a file in `files`."),
    Word("styles", "file or list of files", "Style sheets that every page loads, after Basilica's own."),
    Word("scripts", "file or list of files", "Scripts that every page loads; they run once the page is read."),
    Word("fonts", "keys", "Fonts, each a family name and its file, such as `Mill Sans: mill.woff2`."),
    Word(
        "touch-icon",
        "yes or no",
        "Whether to make a picture of the icon for home screens, 180 pixels wide. The icon must be an SVG file.",
        ("no", "yes"),
        "no",
    ),
    Word(
        "manifest",
        "file or auto",
        "The web app manifest, a file in `files`. `auto` makes one, with pictures of the icon, "
        "which must be an SVG file.",
    ),
    Word(
        "feed",
        "yes or no",
        "Whether to publish the pages that have a `date` as an Atom feed, feed.xml, newest first.",
        ("no", "yes"),
        "no",
    ),
    Word(
        "data",
        "one or several of",
        "What the home page tells search engines as schema.org data: `site`, and `organisation` "
        "with its logo and contact details. The other pages always tell their breadcrumbs.",
        ("site", "organisation"),
    ),
    Word(
        "meta",
        "keys",
        "More `meta` elements for every page, each a name and its content, such as `theme-color: "
        "'#14204a'`, or the code by which a search engine recognises the site's owner.",
    ),
    Word(
        "prefetch",
        "yes or no",
        "Whether to fetch a page of the site when the pointer is over its link, in browsers that "
        "can; never for readers who save data.",
        ("yes", "no"),
        "yes",
    ),
    Word(
        "minify",
        "yes or no",
        "Whether to write the style sheet and the script of the navigation in as few bytes as possible.",
        ("no", "yes"),
        "no",
    ),
    Word("counter", "keys", "The script that counts visits. Pages may load from its host; previews leave it out."),
    Word("social", "keys", "What is shown where a page is shared that has no such settings of its own."),
)

COUNTER = (
    Word("script", "address or file", "Where the script is: a full address, or a file in `files`."),
    Word(
        "data",
        "texts",
        "Settings for the script, each a name and a text: `site: mill` becomes the attribute `data-site`.",
    ),
    Word("hosts", "text or list of texts", "Other hosts to which the script sends data."),
)

TABLE = (
    Word("file", "file", "The table, a file in `tables` that ends with .csv or .json."),
    Word(
        "title",
        "text",
        "The title of each row's page; `{name}` inserts the cell of the column `name`.",
        (),
        "the first cell of the row",
    ),
    Word("label", "text", "The label of each page.", (), "the title"),
    Word(
        "path",
        "path",
        "The page's part of the address; if it begins with `/`, the whole address.",
        (),
        "made from the title",
    ),
    Word("description", "text", "One or two sentences for search results."),
    Word("keywords", "text", "Keywords for search."),
    Word(
        "section",
        "text",
        "Groups the rows: one page for each different text, with its rows under it; `letter` groups by first letter.",
    ),
    Word("layout", "name of a layout", "The layout of the pages.", (), "the layout of the page above"),
    Word(
        "text", "file", "The content of each page: a file in `tables` in which `{name}` inserts the cell of a column."
    ),
)

PAGE_EXTRA = (
    Word("layout", "name of a layout", "The layout of this page and the pages under it.", (), "the layout of the site"),
    Word(
        "slots", "keys", "Which parts fill each slot on this page and the pages under it; `none` leaves a slot empty."
    ),
    Word("without", "name or list of names", "Parts to leave out on this page and the pages under it."),
    Word("keywords", "text", "Keywords for search, separated by commas."),
    Word("date", "date", "The date of publication, such as `2026-03-01`."),
    Word("updated", "date", "The date of the last change; it is in the sitemap."),
    Word("social", "keys", "What is shown where the page is shared."),
    Word("styles", "file or list of files", "Style sheets for this page only."),
    Word("scripts", "file or list of files", "Scripts for this page only."),
    Word("css", "text", "CSS for this page only."),
    Word("js", "text", "JavaScript for this page only."),
    Word("class", "text", "Class names for the `body` of the page."),
    Word("noindex", "yes or no", "Keeps the page out of search engines and out of the sitemap.", ("no", "yes"), "no"),
    Word(
        "ignore",
        "keys",
        "Checks to ignore on this page and the pages under it: the code of each, with the reason.",
        old_name="silent",
    ),
)

CHECKS = (
    Word(
        "levels",
        "keys",
        "The level of checks on this site: the code of each, with a level alone, or with `level` and `reason`.",
    ),
    Word("hosts", "host or list of hosts", "Other hosts from which pages may load."),
    Word("spelling", "text or list of texts", "Words of the site's own that no word list has.", old_name="words"),
    Word("clicks", "number", "How many clicks any page may be away from home.", (), "3", range=(1, 20)),
)

LEVEL = (
    Word(
        "level",
        "one of",
        "How serious the finding is here. `ignore` counts it and stops nothing.",
        ("error", "warning", "advice", "ignore"),
        "ignore",
        old_values=(("silent", "ignore"),),
    ),
    Word("reason", "text", "The reason, which is shown in place of the finding.", old_name="because"),
)
