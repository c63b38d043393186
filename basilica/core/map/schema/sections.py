"""The words of the map language. Reading, completion, the reference and the JSON Schema are made from here."""

from __future__ import annotations

from basilica.core.map.schema.inlay_words import INLAY, MARKUP
from basilica.core.map.schema.part_words import CHECKS, COUNTER, HEAD, LEVEL, PAGE_EXTRA, PART, SOCIAL, TABLE
from basilica.core.map.schema.word import Word
from basilica.core.shared.fonts import FONTS
from basilica.core.shared.theme import COLOURS, CORNERS, HEADINGS, PRESETS

__all__ = ["CHECKS", "HEAD", "LEVEL", "PAGE_EXTRA", "PART", "SECTIONS", "SOCIAL", "TABLE", "Word"]
from basilica.core.shared.locales import ENGLISH, PHRASES

MAP = (
    Word("site", "keys", "What is true of the whole site."),
    Word("pages", "pages", "Every page, nested as the site is."),
    Word("menus", "menus", "Which pages stand in which menu, in what order."),
    Word("breadcrumbs", "keys", "How breadcrumbs look."),
    Word("header", "keys", "What the header does."),
    Word("page-end", "keys", "What closes each page, below its own content.", old_name="closing"),
    Word("theme", "keys", "Colours and fonts of what Basilica makes.", old_name="looks"),
    Word(
        "facts",
        "texts",
        "What is so, and is said in many places: a name and a text, such as `phone: 01632 960142`. `{fact:phone}` says"
        " it in labels, titles, fields of parts, the tagline, and every text.",
    ),
    Word("parts", "parts", "Named pieces that pages share."),
    Word("slots", "keys", "By slot of the layout, the part or the parts that fill it on every page."),
    Word("layout", "name of a layout", "The layout of every page that has no other.", (), "plain"),
    Word("head", "keys", "What every page loads."),
    Word("phrases", "keys", "The words that Basilica puts on pages, where they should be others.", old_name="words"),
    Word(
        "redirects",
        "addresses",
        "Old addresses that belong to no page, each with where it leads: a page, a full address on another site, or"
        " `gone`.",
    ),
    Word("inlay", "keys", "How what pages share is set into pages that exist already."),
    Word("checks", "keys", "What checks are to know of this site, and how grave each is."),
)

SITE = (
    Word("name", "text", "The site's name; the header leads home by it."),
    Word(
        "title",
        "text",
        "The pattern of titles as browsers and search engines show them, such as `{title} · {site}`; `{label}` and"
        " `{section}` are known as well. A page's heading is its title alone.",
        (),
        "{title}",
    ),
    Word("home-title", "text", "The same for the home page.", (), "{title}"),
    Word("base", "address", "Where the site lives, such as `https://mill.example`; it may have a path."),
    Word("language", "language tag", "The language of the pages, such as `en-GB`.", (), "en"),
    Word(
        "languages",
        "list of language tags",
        "The languages of the site, where it has several, such as `[en, cy]`. The first is that of the addresses as"
        " they are; those of the others begin with their tag.",
    ),
    Word(
        "language-prefix",
        "one of",
        "Which languages have their tag at the beginning of their addresses: all but the first, or all; then `/` leads"
        " to the first.",
        ("others", "all"),
        "others",
    ),
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
        "Replaces the page's own piece of the address; with a `/` in front, the whole address. With a file name at its"
        " end, such as `/AboutUs.htm`, it is that file.",
        (),
        "the id",
    ),
    Word(
        "was",
        "address or list of addresses",
        "Old addresses of the page, from the root, letter for letter, with their query where they had one; they"
        " redirect to it.",
    ),
    Word(
        "kind",
        "one of",
        "`section` has no page of its own, only pages under it; `backend` is answered by other code of the site.",
        ("page", "section", "backend"),
        "page",
        old_values=(("served", "backend"),),
    ),
    Word(
        "hidden",
        "one or several of",
        "What the page is kept out of. Kept out of menus, it is left out by `auto`, and so are those under it.",
        ("menus", "breadcrumbs", "sitemap"),
    ),
    Word(
        "draft",
        "yes or no",
        "A draft, and all under it, is built only on request, and nothing leads to it.",
        ("no", "yes"),
        "no",
    ),
    Word(
        "breadcrumbs",
        "reference or list of levels",
        "Breadcrumbs by hand: the page after whose breadcrumbs this one stands, or the levels between home and it, each"
        " a page or a `group:` that is a name alone. Pages under it follow.",
        (),
        "the pages above it",
    ),
    Word("highlight", "reference", "The page whose entry is current on this one, where it has none of its own."),
    Word(
        "list",
        "one of",
        "What is listed below the page's content: the pages under it, the whole site, or nothing.",
        ("under", "site", "none"),
        "as in `page-end`",
    ),
    Word(
        "sequence",
        "one of",
        "Links to the page before and the one after: in its section, in the whole map, or none.",
        ("section", "map", "none"),
        "as in `page-end`",
    ),
    Word(
        "header", "keys", "Other settings of the header on this page and on those under it, or its `behaviour` alone."
    ),
    *PAGE_EXTRA,
    Word("table", "keys", "A table: each row becomes a page under this one. Or its file alone."),
    Word(
        "include",
        "file",
        "A file in `maps` that says what stands here: words of the page, and the pages under it.",
        old_name="mount",
    ),
    Word("pages", "pages", "The pages under this one."),
)

