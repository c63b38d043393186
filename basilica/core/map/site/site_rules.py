"""What can be said while a document becomes a site: its keys, values, pages, menus, parts and files."""

from __future__ import annotations

from basilica.core.rules.examples import HOME as _HEAD
from basilica.core.rules.examples import TWO_PAGES as _TWO
from basilica.core.rules.rule import COMMON, Level, Rule

WRONG_SHAPE = Rule(
    code="wrong-shape",
    level=Level.ERROR,
    title="A value of the wrong kind",
    why="A list, a set of keys and a text are different things.",
)

UNKNOWN_KEY = Rule(
    code="unknown-key",
    level=Level.ERROR,
    title="An unknown key",
    why="A misspelt setting would be dropped without a word.",
)

OLD_WORD = Rule(
    code="old-word",
    level=Level.ERROR,
    title="A word of the map language that has another name",
    why="One thing has one name, so that maps read alike.",
)

MISSING_KEY = Rule(
    code="missing-key",
    level=Level.ERROR,
    title="Something needed is missing",
    why="Without it the entry says nothing.",
)

BAD_VALUE = Rule(
    code="bad-value",
    level=Level.ERROR,
    title="A value that is not allowed",
    why="The setting has a fixed set of values.",
)

EMPTY_TEXT = Rule(
    code="empty-text",
    level=Level.ERROR,
    title="An empty text",
    why="A page or an entry without words cannot be found or read out.",
)

TOO_LONG = Rule(
    code="too-long",
    level=Level.ERROR,
    title="A text that is too long",
    why="Menus and results cut it off.",
)

NO_NAME = Rule(
    code="no-name",
    level=Level.WARNING,
    title="The site has no name",
    why="The header leads home by the site's name.",
)

NO_BASE = Rule(
    code="no-base",
    level=Level.WARNING,
    title="The site has no base address",
    why="Without it: no sitemap, no canonical addresses.",
)

BAD_BASE = Rule(
    code="bad-base",
    level=Level.ERROR,
    title="The base address is not usable",
    why="Canonical addresses and the sitemap begin with it.",
)

UNKNOWN_PART = Rule(
    code="unknown-part",
    level=Level.ERROR,
    title="A part that does not exist",
    why="The place where it should stand would be empty.",
)

UNKNOWN_LAYOUT = Rule(
    code="unknown-layout",
    level=Level.ERROR,
    title="A layout that does not exist",
    why="Pages without a layout cannot be made.",
)

UNKNOWN_FILE = Rule(
    code="unknown-file",
    level=Level.ERROR,
    title="A file that does not exist",
    why="Pages would ask for what is not there.",
)

FILE_UNREAD = Rule(
    code="file-unread",
    level=Level.WARNING,
    title="A file that is left out",
    why="Pages that ask for it would not find it.",
)

TABLE_UNREAD = Rule(
    code="table-unread",
    level=Level.ERROR,
    title="A table that cannot be read",
    why="The pages of its rows would be missing.",
)

UNKNOWN_COLUMN = Rule(
    code="unknown-column",
    level=Level.ERROR,
    title="A column that does not exist",
    why="What it should say would be empty on every page.",
)

INCLUDE_RING = Rule(
    code="include-ring",
    level=Level.ERROR,
    title="A file that includes itself",
    why="It would never end.",
)

TABLE_TOO_LARGE = Rule(
    code="table-too-large",
    level=Level.ERROR,
    title="A table that makes too much",
    why="Pages of this size serve nobody.",
)

DUPLICATE_PART = Rule(
    code="duplicate-part",
    level=Level.WARNING,
    title="A part that is written twice",
    why="One of the two would be lost without a word.",
)

PART_UNREAD = Rule(
    code="part-unread",
    level=Level.WARNING,
    title="A file that is no part",
    why="What it says would be missed.",
)

NO_PAGES = Rule(
    code="no-pages",
    level=Level.ERROR,
    title="The map has no pages",
    why="Without pages there is no site.",
)

