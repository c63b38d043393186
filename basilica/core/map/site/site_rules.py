"""What can be said while a document becomes a site: its keys, values, pages, menus, parts and files."""

from __future__ import annotations

from basilica.core.rules import limits
from basilica.core.rules.examples import HOME, TWO_PAGES, WIDE, Many
from basilica.core.rules.rule import COMMON, Level, Rule

WRONG_SHAPE = Rule(
    code="wrong-shape",
    level=Level.ERROR,
    title="A value of the wrong kind",
    why="A list, a group of keys and a text are different things.",
    remedy="Write what the message asks for.",
    good=TWO_PAGES,
    bad=HOME + "  tides: [Tides]\n",
)

UNKNOWN_KEY = Rule(
    code="unknown-key",
    level=Level.ERROR,
    title="An unknown key",
    why="A misspelt setting would be dropped silently.",
    remedy="Use one of the keys that are allowed there.",
    good=HOME + "  tides: {title: Tide tables, label: Tides}\n",
    bad=HOME + "  tides: {title: Tide tables, lable: Tides}\n",
)

OLD_WORD = Rule(
    code="old-word",
    level=Level.ERROR,
    title="An old name for a word of the map language",
    why="The word has another name now.",
    remedy="Use the new name; `basilica check --fix` changes the whole map.",
    good=TWO_PAGES + "header: {behaviour: sticky}\n",
    bad=TWO_PAGES + "header: {behaviour: stick}\n",
)

OTHER_WORD = Rule(
    code="other-word",
    level=Level.ERROR,
    title="A word that is called otherwise in a map",
    why="What it says would have no effect.",
    remedy="Use the word of the map language; `basilica check --fix` changes the whole map.",
    good=HOME + "  visit: {title: Visit, pages: {hours: Hours}}\n",
    bad=HOME + "  visit: {title: Visit, children: {hours: Hours}}\n",
)

MISSING_KEY = Rule(
    code="missing-key",
    level=Level.ERROR,
    title="A required key is missing",
    why="The entry does nothing without it.",
    remedy="Add what the message names.",
    good=TWO_PAGES + "menus:\n  main: [home, {url: 'https://shop.example', label: Shop}]\n",
    bad=TWO_PAGES + "menus:\n  main: [home, {url: 'https://shop.example'}]\n",
)

BAD_VALUE = Rule(
    code="bad-value",
    level=Level.ERROR,
    title="A value that is not allowed",
    why="The setting takes one of a few values.",
    remedy="Use one of the allowed values.",
    good=TWO_PAGES + "header: {behaviour: sticky}\n",
    bad=TWO_PAGES + "header: {behaviour: sticking}\n",
)

EMPTY_TEXT = Rule(
    code="empty-text",
    level=Level.ERROR,
    title="An empty text",
    why="Nobody can find a page or an entry that has no words.",
    remedy="Write a text, or remove the key.",
    good=HOME + "  tides: {title: Tides}\n",
    bad=HOME + "  tides: {title: ''}\n",
)

TOO_LONG = Rule(
    code="too-long",
    level=Level.ERROR,
    title="A text is too long",
    why="Menus and search results cut it off.",
    remedy="Shorten it, or move it to the page's content.",
    good=TWO_PAGES,
    bad=HOME + f"  tides: {'Tides and flour and ' * 20}\n",
)

NO_NAME = Rule(
    code="no-name",
    level=Level.WARNING,
    title="The site has no name",
    why="The header shows the site's name as its link home.",
    remedy="Add `name:` under `site:`.",
    good=HOME,
    bad=HOME.replace("name: Mill, ", ""),
)

NO_BASE = Rule(
    code="no-base",
    level=Level.WARNING,
    title="The site has no base address",
    why="The sitemap and canonical addresses need it.",
    standard="sitemaps.org protocol 0.9; RFC 6596",
    remedy="Add `base: https://…` under `site:`.",
    good=HOME,
    bad=HOME.replace(", base: 'https://mill.example'", ""),
)

BAD_BASE = Rule(
    code="bad-base",
    level=Level.ERROR,
    title="The base address cannot be used",
    why="Canonical addresses and the sitemap begin with it.",
    standard="RFC 3986, 4.3 Absolute URI",
    remedy="Write it as `https://host` or `https://host/path`.",
    good=HOME,
    bad=HOME.replace("https://", ""),
)