ENTRY = (
    Word("page", "reference", "A page, by its key or the end of its key; `hours#times` for an anchor on it."),
    Word("group", "text", "A heading that opens a submenu and goes nowhere."),
    Word("file", "file", "A file of the site to show or to keep, from `public` or `files`, such as `timetable.pdf`."),
    Word("label", "text", "What the entry shows.", (), "the page's label; of a file, its name in words"),
    Word("url", "address", "An address outside the site: https, http, mailto or tel."),
    Word("items", "entries", "The entries under this one, or `auto`."),
    Word(
        "auto",
        "number or keys",
        "The pages of the tree, so many levels deep, in place of entries written out. A page that is written out"
        " elsewhere in the menu is left to stand there.",
    ),
    Word("icon", "icon", "The icon before the label: its name, or an SVG file of the site, such as `mill.svg`."),
    Word("note", "text", "A few words below the label."),
    Word(
        "show",
        "one of",
        "`icon` shows the icon alone, and keeps the label for those who cannot see it; `button` is for the one thing"
        " that the site wants done.",
        ("text", "icon", "button"),
        "text",
    ),
    Word("above", "width", "Shown only where the window is at least so many pixels wide."),
    Word("below", "width", "Shown only where the window is narrower than so many pixels."),
    Word("class", "text", "Names of classes for the entry, for the site's own style."),
)

TRAIL = (Word("group", "text", "A level that is a name alone, and leads nowhere."),)

SEPARATOR = "separator"
"""An entry that is a line between others."""

AUTO = (
    Word("levels", "number", "How many levels deep.", (), "2 at the top of a menu, 1 below an entry"),
    Word("except", "reference or list of references", "Pages to leave out, with those under them."),
    Word("order", "one of", "As the map has them, or by label.", ("map", "title"), "map"),
    Word("first", "number", "Only so many, the first ones.", (), "all"),
    Word("by", "one of", "`letter` puts them into a group for each first letter.", ("letter",)),
    Word(
        "under",
        "reference",
        "The page whose child pages are taken, such as in a group.",
        (),
        "the page of the entry; at the top of a menu and in a group, the top of the tree",
    ),
)

MENU = (
    Word("entries", "entries", "The entries of the menu, or `auto`.", (), "auto"),
    Word("label", "text", "The menu's name for those who cannot see it.", (), "its name, in words"),
    Word("section", "reference", "A page: the menu stands on it and on the pages under it, and nowhere else."),
    Word(
        "place",
        "one of",
        "Where it stands: in a row above the header, as a column of the footer, or only where a `part` has it.",
        ("utility", "footer", "part"),
        "`footer`; `utility` for the menu of that name",
    ),
    Word(
        "opens",
        "one of",
        "How a page with entries under it is drawn: a link with a button `beside` it, or a button that opens a list"
        " which begins with the page, `inside`.",
        ("beside", "inside"),
        "beside",
    ),
    Word(
        "submenus",
        "one of",
        "How submenus of the main menu look: a `list` below their entry, or a `panel` as wide as the bar, with notes.",
        ("list", "panel"),
        "list",
    ),
    Word("hover", "yes or no", "Whether its submenus open under a mouse as well.", ("no", "yes"), "no"),
    Word(
        "fold",
        "width",
        "Below this width of the window the main menu stands behind one button: pixels, `always` or `never`.",
        (),
        "where its labels no longer fit",
    ),
    Word("class", "text", "Names of classes for the menu, for the site's own style."),
)

