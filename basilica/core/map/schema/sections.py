"""The words of the map language. Reading, completion, the reference and the JSON Schema are made from here."""

from __future__ import annotations

from basilica.core.map.schema.inlay_words import INLAY, MARKUP
from basilica.core.map.schema.part_words import CHECKS, COUNTER, HEAD, LEVEL, PAGE_EXTRA, PART, SOCIAL, TABLE
from basilica.core.map.schema.word import Word
from basilica.core.rules import limits
from basilica.core.shared.fonts import FONTS
from basilica.core.shared.theme import COLOURS, CORNERS, HEADINGS, PRESETS

__all__ = ["CHECKS", "HEAD", "LEVEL", "PAGE_EXTRA", "PART", "SECTIONS", "SOCIAL", "TABLE", "Word"]
from basilica.core.shared.locales import ENGLISH, PHRASES

MAP = (
    Word("site", "keys", "Settings of the whole site."),
    Word("pages", "pages", "Every page, nested as the site is."),
    Word("menus", "menus", "Which pages are in which menu, in what order."),
    Word("breadcrumbs", "keys", "How breadcrumbs look."),
    Word("header", "keys", "How the header looks and behaves."),
    Word("page-end", "keys", "What follows the content of each page.", old_name="closing"),
    Word("theme", "keys", "Colours, fonts and sizes of the generated pages.", old_name="looks"),
    Word(
        "facts",
        "texts",
        "Facts that several pages repeat, each a name and a text, such as `phone: 01632 960142`. "
        "`{fact:phone}` inserts it in labels, titles, fields of parts, the tagline and any text.",
    ),
    Word("parts", "parts", "Named pieces of content that pages share."),
    Word("slots", "keys", "Which part or parts fill each slot of the layout, on every page."),
    Word("layout", "name of a layout", "The layout of every page that names no other.", (), "plain"),
    Word("head", "keys", "What every page loads."),
    Word("phrases", "keys", "Your own wording for the words that Basilica puts on pages.", old_name="words"),
    Word(
        "redirects",
        "addresses",
        "Old addresses that no page has any more, each with its target: a page, a full address on"
        " another site, or `gone`.",
    ),
    Word("inlay", "keys", "How the shared parts are inserted into existing pages."),
    Word("checks", "keys", "What the checks should know about this site, and how serious each finding is."),
)

SITE = (
    Word("name", "text", "The name of the site. In the header it links to the home page."),
    Word(
        "title",
        "text",
        "The pattern of page titles in browsers and search results, such as `{title} · {site}`; "
        "`{label}` and `{section}` work too. The heading on the page is always its title alone.",
        (),
        "{title}",
    ),
    Word("home-title", "text", "The same pattern for the home page.", (), "{title}"),
    Word(
        "base",
        "address",
        "The address where the site is published, such as `https://mill.example`; it may include a path.",
    ),
    Word("language", "language tag", "The language of the pages, such as `en-GB`.", (), "en"),
    Word(
        "languages",
        "list of language tags",
        "The languages of the site if it has more than one, such as `[en, cy]`. Addresses in the "
        "first language stay as they are; those in the others begin with the language tag.",
    ),
    Word(
        "language-prefix",
        "one of",
        "Which addresses begin with a language tag: those in all languages but the first, or all "
        "of them; then `/` leads to the first language.",
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
        "How links are written: from the root, relative to the address, relative to the file, or in full.",
        ("root", "document", "file", "absolute"),
        "root",
    ),
)

PAGE = (
    Word("title", "text", "The title of the page: `<title>` and `<h1>`.", (), "the id, in words"),
    Word("label", "text", "The page's name in menus and breadcrumbs.", (), "the title"),
    Word("description", "text", "One or two sentences for search results."),
    Word(
        "path",
        "path",
        "The page's part of the address; if it begins with `/`, the whole address. If it ends in "
        "a file name, such as `/AboutUs.htm`, the page is written to that file.",
        (),
        "the id",
    ),
    Word(
        "was",
        "address or list of addresses",
        "Old addresses of the page, which redirect to it: from the root, spelled exactly, including any query.",
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
        "Where the page does not appear. If it is hidden from menus, `auto` leaves out the page "
        "and the pages under it.",
        ("menus", "breadcrumbs", "sitemap"),
    ),
    Word(
        "draft",
        "yes or no",
        "A draft and the pages under it are built only on request, and nothing links to them.",
        ("no", "yes"),
        "no",
    ),
    Word(
        "breadcrumbs",
        "reference or list of levels",
        "Breadcrumbs set by hand: the page whose breadcrumbs come before this page, or the levels"
        " between home and it. A level is a page, or a `group:` that is only a name. The pages "
        "under this one follow it.",
        (),
        "the pages above it",
    ),
    Word(
        "highlight",
        "reference",
        "The page whose menu entry is current on this page, if this page has no entry of its own.",
    ),
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
        "Links to the previous and the next page: in its section, in the whole map, or none.",
        ("section", "map", "none"),
        "as in `page-end`",
    ),
    Word("header", "keys", "Header settings for this page and the pages under it, or only its `behaviour`."),
    *PAGE_EXTRA,
    Word("table", "keys", "A table of data: each row becomes a page under this one. Its settings, or only its file."),
    Word(
        "include",
        "file",
        "A file in `maps` that describes this page and the pages under it.",
        old_name="mount",
    ),
    Word("pages", "pages", "The pages under this one."),
)