UNKNOWN_PART = Rule(
    code="unknown-part",
    level=Level.ERROR,
    title="A part that does not exist",
    why="Its place on the page would stay empty.",
    remedy="Write it under `parts:`, or use the name of one that exists.",
    good=HOME + "parts: {opening: Open daily.}\nslots: {after: opening}\n",
    bad=HOME + "parts: {opening: Open daily.}\nslots: {after: openings}\n",
)

UNKNOWN_LAYOUT = Rule(
    code="unknown-layout",
    level=Level.ERROR,
    title="A layout that does not exist",
    why="Pages cannot be made without a layout.",
    remedy="Put it into the folder `page-layouts`, or use the name of one that exists.",
    good={
        "site.yaml": HOME + "layout: wide\n",
        "page-layouts/wide.html": WIDE,
    },
    bad={"site.yaml": HOME + "layout: wide\n"},
)

UNKNOWN_FILE = Rule(
    code="unknown-file",
    level=Level.ERROR,
    title="A file that does not exist",
    why="Pages would load a file that does not exist.",
    remedy="Put it into the folder that the message names, or use the name of a file that exists.",
    good={
        "site.yaml": HOME,
        "content/home.md": "![The wheel](file:wheel.png)\n",
        "files/wheel.png": b"\x89PNG",
    },
    bad={"site.yaml": HOME, "content/home.md": "![The wheel](file:wheel.png)\n"},
)

FILE_UNREAD = Rule(
    code="file-unread",
    level=Level.WARNING,
    title="A file that is skipped",
    why="Pages that use it would not find it.",
    remedy="Give it a name of letters, digits, `.`, `_` and `-`, or make it smaller.",
    good={"site.yaml": HOME, "files/wheel.png": b"\x89PNG"},
    bad={"site.yaml": HOME, "files/the wheel.png": b"\x89PNG"},
)

OF_APPLICATION = Rule(
    code="of-application",
    level=Level.WARNING,
    title="A folder that belongs to the application",
    why="The templates of an application would become those of the generated pages, and its files would be published.",
    remedy="Move the map, and what belongs to it, into a folder of its own, such as `navigation`.",
    good={"site.yaml": HOME, "templates/footer.html": b"<p>Mill</p>"},
    bad={"site.yaml": HOME, "manage.py": b"", "templates/footer.html": b"<p>Mill</p>"},
)

TABLE_UNREAD = Rule(
    code="table-unread",
    level=Level.ERROR,
    title="A table that cannot be read",
    why="The pages of its rows would be missing.",
    standard="RFC 4180; RFC 8259",
    remedy="Fix it in the program that made it, and save it again.",
    good={
        "site.yaml": HOME + "  mills: {title: Mills, table: mills.json}\n",
        "tables/mills.json": '[{"path": "reach", "title": "Reach"}]',
    },
    bad={
        "site.yaml": HOME + "  mills: {title: Mills, table: mills.json}\n",
        "tables/mills.json": '[{"path": "reach", "title": "Reach"',
    },
)

UNKNOWN_COLUMN = Rule(
    code="unknown-column",
    level=Level.ERROR,
    title="A column that does not exist",
    why="The place would stay empty on every page.",
    remedy="Use the name of a column of the table.",
    good={
        "site.yaml": HOME + "  mills: {title: Mills, table: {file: mills.csv, path: '{id}', title: '{name}'}}\n",
        "tables/mills.csv": "id,name\nreach,Reach\n",
    },
    bad={
        "site.yaml": HOME + "  mills: {title: Mills, table: {file: mills.csv, path: '{id}', title: '{town}'}}\n",
        "tables/mills.csv": "id,name\nreach,Reach\n",
    },
)

INCLUDE_RING = Rule(
    code="include-ring",
    level=Level.ERROR,
    title="A file that includes itself",
    why="Reading it would never end.",
    remedy="Remove one of the two includes.",
    good={"site.yaml": HOME + "  visit: {include: visit.yaml}\n", "maps/visit.yaml": "title: Visit\n"},
    bad={
        "site.yaml": HOME + "  visit: {include: visit.yaml}\n",
        "maps/visit.yaml": "title: Visit\npages: {hours: {include: visit.yaml}}\n",
    },
)