BREADCRUMBS = (
    Word(
        "separator",
        "text",
        "What is drawn between two breadcrumbs; it is not read aloud. `slash`, `arrow`, `dot`, `bullet`, or any text.",
        (),
        "›",
    ),
    Word(
        "home", "one of", "How home stands there: by its label, by an icon, or not.", ("label", "icon", "none"), "label"
    ),
    Word("itself", "one of", "Whether the page itself stands last.", ("show", "hide"), "show"),
    Word(
        "groups",
        "yes or no",
        "Whether the groups of the main menu that hold a page are levels, by their name.",
        ("no", "yes"),
        "no",
    ),
    Word("place", "one of", "Below the header, or above the footer.", ("top", "bottom"), "top"),
    Word("look", "one of", "As words with a separator between them, or as `steps`.", ("text", "steps"), "text"),
    Word("size", "number", "The size of their letters, in percent of the text's.", (), "94"),
    Word("shorten", "number", "Past this number, those in the middle fold behind a mark that opens them.", (), "never"),
)

MOBILE = (
    Word(
        "behaviour",
        "one of",
        "`static` scrolls away. `sticky` stays at the top. `shrink` stays, and becomes small. `hide` hides on the way"
        " down and returns on the way up. `shrink-hide` becomes small, and then does that.",
        ("static", "sticky", "shrink", "hide", "shrink-hide"),
        "static",
        old_values=(("stick", "sticky"), ("retreat", "hide"), ("shrink-retreat", "shrink-hide")),
    ),
    Word("height", "number", "The height at rest, in pixels.", (), "100"),
    Word("small-height", "number", "The height when small, in pixels.", (), "40", old_name="small"),
    Word(
        "threshold",
        "number",
        "How far the page is scrolled, in pixels, when the header changes.",
        (),
        "100",
        old_name="depth",
    ),
    Word(
        "threshold-margin",
        "number",
        "How far above `threshold` one must be, in pixels, before it is at rest again, so that it does not flicker.",
        (),
        "8; with `space: follows` what shrinking takes",
        old_name="band",
    ),
    Word("hides-after", "number", "How far one scrolls down, in pixels, before it hides.", (), "8"),
    Word("returns-after", "number", "How far one scrolls up, in pixels, before it returns.", (), "8"),
    Word("duration", "number", "How long a change takes, in milliseconds.", (), "300"),
    Word(
        "easing",
        "one of",
        "How a change runs.",
        ("linear", "ease", "ease-in", "ease-out", "ease-in-out"),
        "ease-in-out",
    ),
    Word("small-name", "number", "The size of the site's name when small, in percent.", (), "75"),
    Word("small-tagline", "one of", "Whether the line under the name stays when small.", ("hide", "keep"), "hide"),
    Word("ground", "colour", "The colour of the bar.", (), "as in `theme`"),
    Word("opacity", "number", "How much the bar covers what is behind it, in percent.", (), "100"),
    Word("blur", "number", "How much what is behind the bar is blurred, in pixels.", (), "0"),
    Word(
        "shadow",
        "one of",
        "A shadow below the bar; `scrolled` has none until the page is scrolled.",
        ("none", "always", "scrolled"),
        "none",
    ),
    Word("shadow-strength", "one of", "How strong it is.", ("soft", "medium", "strong"), "medium"),
    Word("border", "one of", "What ends the bar.", ("line", "none"), "line"),
    Word("bar", "one of", "How wide the bar is: as the window, or as the content.", ("full", "content"), "full"),
    Word("align", "one of", "Where the main menu stands in the bar.", ("start", "center", "end"), "as in `theme`"),
    Word(
        "arrange",
        "one of",
        "How the name and the main menu stand where the menu is not folded: in one `row`, `centred` below each other,"
        " or in `two-rows`. A header that becomes small has one row.",
        ("row", "centred", "two-rows"),
        "row",
    ),
    Word(
        "over-picture",
        "yes or no",
        "Whether it lies over what the page begins with, such as a picture as wide as the window, until the page is"
        " scrolled.",
        ("no", "yes"),
        "no",
    ),
    Word("padding", "number", "The space at both ends of the bar, in pixels.", (), "20"),
    Word("name-width", "number", "The most that the site's name takes in width, in pixels.", (), "the room there is"),
    Word("layer", "number", "The stacking order (`z-index`).", (), "999"),
    Word(
        "layout",
        "one of",
        "`sticky` stands in the flow of the page; `fixed` stands over it, and room is kept for it.",
        ("sticky", "fixed"),
        "sticky",
    ),
    Word(
        "space",
        "one of",
        "The space that the header takes in the page: `kept`, or `follows` what is drawn, and the page is shorter.",
        ("kept", "follows"),
        "kept",
        old_name="room",
    ),
    Word(
        "min-window",
        "number",
        "Where the window is lower than so many pixels, the header scrolls away; with 0 it never does.",
        (),
        "four times its height",
        old_name="short",
    ),
)
"""What the header can be below a width, on some pages, and everywhere."""