ENTRY = (
    Word("page", "reference", "A page, by its key or the end of its key; `hours#times` links to an anchor on it."),
    Word("group", "text", "A heading that opens a submenu and is not a link."),
    Word(
        "file", "file", "A file of the site to open or to download, from `public` or `files`, such as `timetable.pdf`."
    ),
    Word("label", "text", "The text of the entry.", (), "the page's label; of a file, its name in words"),
    Word("url", "address", "An address outside the site: https, http, mailto or tel."),
    Word("items", "entries", "The entries under this one, or `auto`."),
    Word(
        "auto",
        "number or keys",
        "Pages from the tree, this many levels deep, instead of entries written out. A page "
        "written out elsewhere in the menu is skipped.",
    ),
    Word(
        "icon",
        "icon",
        "The icon before the label: the name of an icon, or an SVG file of the site, such as `mill.svg`.",
    ),
    Word("note", "text", "A few words below the label."),
    Word(
        "show",
        "one of",
        "`icon` shows only the icon and keeps the label for screen readers; `button` is for the "
        "most important action of the site.",
        ("text", "icon", "button"),
        "text",
    ),
    Word("above", "width", "Shown only in windows at least this many pixels wide.", range=(1, limits.WINDOW_WIDTH)),
    Word("below", "width", "Shown only in windows narrower than this many pixels.", range=(1, limits.WINDOW_WIDTH)),
    Word("class", "text", "Class names for the entry, for the site's own styles."),
)

TRAIL = (Word("group", "text", "A level that is only a name, without a link."),)

SEPARATOR = "separator"
AUTO_WORD = "auto"
"""In the place of entries: the pages of the tree."""
"""An entry that is a line between others."""

AUTO = (
    Word(
        "levels",
        "number",
        "How many levels deep.",
        (),
        "2 at the top of a menu, 1 below an entry",
        range=(1, limits.LEVELS),
    ),
    Word("except", "reference or list of references", "Pages to leave out, with the pages under them."),
    Word("order", "one of", "In the order of the map, or sorted by label.", ("map", "title"), "map"),
    Word("first", "number", "At most this many pages, from the beginning.", (), "all", range=(1, limits.PAGES)),
    Word("by", "one of", "`letter` groups the pages by their first letter.", ("letter",)),
    Word(
        "under",
        "reference",
        "The page whose child pages are taken, for example in a group.",
        (),
        "the page of the entry; at the top of a menu and in a group, the top of the tree",
    ),
)