BAD_ID = Rule(
    code="bad-id",
    level=Level.ERROR,
    title="An id that cannot be used",
    why="Ids become addresses and keys.",
)

NO_HOME = Rule(
    code="no-home",
    level=Level.ERROR,
    title="No page is home",
    why="Visitors, breadcrumbs and the header's name lead to it.",
)

TWO_HOMES = Rule(
    code="two-homes",
    level=Level.ERROR,
    title="More than one home",
    why="A site has one front door.",
)

HOME_NESTED = Rule(
    code="home-nested",
    level=Level.ERROR,
    title="Home stands below another page",
    why="Home is at the top, and nobody's child.",
)

HOME_HAS_PAGES = Rule(
    code="home-has-pages",
    level=Level.ERROR,
    title="Home has pages under it",
    why="Home is nobody's parent; its pages are the top level.",
)

TOO_MANY_PAGES = Rule(
    code="too-many-pages",
    level=Level.ERROR,
    title="Too many pages",
    why="Past this number a map is better made from a table.",
)

TOO_MANY_LEVELS = Rule(
    code="too-many-levels",
    level=Level.ERROR,
    title="Too many levels",
    why="Nobody clicks down that far.",
)

EMPTY_SECTION = Rule(
    code="empty-section",
    level=Level.WARNING,
    title="A section without pages",
    why="It leads nowhere, and is left out of menus.",
    standard=COMMON,
    remedy="Write `pages:` below it, or take `kind: section` out.",
    good=_HEAD + "  learn: {title: Learn, kind: section, pages: {tides: Tides}}\n",
    bad=_HEAD + "  learn: {title: Learn, kind: section}\n",
)

HOME_NOT_BUILT = Rule(
    code="home-not-built",
    level=Level.ERROR,
    title="Home is not a page that is built",
    why="Every site has a front door.",
)

BAD_HIGHLIGHT = Rule(
    code="bad-highlight",
    level=Level.ERROR,
    title="A highlight that cannot be",
    why="It names another page, whose entry is current.",
)

KEY_WITHOUT_USE = Rule(
    code="key-without-use",
    level=Level.ERROR,
    title="A setting without meaning here",
    why="It would be dropped without a word.",
)

UNKNOWN_PAGE = Rule(
    code="unknown-page",
    level=Level.ERROR,
    title="A page that does not exist",
    why="The link would lead nowhere.",
    standard=COMMON,
    remedy="Write the key of a page of the map.",
    good=_TWO + "menus:\n  main: [home, tides]\n",
    bad=_TWO + "menus:\n  main: [home, tide]\n",
)

AMBIGUOUS_PAGE = Rule(
    code="ambiguous-page",
    level=Level.ERROR,
    title="A name that fits several pages",
    why="The link could lead to the wrong one.",
    standard=COMMON,
    remedy="Write more of its key, from the top.",
    good=_HEAD + "  a: {title: A, pages: {hours: Hours}}\n  b: {title: B, pages: {hours: Hours}}\n"
    "menus:\n  main: [home, a/hours]\n",
    bad=_HEAD + "  a: {title: A, pages: {hours: Hours}}\n  b: {title: B, pages: {hours: Hours}}\n"
    "menus:\n  main: [home, hours]\n",
)

DUPLICATE_ENTRY = Rule(
    code="duplicate-entry",
    level=Level.ERROR,
    title="A page twice in one menu",
    why="Two entries would be current, or the wrong one.",
    standard=COMMON,
    remedy="Take one of the two out.",
    good=_TWO + "menus:\n  main: [home, tides, flour]\n",
    bad=_TWO + "menus:\n  main: [home, tides, flour, tides]\n",
)

BAD_SCHEME = Rule(
    code="bad-scheme",
    level=Level.ERROR,
    title="An outside address that is not allowed",
    why="Menus link to https, http, mailto and tel.",
)