TABLE_TOO_LARGE = Rule(
    code="table-too-large",
    level=Level.ERROR,
    title="A table that makes too many or too long pages",
    why="Nobody is served by pages of this size.",
    remedy="Shorten the text of each row.",
    good={
        "site.yaml": HOME + "  mills: {title: Mills, table: {file: mills.csv, path: '{id}', title: '{name}'}}\n",
        "tables/mills.csv": "id,name\nreach,Reach\n",
    },
    bad={
        "site.yaml": HOME + "  mills: {title: Mills, table: {file: mills.csv, text: mill.md}}\n",
        "tables/mills.csv": Many("path,title,about\n", f"mill-{{n}},Mill,{'about ' * 200}\n", 50),
        "tables/mill.md": "{about}\n" * 1_000,
    },
)

DUPLICATE_PART = Rule(
    code="duplicate-part",
    level=Level.WARNING,
    title="A part that is written twice",
    why="One of the two would be lost silently.",
    remedy="Delete one of the two.",
    good={"site.yaml": HOME + "slots: {after: opening}\n", "parts/opening.md": "Open daily.\n"},
    bad={
        "site.yaml": HOME + "slots: {after: opening}\nparts: {opening: Closed.}\n",
        "parts/opening.md": "Open daily.\n",
    },
)

PART_UNREAD = Rule(
    code="part-unread",
    level=Level.WARNING,
    title="A file that cannot be a part",
    why="Its text would be missing.",
    remedy="Give it a name of lower-case letters, digits and hyphens, such as parts/opening.md.",
    good={"site.yaml": HOME + "slots: {after: opening}\n", "parts/opening.md": "Open daily.\n"},
    bad={"site.yaml": HOME, "parts/Opening.md": "Open daily.\n"},
)

NO_PAGES = Rule(
    code="no-pages",
    level=Level.ERROR,
    title="The map has no pages",
    why="A site needs pages.",
    remedy="Add `home:` with `path: /` under `pages:`.",
    good=HOME,
    bad="site: {name: Mill, base: 'https://mill.example'}\npages: {}\n",
)

BAD_ID = Rule(
    code="bad-id",
    level=Level.ERROR,
    title="An id that cannot be used",
    why="Ids become addresses and keys.",
    standard="RFC 3986, 2.3 Unreserved Characters",
    remedy="Use lower-case letters, digits and hyphens; the title may be any text.",
    good=HOME + "  opening-hours: Opening hours\n",
    bad=HOME + "  Opening hours: Opening hours\n",
)

NO_HOME = Rule(
    code="no-home",
    level=Level.ERROR,
    title="No page is the home page",
    why="Visitors, breadcrumbs and the name in the header go there.",
    remedy="Give one top-level page `path: /`.",
    good=HOME,
    bad=HOME.replace("path: /, ", ""),
)

TWO_HOMES = Rule(
    code="two-homes",
    level=Level.ERROR,
    title="More than one home page",
    why="A site has one home page.",
    remedy="Leave `path: /` on one of them.",
    good=HOME,
    bad=HOME + "  start: {path: /, title: Start}\n",
)

HOME_NESTED = Rule(
    code="home-nested",
    level=Level.ERROR,
    title="The home page is under another page",
    why="The home page is at the top level.",
    remedy="Move it to the top of `pages:`, or give it another path.",
    good=HOME,
    bad="site: {name: Mill, base: 'https://mill.example'}\n"
    "pages:\n  tides: {title: Tides, pages: {home: {path: /, title: Mill}}}\n",
)

HOME_HAS_PAGES = Rule(
    code="home-has-pages",
    level=Level.ERROR,
    title="The home page has pages under it",
    why="The pages of the top level are beside the home page.",
    remedy="Move them to the top level.",
    good=HOME + "  tides: Tides\n",
    bad=HOME.replace("title: Mill}", "title: Mill, pages: {tides: Tides}}"),
)

TOO_MANY_PAGES = Rule(
    code="too-many-pages",
    level=Level.ERROR,
    title="Too many pages",
    why="A map of this size is better split.",
    remedy="Split the site into several.",
    good=TWO_PAGES,
    bad=Many(HOME, "  tides-{n}: Tides {n}\n", limits.PAGES),
)