MENU = (
    Word("entries", "entries", "The entries of the menu, or `auto`.", (), "auto"),
    Word("label", "text", "The name of the menu for screen readers.", (), "its name, in words"),
    Word("section", "reference", "A page: the menu appears only on it and on the pages under it."),
    Word(
        "place",
        "one of",
        "Where the menu appears: in a row above the header, as a column of the footer, or only inside a `part`.",
        ("utility", "footer", "part"),
        "`footer`; `utility` for the menu of that name",
    ),
    Word(
        "opens",
        "one of",
        "How an entry with a page and a submenu works: a link with a button `beside` it, or a "
        "button that opens a list which begins with the page, `inside`.",
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
    Word("hover", "yes or no", "Whether submenus also open when the pointer is over their entry.", ("no", "yes"), "no"),
    Word(
        "fold",
        "width",
        "Below this window width the main menu folds behind one button: pixels, `always` or `never`.",
        (),
        "where its labels no longer fit",
        range=(1, limits.WINDOW_WIDTH),
    ),
    Word("class", "text", "Class names for the menu, for the site's own styles."),
)

BREADCRUMBS = (
    Word(
        "separator",
        "text",
        "What is drawn between two breadcrumbs: `slash`, `arrow`, `dot`, `bullet` or any text. Screen readers skip it.",
        (),
        "›",
    ),
    Word(
        "home",
        "one of",
        "How the home page is shown: by its label, as an icon, or not at all.",
        ("label", "icon", "none"),
        "label",
    ),
    Word("itself", "one of", "Whether the page itself is the last breadcrumb.", ("show", "hide"), "show"),
    Word(
        "groups",
        "yes or no",
        "Whether groups of the main menu that hold the page count as levels, by their name.",
        ("no", "yes"),
        "no",
    ),
    Word("place", "one of", "Below the header, or above the footer.", ("top", "bottom"), "top"),
    Word("look", "one of", "As text with a separator, or as `steps`.", ("text", "steps"), "text"),
    Word("size", "number", "The size of the text, in percent of the page's.", (), "94", range=(60, 200)),
    Word(
        "shorten",
        "number",
        "With more breadcrumbs than this, those in the middle fold behind a button.",
        (),
        "never",
        range=(3, 100),
    ),
)

MOBILE = (
    Word(
        "behaviour",
        "one of",
        "`static` scrolls away. `sticky` stays at the top. `shrink` stays and becomes small. "
        "`hide` hides on the way down and returns on the way up. `shrink-hide` becomes small "
        "first and then does the same.",
        ("static", "sticky", "shrink", "hide", "shrink-hide"),
        "static",
        old_values=(("stick", "sticky"), ("retreat", "hide"), ("shrink-retreat", "shrink-hide")),
    ),
    Word("height", "number", "The height before scrolling, in pixels.", (), "100", range=(24, 400)),
    Word(
        "small-height", "number", "The height after shrinking, in pixels.", (), "40", old_name="small", range=(24, 400)
    ),
    Word(
        "threshold",
        "number",
        "How far the page is scrolled when the header changes, in pixels.",
        (),
        "100",
        old_name="depth",
        range=(0, 10000),
    ),
    Word(
        "threshold-margin",
        "number",
        "How far back above `threshold` the page must be scrolled before the header grows again, "
        "in pixels. It prevents flicker.",
        (),
        "8; with `space: follows` what shrinking takes",
        old_name="band",
        range=(0, 10000),
    ),
    Word(
        "hides-after", "number", "How far to scroll down before the header hides, in pixels.", (), "8", range=(0, 2000)
    ),
    Word(
        "returns-after",
        "number",
        "How far to scroll up before the header returns, in pixels.",
        (),
        "8",
        range=(0, 2000),
    ),
    Word("duration", "number", "How long a change takes, in milliseconds.", (), "300", range=(0, 2000)),
    Word(
        "easing",
        "one of",
        "The timing function of a change.",
        ("linear", "ease", "ease-in", "ease-out", "ease-in-out"),
        "ease-in-out",
    ),
    Word("small-name", "number", "The size of the site's name after shrinking, in percent.", (), "75", range=(30, 150)),
    Word("small-tagline", "one of", "Whether the tagline stays after shrinking.", ("hide", "keep"), "hide"),
    Word("ground", "colour", "The background colour of the bar.", (), "as in `theme`"),
    Word("opacity", "number", "How opaque the background of the bar is, in percent.", (), "100", range=(0, 100)),
    Word("blur", "number", "How much the page behind the bar is blurred, in pixels.", (), "0", range=(0, 60)),
    Word(
        "shadow",
        "one of",
        "A shadow below the bar; `scrolled` shows it only once the page is scrolled.",
        ("none", "always", "scrolled"),
        "none",
    ),
    Word("shadow-strength", "one of", "How strong the shadow is.", ("soft", "medium", "strong"), "medium"),
    Word("border", "one of", "What ends the bar at the bottom.", ("line", "none"), "line"),
    Word(
        "bar", "one of", "How wide the bar is: as wide as the window, or as the content.", ("full", "content"), "full"
    ),
    Word("align", "one of", "Where the main menu is placed in the bar.", ("start", "center", "end"), "as in `theme`"),
    Word(
        "arrange",
        "one of",
        "How the name and the main menu are arranged while the menu is not folded: in one `row`, "
        "`centred` one above the other, or in `two-rows`. After shrinking there is one row.",
        ("row", "centred", "two-rows"),
        "row",
    ),
    Word(
        "over-picture",
        "yes or no",
        "Whether the header lies over the beginning of the page, such as a picture as wide as the"
        " window, until the page is scrolled.",
        ("no", "yes"),
        "no",
    ),
    Word("padding", "number", "The space at both ends of the bar, in pixels.", (), "20", range=(0, 200)),
    Word(
        "name-width",
        "number",
        "The largest width of the site's name, in pixels.",
        (),
        "the space there is",
        range=(40, 1000),
    ),
    Word("layer", "number", "The stacking order (`z-index`).", (), "999", range=(1, 99999)),
    Word(
        "layout",
        "one of",
        "`sticky` keeps the header in the flow of the page; `fixed` lays it over the page, which "
        "reserves space for it.",
        ("sticky", "fixed"),
        "sticky",
    ),
    Word(
        "space",
        "one of",
        "The space for the header in the page: `kept` at its full height, or `follows` the header"
        " as it shrinks, so that the page becomes shorter.",
        ("kept", "follows"),
        "kept",
        old_name="room",
    ),
    Word(
        "min-window",
        "number",
        "In windows lower than this, in pixels, the header scrolls away; with 0 it never does.",
        (),
        "four times its height",
        old_name="short",
        range=(0, 2000),
    ),
)
"""What the header can be below a width, on some pages, and everywhere."""

BELOW = Word(
    "below", "number", "These settings apply in windows narrower than this, in pixels.", (), "720", range=(200, 4000)
)
PAGE_HEADER = (
    *MOBILE,
    Word("mobile", "keys", "Other settings for narrow windows.", old_name="narrow"),
)
HEADER = (
    *PAGE_HEADER,
    Word("tagline", "text", "A line of text below the site's name."),
    Word(
        "top-row",
        "one of",
        "The row above the bar (menus with `place: utility`): it scrolls away, stays, or leaves "
        "when the header shrinks or hides.",
        ("scrolls", "stays", "leaves"),
        "scrolls",
        old_name="row",
    ),
    Word(
        "until",
        "name",
        "How far the header stays: to the end of the `page` or of its `content`; or until a slot,"
        " a part or a menu arrives, such as `aside`, `visit-us` or `menu-more`, which then pushes"
        " it out of the window.",
        (),
        "page",
    ),
    Word(
        "width",
        "number",
        "The width of the content, in pixels. What is in the bar is as wide.",
        (),
        "1080",
        range=(320, 4000),
    ),
)

RANGES = {word.name: word.range for word in (BELOW, *HEADER) if word.range is not None}
"""The least and the most that each number of the header can be."""
UNITS = {**dict.fromkeys(RANGES, "px"), "duration": "ms", "small-name": "%", "opacity": "%", "layer": ""}
"""The unit of each."""

PAGE_END = (
    Word("list", "one of", "What is listed below the content of a page.", ("under", "site", "none"), "under"),
    Word("sequence", "one of", "Links to the previous and the next page.", ("section", "map", "none"), "none"),
)

THEME = (
    Word(
        "preset",
        "one of",
        "The theme to start from; the other settings change it.",
        tuple(PRESETS),
        "slate",
        "start",
    ),
    *(Word(name, "colour", meaning, (), "as in `preset`") for name, meaning in COLOURS.items()),
    Word("current-background", "colour", "The background of the current entry.", (), "nothing"),
    Word("current-weight", "one of", "The font weight of the current entry.", ("normal", "medium", "bold"), "bold"),
    Word(
        "current-line",
        "one of",
        "Where the line that marks the current entry of menus is drawn.",
        ("below", "above", "none"),
        "below",
    ),
    Word(
        "font",
        "one of",
        "The font of the pages: one that ships with Basilica, or `system`, the one of the reader's device.",
        (*FONTS, "system"),
        "as in `preset`",
    ),
    Word("headings", "one of", "How much larger headings are than text.", tuple(HEADINGS), "as in `preset`"),
    Word("corners", "one of", "The corners of buttons, panels and code.", tuple(CORNERS), "as in `preset`"),
    Word(
        "dark",
        "one of",
        "Whether readers whose device is set to dark get a dark version.",
        ("auto", "never"),
        "auto",
    ),
    Word(
        "transitions",
        "yes or no",
        "Whether pages fade into one another in browsers that can; never for readers who ask for less motion.",
        ("yes", "no"),
        "yes",
    ),
    Word("size", "number", "The size of text in menus, in percent of the page's.", (), "94", range=(60, 200)),
    Word("weight", "one of", "The font weight of menus.", ("normal", "medium", "bold"), "normal"),
    Word(
        "spacing", "number", "The letter spacing of menus, in thousandths of the font size.", (), "0", range=(-50, 300)
    ),
    Word("align", "one of", "Where the main menu is placed in the header.", ("start", "center", "end"), "end"),
    Word("divider", "one of", "What is drawn between the entries of the main menu.", ("none", "line", "dot"), "none"),
    Word(
        "css",
        "text",
        "The site's own style sheet. It comes after Basilica's: all its rules override colours "
        "and type, and rules with a class also override sizes and positions.",
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