BELOW = Word("below", "number", "Below this width of the window, in pixels, these hold.", (), "720")
PAGE_HEADER = (
    *MOBILE,
    Word("mobile", "keys", "Other settings below a width of the window.", old_name="narrow"),
)
HEADER = (
    *PAGE_HEADER,
    Word("tagline", "text", "A line under the site's name."),
    Word(
        "top-row",
        "one of",
        "The row above the bar (menus with `place: utility`): it scrolls away, stays, or leaves when the header is"
        " small or hidden.",
        ("scrolls", "stays", "leaves"),
        "scrolls",
        old_name="row",
    ),
    Word(
        "until",
        "name",
        "How far the header sticks: to the end of the `page`, or of its `content`; or until a slot, a part or a menu"
        " comes, such as `aside`, `visit-us` or `menu-more`, which then pushes it out of the window.",
        (),
        "page",
    ),
    Word("width", "number", "The width of the content, in pixels; what is in the bar keeps it too.", (), "1080"),
)

RANGES = {
    "height": (24, 400),
    "small-height": (24, 400),
    "threshold": (0, 10_000),
    "threshold-margin": (0, 10_000),
    "hides-after": (0, 2_000),
    "returns-after": (0, 2_000),
    "duration": (0, 2_000),
    "small-name": (30, 150),
    "opacity": (0, 100),
    "blur": (0, 60),
    "padding": (0, 200),
    "name-width": (40, 1_000),
    "layer": (1, 99_999),
    "min-window": (0, 2_000),
    "width": (320, 4_000),
    "below": (200, 4_000),
}
"""The least and the most that each number of the header can be."""
UNITS = {**dict.fromkeys(RANGES, "px"), "duration": "ms", "small-name": "%", "opacity": "%", "layer": ""}
"""The unit of each."""

PAGE_END = (
    Word("list", "one of", "What is listed below the content of a page.", ("under", "site", "none"), "under"),
    Word("sequence", "one of", "Links to the page before and the one after.", ("section", "map", "none"), "none"),
)

THEME = (
    Word(
        "preset",
        "one of",
        "The theme to begin with; what stands beside it changes it.",
        tuple(PRESETS),
        "slate",
        "start",
    ),
    *(Word(name, "colour", meaning, (), "as in `preset`") for name, meaning in COLOURS.items()),
    Word("current-background", "colour", "What is behind the current entry.", (), "nothing"),
    Word(
        "current-weight", "one of", "The weight of the current entry's letters.", ("normal", "medium", "bold"), "bold"
    ),
    Word("current-line", "one of", "The line at the current entry of menus.", ("below", "above", "none"), "below"),
    Word(
        "font",
        "one of",
        "The font of pages: one that ships with Basilica, or `system`, that of the reader's own machine.",
        (*FONTS, "system"),
        "as in `preset`",
    ),
    Word("headings", "one of", "How much larger headings are than text.", tuple(HEADINGS), "as in `preset`"),
    Word("corners", "one of", "The corners of buttons, panels and code.", tuple(CORNERS), "as in `preset`"),
    Word(
        "dark",
        "one of",
        "Whether there is a dark version for those whose machine asks for one.",
        ("auto", "never"),
        "auto",
    ),
    Word(
        "transitions",
        "yes or no",
        "Whether one page fades into the next where the browser can; not for readers who ask for less motion.",
        ("yes", "no"),
        "yes",
    ),
    Word("size", "number", "The size of letters in menus, in percent of the text's.", (), "94"),
    Word("weight", "one of", "The weight of letters in menus.", ("normal", "medium", "bold"), "normal"),
    Word("spacing", "number", "The space between letters in menus, in thousandths of their size.", (), "0"),
    Word("align", "one of", "Where the main menu stands in the header.", ("start", "center", "end"), "end"),
    Word("divider", "one of", "What stands between the entries of the main menu.", ("none", "line", "dot"), "none"),
    Word(
        "css",
        "text",
        "The site's own style sheet. It comes after Basilica's: any rule of it wins over colours and letters, and one"
        " with a class over sizes and places.",
    ),
)

PHRASE_WORDS = tuple(
    Word(name, "text", meaning, (), f"“{ENGLISH[name]}”, or the same in the site's language")
    for name, meaning in PHRASES.items()
)

ENTRY_WORDS = frozenset(["page", "group", "file", "label", "url", "items", "auto", SEPARATOR])
"""These begin a menu entry, so no page can have one of them as its id."""

SECTIONS = {
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


def default_of(words: tuple[Word, ...], name: str) -> str:
    """The default of the key ``name`` in ``words``."""
    return next(word.default for word in words if word.name == name)