TOO_MANY_LEVELS = Rule(
    code="too-many-levels",
    level=Level.ERROR,
    title="Too many levels",
    why="Nobody clicks through that many levels.",
    remedy="Move these pages further up.",
    good=HOME + "  a: {title: A, pages: {b: {title: B, pages: {c: C}}}}\n",
    bad=HOME + f"  a: {'{title: A, pages: {a: ' * limits.LEVELS}A{'}}' * limits.LEVELS}\n",
)

EMPTY_SECTION = Rule(
    code="empty-section",
    level=Level.WARNING,
    title="A section without pages",
    why="It leads nowhere and is left out of menus.",
    standard=COMMON,
    remedy="Add `pages:` below it, or remove `kind: section`.",
    good=HOME + "  learn: {title: Learn, kind: section, pages: {tides: Tides}}\n",
    bad=HOME + "  learn: {title: Learn, kind: section}\n",
)

HOME_NOT_BUILT = Rule(
    code="home-not-built",
    level=Level.ERROR,
    title="The home page is not built",
    why="Every site needs a home page.",
    remedy="Remove its `draft:` and `kind:`.",
    good=HOME,
    bad=HOME.replace("title: Mill}", "title: Mill, draft: yes}"),
)

BAD_HIGHLIGHT = Rule(
    code="bad-highlight",
    level=Level.ERROR,
    title="A highlight that does not work",
    why="It names another page, whose entry is current.",
    remedy="Name another page, or remove `highlight:`.",
    good=HOME + "  tides: Tides\n  flour: {title: Flour, highlight: tides}\n",
    bad=HOME + "  tides: Tides\n  flour: {title: Flour, highlight: flour}\n",
)

BAD_BREADCRUMBS = Rule(
    code="bad-breadcrumbs",
    level=Level.ERROR,
    title="Breadcrumbs set by hand that do not work",
    why="They lead from the home page to this page.",
    standard="WAI-ARIA APG, breadcrumb pattern",
    remedy="Name other pages in `breadcrumbs:`, or remove it.",
    good=HOME + "  tides: Tides\n  flour: {title: Flour, breadcrumbs: tides}\n",
    bad=HOME + "  tides: {title: Tides, breadcrumbs: flour}\n  flour: {title: Flour, breadcrumbs: tides}\n",
)

UNKNOWN_FACT = Rule(
    code="unknown-fact",
    level=Level.ERROR,
    title="A fact that does not exist",
    why="Readers would see the braces.",
    remedy="Add it under `facts:`, or remove it here.",
    good=HOME + "facts: {phone: 01632 960142}\nheader: {tagline: 'Call {fact:phone}'}\n",
    bad=HOME + "facts: {phone: 01632 960142}\nheader: {tagline: 'Call {fact:fax}'}\n",
)

PART_IN_FIELD = Rule(
    code="part-in-field",
    level=Level.WARNING,
    title="A part in a place that is plain text",
    why="Labels, titles and telephone numbers are plain text, so readers would see the code of the part.",
    remedy="Write the text under `facts:`, and `{fact:name}` here.",
    good=HOME + "facts: {phone: 01632 960142}\nheader: {tagline: 'Call {fact:phone}'}\n",
    bad=HOME + "parts: {phone: 01632 960142}\nheader: {tagline: 'Call <part:phone>'}\n",
)

KEY_WITHOUT_USE = Rule(
    code="key-without-use",
    level=Level.ERROR,
    title="A setting that has no effect here",
    why="It would be dropped silently.",
    remedy="Remove it.",
    good=HOME + "  learn: {title: Learn, kind: section, pages: {tides: Tides}}\n",
    bad=HOME + "  learn: {title: Learn, kind: section, was: /lessons/, pages: {tides: Tides}}\n",
)

UNKNOWN_PAGE = Rule(
    code="unknown-page",
    level=Level.ERROR,
    title="A page that does not exist",
    why="The link would lead nowhere.",
    standard=COMMON,
    remedy="Use the key of a page of the map.",
    good=TWO_PAGES + "menus:\n  main: [home, tides]\n",
    bad=TWO_PAGES + "menus:\n  main: [home, tide]\n",
)