EMPTY_GROUP = Rule(
    code="empty-group",
    level=Level.ERROR,
    title="A group with nothing in it",
    why="It would open on nothing.",
    standard="WAI-ARIA APG, disclosure navigation",
    remedy="Write `items:` below it, or take it out.",
    good=_TWO + "menus:\n  main:\n    - home\n    - group: Learn\n      items: [tides]\n",
    bad=_TWO + "menus:\n  main:\n    - home\n    - group: Learn\n",
)

HIDDEN_ENTRY = Rule(
    code="hidden-entry",
    level=Level.ERROR,
    title="An entry for a page kept out of menus",
    why="One of the two is not what is meant.",
    standard=COMMON,
    remedy="Take one of the two out.",
    good=_HEAD + "  tides: {title: Tides, hidden: menus}\nmenus:\n  main: [home]\n",
    bad=_HEAD + "  tides: {title: Tides, hidden: menus}\nmenus:\n  main: [home, tides]\n",
)

DRAFT_ENTRY = Rule(
    code="draft-entry",
    level=Level.ADVICE,
    title="An entry for a draft",
    why="It is left out until the page is built for everyone.",
    standard=COMMON,
    remedy="Take `draft: yes` out once the page is ready.",
    good=_HEAD + "  tides: Tides\nmenus:\n  main: [home, tides]\n",
    bad=_HEAD + "  tides: {title: Tides, draft: yes}\nmenus:\n  main: [home, tides]\n",
)

UNKNOWN_ICON = Rule(
    code="unknown-icon",
    level=Level.ERROR,
    title="An icon that does not exist",
    why="Nothing would be drawn.",
)

DUPLICATE_MENU_LABEL = Rule(
    code="duplicate-menu-label",
    level=Level.ERROR,
    title="Two menus of one name",
    why="Those who cannot see them could not tell them apart.",
)

HOME_NOT_IN_MENU = Rule(
    code="home-not-in-menu",
    level=Level.ADVICE,
    title="Home is not in the main menu",
    why="People look for the way back there.",
    standard=COMMON,
    remedy="Add it, or leave it: the site's name leads home too.",
    good=_TWO + "menus:\n  main: [home, tides]\n",
    bad=_TWO + "menus:\n  main: [tides]\n",
)

POOR_CONTRAST = Rule(
    code="poor-contrast",
    level=Level.WARNING,
    title="Colours that are hard to tell apart",
    why="WCAG 2.2, 1.4.3 asks for 4.5 to 1.",
    standard="WCAG 2.2, 1.4.3 Contrast (Minimum)",
    remedy="Choose a darker or a lighter colour.",
    good=_TWO + "theme: {ink: '#767676', ground: '#ffffff'}\n",
    bad=_TWO + "theme: {ink: '#777777', ground: '#ffffff'}\n",
)

PHRASES_IN_ENGLISH = Rule(
    code="phrases-in-english",
    level=Level.ADVICE,
    title="Words that do not ship in the language",
    why="Pages would speak two languages.",
)

CONTENT_UNUSED = Rule(
    code="content-unused",
    level=Level.WARNING,
    title="Content without a page",
    why="The file is named after a page that is not there.",
)

CONTENT_NOT_UTF8 = Rule(
    code="content-not-utf8",
    level=Level.ERROR,
    title="Content that is not UTF-8",
    why="It cannot be read as text.",
)

RULES = (
    WRONG_SHAPE,
    UNKNOWN_KEY,
    OLD_WORD,
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
    KEY_WITHOUT_USE,
    UNKNOWN_PAGE,
    AMBIGUOUS_PAGE,
    DUPLICATE_ENTRY,
    BAD_SCHEME,
    EMPTY_GROUP,
    HIDDEN_ENTRY,
    DRAFT_ENTRY,
    UNKNOWN_ICON,
    DUPLICATE_MENU_LABEL,
    HOME_NOT_IN_MENU,
    POOR_CONTRAST,
    PHRASES_IN_ENGLISH,
    CONTENT_UNUSED,
    CONTENT_NOT_UTF8,
)
"""In the order in which they are listed."""
