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
        "A ready kind, or `text`: what is written and nothing else.",
        tuple(KINDS),
        "text",
    ),
    Word("text", "text", "Markdown. `{title}`, `{label}`, `{section}`, `{description}` and `{site}` are the page's."),
    Word("html", "text", "The same in HTML, in place of `text`."),
    Word("title", "text", "A heading over it; for `embed`, what it shows."),
    Word("picture", "file", "`identity`: the picture, a file in `files`."),
    Word("small-picture", "file", "`identity`: the picture in its place while the header is small."),
    Word("name", "text", "`identity` and `legal`: whose.", (), "the site's name"),
    Word(
        "show-name",
        "one of",
        "`identity`: whether the name stands beside the picture; without it, it is what the picture says.",
        ("yes", "no"),
        "yes",
    ),
    Word("line", "text", "`identity`: the line under the name."),
    Word("telephone", "text", "`contact`: the number, as people read it."),
    Word("mail", "text", "`contact`: the address of the mailbox."),
    Word("place", "text", "`contact`: where it is; each line by itself."),
    Word("opening", "text", "`contact`: when it is open; each line by itself."),
    Word("menu", "name of a menu", "`links`: the menu that is listed. With `place: part` it stands nowhere else."),
    Word("form", "one of", "`form`: what it asks for.", ("search", "message"), "message"),
    Word("to", "address", "`form`: where it is sent: a path of the site, or a full address."),
    Word("button", "text", "`form`: the words on its button.", (), "“Search” or “Send”"),
    Word("url", "address", "`embed`: the address of what is shown in a frame."),
    Word(
        "height", "number", "In pixels: `embed`, of what is shown; `identity`, of the picture.", (), "360; a picture 40"
    ),
    Word("since", "text", "`legal`: the year, or years, of the rights."),
)

SOCIAL = (
    Word("title", "text", "The title where the page is passed on.", (), "the page's title"),
    Word("description", "text", "The text beside it.", (), "the page's description"),
    Word("picture", "file", "The picture, a file in `files`; of an SVG file a PNG of 1200 by 630 pixels is shown."),
    Word(
        "card",
        "one of",
        "How a message that leads to the page shows it (`twitter:card`): with a small picture, or a large one.",
        ("none", "summary", "summary_large_image"),
        "none",
    ),
)

HEAD = (
    Word("icon", "file", "The icon of the site, a file in `files`."),
    Word("styles", "file or list of files", "Style sheets that every page loads, after Basilica's own."),
    Word("scripts", "file or list of files", "Scripts that every page loads, once it is read."),
    Word("fonts", "keys", "Letters: a family and its file, such as `Mill Sans: mill.woff2`."),
    Word(
        "touch-icon",
        "yes or no",
        "Whether a picture of the icon, 180 pixels wide, is made for home screens; the icon is an SVG file.",
        ("no", "yes"),
        "no",
    ),
    Word(
        "manifest",
        "file or auto",
        "The manifest of the site as an application, a file in `files`; `auto` makes one, with pictures of the icon,"
        " which is an SVG file.",
    ),
    Word(
        "feed",
        "yes or no",
        "Whether the pages that have a `date` are told as a feed, feed.xml (Atom), the newest first.",
        ("no", "yes"),
        "no",
    ),
    Word(
        "data",
        "one or several of",
        "What the home page tells search engines as schema.org data, beside the breadcrumbs of the others: `site`, and"
        " `organisation` with its logo and how it is reached.",
        ("site", "organisation"),
    ),
    Word(
        "meta",
        "keys",
        "More that every head says: a name and its content, such as `theme-color: '#14204a'`, or what a search engine"
        " asks for to know the site's owner.",
    ),
    Word(
        "prefetch",
        "yes or no",
        "Whether pages of the site that are pointed at are fetched before they are asked for, where the browser can;"
        " not for readers who save data.",
        ("yes", "no"),
        "yes",
    ),
    Word(
        "minify",
        "yes or no",
        "Whether the style sheet and the script of the navigation are written as short as they can be.",
        ("no", "yes"),
        "no",
    ),
    Word("counter", "keys", "The script that counts visits. Its host is allowed; previews leave it out."),
    Word("social", "keys", "What is shown where a page is passed on and says nothing else."),
)

COUNTER = (
    Word("script", "address or file", "The script: a full address, or a file in `files`."),
    Word("data", "texts", "What it is told: a name and a text, such as `site: mill`, for the attribute `data-site`."),
    Word("hosts", "text or list of texts", "Other hosts that it speaks to, beside its own."),
)

TABLE = (
    Word("file", "file", "The table, a file in `tables` that ends with .csv or .json."),
    Word(
        "title", "text", "The title of a row's page; `{name}` is the cell of the column `name`.", (), "the row's first"
    ),
    Word("label", "text", "Its label.", (), "the title"),
    Word(
        "path", "path", "Its piece of the address, or the whole of it with a `/` in front.", (), "made from the title"
    ),
    Word("description", "text", "One or two sentences for search results."),
    Word("keywords", "text", "Words for search."),
    Word("section", "text", "A page for each different text of it, with the rows under it; `letter` has one a letter."),
    Word("layout", "name of a layout", "The layout of the pages of rows.", (), "as the page above has it"),
    Word("text", "file", "The text of each page, a file in `tables` with `{name}` for the cell of a column."),
)

PAGE_EXTRA = (
    Word("layout", "name of a layout", "The layout of this page, and of those under it.", (), "as the site has it"),
    Word("slots", "keys", "By slot, the parts that fill it here and on pages under this; `none` leaves it empty."),
    Word("without", "name or list of names", "Parts that are kept out here, and on pages under this."),
    Word("keywords", "text", "Words for search, with commas between."),
    Word("date", "date", "When the page came out, such as `2026-03-01`."),
    Word("updated", "date", "When it was last changed; the sitemap says it."),
    Word("social", "keys", "What is shown where the page is passed on."),
    Word("styles", "file or list of files", "Style sheets of this page alone."),
    Word("scripts", "file or list of files", "Scripts of this page alone."),
    Word("css", "text", "Style of this page alone, written out."),
    Word("js", "text", "Script of this page alone, written out."),
    Word("class", "text", "The class of the page's body."),
    Word("noindex", "yes or no", "Kept out of search engines, and out of the sitemap.", ("no", "yes"), "no"),
    Word(
        "ignore",
        "keys",
        "By code, checks that are ignored on this page and on those under it, each with the reason.",
        old_name="silent",
    ),
)

CHECKS = (
    Word("levels", "keys", "By code, the level that a check has here: a level alone, or `level` and `reason`."),
    Word("hosts", "host or list of hosts", "Other hosts that pages may load from."),
    Word("spelling", "text or list of texts", "The site's own words, which are in no word list.", old_name="words"),
    Word("clicks", "number", "How many clicks from home a page may be away.", (), "3"),
)

LEVEL = (
    Word(
        "level",
        "one of",
        "How grave it is here. `ignore` is counted, and stops nothing.",
        ("error", "warning", "advice", "ignore"),
        "ignore",
        old_values=(("silent", "ignore"),),
    ),
    Word("reason", "text", "The reason, which is shown wherever the finding would have been.", old_name="because"),
)