AMBIGUOUS_PAGE = Rule(
    code="ambiguous-page",
    level=Level.ERROR,
    title="A name that fits several pages",
    why="The link could lead to the wrong page.",
    standard=COMMON,
    remedy="Write more of its key, from the top.",
    good=HOME + "  a: {title: A, pages: {hours: Hours}}\n  b: {title: B, pages: {hours: Hours}}\n"
    "menus:\n  main: [home, a/hours]\n",
    bad=HOME + "  a: {title: A, pages: {hours: Hours}}\n  b: {title: B, pages: {hours: Hours}}\n"
    "menus:\n  main: [home, hours]\n",
)

DUPLICATE_ENTRY = Rule(
    code="duplicate-entry",
    level=Level.ADVICE,
    title="A page twice in one menu",
    why="Both entries are current on that page. That is right for a call to action; otherwise"
    " one of them is a leftover.",
    standard=COMMON,
    remedy="Remove one of the two, unless you want both.",
    good=TWO_PAGES + "menus:\n  main: [home, tides, flour]\n",
    bad=TWO_PAGES + "menus:\n  main: [home, tides, flour, tides]\n",
)

BAD_SCHEME = Rule(
    code="bad-scheme",
    level=Level.ERROR,
    title="An outside address that is not allowed",
    why="Menus link to https, http, mailto and tel.",
    standard="RFC 3986, 3.1 Scheme",
    remedy="Begin it with https:, http:, mailto: or tel:; for a page of this site write `page:` and its key.",
    good=TWO_PAGES + "menus:\n  main: [home, {url: 'https://shop.example', label: Shop}]\n",
    bad=TWO_PAGES + "menus:\n  main: [home, {url: 'javascript:shop()', label: Shop}]\n",
)

EMPTY_GROUP = Rule(
    code="empty-group",
    level=Level.ERROR,
    title="A group with nothing in it",
    why="The submenu would be empty.",
    standard="WAI-ARIA APG, disclosure navigation",
    remedy="Add `items:` below it, or remove it.",
    good=TWO_PAGES + "menus:\n  main:\n    - home\n    - group: Learn\n      items: [tides]\n",
    bad=TWO_PAGES + "menus:\n  main:\n    - home\n    - group: Learn\n",
)

HIDDEN_ENTRY = Rule(
    code="hidden-entry",
    level=Level.ERROR,
    title="An entry for a page kept out of menus",
    why="The page is hidden from menus and has an entry in one.",
    standard=COMMON,
    remedy="Remove one of the two.",
    good=HOME + "  tides: {title: Tides, hidden: menus}\nmenus:\n  main: [home]\n",
    bad=HOME + "  tides: {title: Tides, hidden: menus}\nmenus:\n  main: [home, tides]\n",
)

DRAFT_ENTRY = Rule(
    code="draft-entry",
    level=Level.ADVICE,
    title="An entry for a draft",
    why="It is left out until the page is published.",
    standard=COMMON,
    remedy="Remove `draft: yes` when the page is ready.",
    good=HOME + "  tides: Tides\nmenus:\n  main: [home, tides]\n",
    bad=HOME + "  tides: {title: Tides, draft: yes}\nmenus:\n  main: [home, tides]\n",
)

CURRENT_BY_COLOUR_ALONE = Rule(
    code="current-by-colour-alone",
    level=Level.WARNING,
    title="The current entry is marked only by colour",
    why="People who cannot tell the colours apart do not see where they are.",
    standard="WCAG 2.2, 1.4.1 Use of Color",
    remedy="Give it a line, a background or another weight.",
    good=TWO_PAGES + "theme: {current-line: none, current-weight: bold}\n",
    bad=TWO_PAGES + "theme: {current-line: none, current-weight: normal}\n",
)

UNKNOWN_ICON = Rule(
    code="unknown-icon",
    level=Level.ERROR,
    title="An icon that does not exist",
    why="Nothing would be drawn.",
    remedy="Use a name that is listed in docs/icons.md.",
    good=TWO_PAGES + "menus:\n  main: [home, {page: tides, icon: ship}]\n",
    bad=TWO_PAGES + "menus:\n  main: [home, {page: tides, icon: shipp}]\n",
)

DUPLICATE_MENU_LABEL = Rule(
    code="duplicate-menu-label",
    level=Level.ERROR,
    title="Two menus with the same name",
    why="Screen readers could not tell them apart.",
    standard="WAI-ARIA APG, landmark regions",
    remedy="Give one of them a `label:` of its own.",
    good=TWO_PAGES + "menus:\n  main: [home]\n  more: {label: More, place: footer, entries: [tides]}\n",
    bad=TWO_PAGES + "menus:\n  main: [home]\n  more: {label: Main, place: footer, entries: [tides]}\n",
)

