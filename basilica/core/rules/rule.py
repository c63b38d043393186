"""The list of everything that can be said while a map is read: its code, how grave it is, its title, and
why it matters.

Codes are stable: scripts and notes may rely on them. ``docs/findings.md`` is made from this list. What the checks on
built pages say is in their own modules, and in ``docs/checks.md``.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum


class Level(StrEnum):
    """How grave a finding is. An error stops a build; the others do not."""

    ERROR = "error"
    WARNING = "warning"
    ADVICE = "advice"
    IGNORE = "ignore"
    """Let be, for a reason that the map gives."""


@dataclass(frozen=True, slots=True)
class Rule:
    """One kind of finding."""

    code: str
    level: Level
    title: str
    why: str


E, W, A = Level.ERROR, Level.WARNING, Level.ADVICE

_RULES = (
    # Reading the text
    Rule("not-utf8", E, "The text is not UTF-8", "A map is text that every editor and browser reads alike."),
    Rule("not-text", E, "The file is not text", "A picture or an archive cannot be read as a map."),
    Rule("too-large", E, "The map is too large", "Reading stays quick only below a size."),
    Rule("map-empty", E, "The map is empty", "Without pages there is no site."),
    Rule("map-syntax", E, "The text is not YAML", "What cannot be read cannot be built."),
    Rule("too-deep", E, "Nested too deep", "No map needs it, and following it costs without end."),
    Rule("several-documents", E, "More than one document", "A map is one document; a second would be dropped."),
    Rule("no-anchors", E, "Anchors and aliases are not used", "A map says each thing once, where it is read."),
    Rule("no-tags", E, "Tags are not used", "Every value of a map is text."),
    Rule("no-merge", E, "Merge keys are not used", "What a page has stands at the page."),
    Rule("duplicate-key", E, "A key is given twice", "One of the two would be lost without a word."),
    Rule("key-not-text", E, "A key is not text", "Keys name pages and settings."),
    Rule("too-many-findings", W, "More findings than are listed", "A wall of findings helps nobody."),
    # The shape of the map
    Rule("wrong-shape", E, "A value of the wrong kind", "A list, a set of keys and a text are different things."),
    Rule("unknown-key", E, "An unknown key", "A misspelt setting would be dropped without a word."),
    Rule(
        "old-word",
        E,
        "A word of the map language that has another name",
        "One thing has one name, so that maps read alike.",
    ),
    Rule("missing-key", E, "Something needed is missing", "Without it the entry says nothing."),
    Rule("bad-value", E, "A value that is not allowed", "The setting has a fixed set of values."),
    Rule("empty-text", E, "An empty text", "A page or an entry without words cannot be found or read out."),
    Rule("too-long", E, "A text that is too long", "Menus and results cut it off."),
    Rule("no-name", W, "The site has no name", "The header leads home by the site's name."),
    Rule("no-base", W, "The site has no base address", "Without it: no sitemap, no canonical addresses."),
    Rule("bad-base", E, "The base address is not usable", "Canonical addresses and the sitemap begin with it."),
    # Parts, layouts and files
    Rule("unknown-part", E, "A part that does not exist", "The place where it should stand would be empty."),
    Rule("unknown-layout", E, "A layout that does not exist", "Pages without a layout cannot be made."),
    Rule("unknown-file", E, "A file that does not exist", "Pages would ask for what is not there."),
    Rule("file-unread", W, "A file that is left out", "Pages that ask for it would not find it."),
    Rule("table-unread", E, "A table that cannot be read", "The pages of its rows would be missing."),
    Rule("unknown-column", E, "A column that does not exist", "What it should say would be empty on every page."),
    Rule("include-ring", E, "A file that includes itself", "It would never end."),
    Rule("layout-unread", E, "A layout that cannot be used", "What a layout may say is little, so that it is safe."),
    Rule("part-ring", E, "A part that holds itself", "It would never end."),
    Rule("part-too-large", E, "A part that is too large", "Parts in parts can grow without bound."),
    Rule("table-too-large", E, "A table that makes too much", "Pages of this size serve nobody."),
    Rule("duplicate-part", W, "A part that is written twice", "One of the two would be lost without a word."),
    Rule("part-unread", W, "A file that is no part", "What it says would be missed."),
    Rule("part-unused", A, "A part that stands nowhere", "What nobody sees need not be kept."),
    Rule("slot-nowhere", W, "A slot that the layout does not have", "What fills it would not be shown."),
    # The header
    Rule("header-flickers", W, "The header undoes its own change", "A page that jumps to and fro cannot be read."),
    Rule(
        "header-never-rests", W, "The header is never at rest again", "What it loses on the way down never comes back."
    ),
    Rule("header-room-kept", W, "The room cannot follow the header", "It looks as if the setting did nothing."),
    Rule("header-grows", W, "The header is higher when small", "It is to give room to the text, not to take it."),
    Rule("header-gap", A, "The header leaves a gap", "Its room in the page is seen while nothing stands in it."),
    Rule("header-cannot-end", W, "A fixed header does not end", "The footer stays under it."),
    Rule("header-over-row", W, "The header lies over the row above it", "The row cannot be read or used."),
    Rule("header-without-ground", W, "The header has no ground", "Text over text cannot be read."),
    Rule("header-unreadable", W, "The header is hard to read over content", "Anything may pass under it."),
    Rule(
        "header-takes-much", W, "The header takes much of the screen", "What it takes is missing to what one came for."
    ),
    Rule("header-held", W, "A rule keeps the header from sticking", "It looks as if the setting did nothing."),
    # Pages
    Rule("no-pages", E, "The map has no pages", "Without pages there is no site."),
    Rule("bad-id", E, "An id that cannot be used", "Ids become addresses and keys."),
    Rule("no-home", E, "No page is home", "Visitors, breadcrumbs and the header's name lead to it."),
    Rule("two-homes", E, "More than one home", "A site has one front door."),
    Rule("home-nested", E, "Home stands below another page", "Home is at the top, and nobody's child."),
    Rule("home-has-pages", E, "Home has pages under it", "Home is nobody's parent; its pages are the top level."),
    Rule("too-many-pages", E, "Too many pages", "Past this number a map is better made from a table."),
    Rule("too-many-levels", E, "Too many levels", "Nobody clicks down that far."),
    Rule("empty-section", W, "A section without pages", "It leads nowhere, and is left out of menus."),
    Rule("home-not-built", E, "Home is not a page that is built", "Every site has a front door."),
    Rule("bad-highlight", E, "A highlight that cannot be", "It names another page, whose entry is current."),
    Rule("key-without-use", E, "A setting without meaning here", "It would be dropped without a word."),
    # Addresses
    Rule("bad-path", E, "A path that cannot be an address", "It must name one file and one address."),
    Rule("address-clash", E, "Two pages at one address", "A server answers an address with one page only."),
    Rule("file-clash", E, "A page where another file must stand", "One would overwrite the other."),
    Rule("path-too-long", E, "An address that is too long", "File systems and sitemaps have limits."),
    Rule("redirect-clash", E, "An old address that is in use", "A visitor gets the page that stands there now."),
    # References and menus
    Rule("unknown-page", E, "A page that does not exist", "The link would lead nowhere."),
    Rule("ambiguous-page", E, "A name that fits several pages", "The link could lead to the wrong one."),
    Rule("duplicate-entry", E, "A page twice in one menu", "Two entries would be current, or the wrong one."),
    Rule("bad-scheme", E, "An outside address that is not allowed", "Menus link to https, http, mailto and tel."),
    Rule("empty-group", E, "A group with nothing in it", "It would open on nothing."),
    Rule("hidden-entry", E, "An entry for a page kept out of menus", "One of the two is not what is meant."),
    Rule("draft-entry", A, "An entry for a draft", "It is left out until the page is built for everyone."),
    Rule("highlight-nowhere", W, "A highlight that lights nothing", "The page it names stands in no menu."),
    Rule("unknown-icon", E, "An icon that does not exist", "Nothing would be drawn."),
    Rule("duplicate-menu-label", E, "Two menus of one name", "Those who cannot see them could not tell them apart."),
    Rule("menu-too-large", E, "Menus too large for so many pages", "The build would write gigabytes."),
    Rule("home-not-in-menu", A, "Home is not in the main menu", "People look for the way back there."),
    # Looks and words
    Rule("poor-contrast", W, "Colours that are hard to tell apart", "WCAG 2.2, 1.4.3 asks for 4.5 to 1."),
    Rule("phrases-in-english", A, "Words that do not ship in the language", "Pages would speak two languages."),
    # Lists that become maps
    Rule("list-line", W, "A line that cannot be taken as it is", "What it says would be lost without a word."),
    Rule("list-note", A, "Something the list leaves open", "It was decided, and can be changed in the map."),
    # Content
    Rule("no-content", A, "A page without content", "It is built with its title alone."),
    Rule("content-unused", W, "Content without a page", "The file is named after a page that is not there."),
    Rule("content-not-utf8", E, "Content that is not UTF-8", "It cannot be read as text."),
    Rule("section-linked", E, "A link to a section", "A section has no page of its own."),
    Rule("draft-linked", W, "A link to a draft", "The page is not there; the link keeps its words alone."),
    # Checks
    Rule("unknown-check", E, "A check that does not exist", "What it should say would still be said, or never."),
)

RULES: dict[str, Rule] = {rule.code: rule for rule in _RULES}