HOME_NOT_IN_MENU = Rule(
    code="home-not-in-menu",
    level=Level.ADVICE,
    title="The home page is not in the main menu",
    why="People look for the way back there.",
    standard=COMMON,
    remedy="Add it, or leave it out on purpose: the name in the header links home too.",
    good=TWO_PAGES + "menus:\n  main: [home, tides]\n",
    bad=TWO_PAGES + "menus:\n  main: [tides]\n",
)

POOR_CONTRAST = Rule(
    code="poor-contrast",
    level=Level.WARNING,
    title="Colours with too little contrast",
    why="WCAG 2.2, 1.4.3 asks for a contrast of 4.5 to 1.",
    standard="WCAG 2.2, 1.4.3 Contrast (Minimum)",
    remedy="Choose a darker or a lighter colour.",
    good=TWO_PAGES + "theme: {ink: '#767676', ground: '#ffffff'}\n",
    bad=TWO_PAGES + "theme: {ink: '#777777', ground: '#ffffff'}\n",
)

PHRASES_IN_ENGLISH = Rule(
    code="phrases-in-english",
    level=Level.ADVICE,
    title="Phrases that are not built in for the language",
    why="Pages would mix two languages.",
    standard="WCAG 2.2, 3.1.2 Language of Parts",
    remedy="Write them under `phrases:`.",
    good=HOME,
    bad=HOME.replace("{name", "{language: fi, name"),
)

CONTENT_UNUSED = Rule(
    code="content-unused",
    level=Level.WARNING,
    title="Content without a page",
    why="The file is named after a page that does not exist.",
    remedy="Rename the file after a page's key, or add the page.",
    good={"site.yaml": TWO_PAGES, "content/tides.md": "High water at noon.\n"},
    bad={"site.yaml": TWO_PAGES, "content/tide.md": "High water at noon.\n"},
)

CONTENT_NOT_UTF8 = Rule(
    code="content-not-utf8",
    level=Level.ERROR,
    title="Content that is not UTF-8",
    why="It cannot be read as text.",
    remedy="Save the file as UTF-8.",
    good={"site.yaml": TWO_PAGES, "content/tides.md": "At the café.\n"},
    bad={"site.yaml": TWO_PAGES, "content/tides.md": "At the café.\n".encode("latin-1")},
)

RULES = (
    WRONG_SHAPE,
    UNKNOWN_KEY,
    OLD_WORD,
    OTHER_WORD,
    MISSING_KEY,
    BAD_VALUE,
    EMPTY_TEXT,
    TOO_LONG,
    NO_NAME,
    NO_BASE,
    BAD_BASE,
    UNKNOWN_PART,
    UNKNOWN_LAYOUT,
    UNKNOWN_FILE,
    FILE_UNREAD,
    OF_APPLICATION,
    TABLE_UNREAD,
    UNKNOWN_COLUMN,
    INCLUDE_RING,
    TABLE_TOO_LARGE,
    DUPLICATE_PART,
    PART_UNREAD,
    NO_PAGES,
    BAD_ID,
    NO_HOME,
    TWO_HOMES,
    HOME_NESTED,
    HOME_HAS_PAGES,
    TOO_MANY_PAGES,
    TOO_MANY_LEVELS,
    EMPTY_SECTION,
    HOME_NOT_BUILT,
    BAD_HIGHLIGHT,
    BAD_BREADCRUMBS,
    UNKNOWN_FACT,
    PART_IN_FIELD,
    KEY_WITHOUT_USE,
    UNKNOWN_PAGE,
    AMBIGUOUS_PAGE,
    DUPLICATE_ENTRY,
    BAD_SCHEME,
    EMPTY_GROUP,
    HIDDEN_ENTRY,
    DRAFT_ENTRY,
    CURRENT_BY_COLOUR_ALONE,
    UNKNOWN_ICON,
    DUPLICATE_MENU_LABEL,
    HOME_NOT_IN_MENU,
    POOR_CONTRAST,
    PHRASES_IN_ENGLISH,
    CONTENT_UNUSED,
    CONTENT_NOT_UTF8,
)
"""In the order in which they are listed."""
