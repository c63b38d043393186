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
    SILENT = "silent"
    """Let be, for a reason that the map gives."""


@dataclass(frozen=True, slots=True)
class Kind:
    """One kind of finding."""

    code: str
    level: Level
    title: str
    why: str


E, W, A = Level.ERROR, Level.WARNING, Level.ADVICE

_KINDS = (
    # Reading the text
    Kind("not-utf8", E, "The text is not UTF-8", "A map is text that every editor and browser reads alike."),
    Kind("not-text", E, "The file is not text", "A picture or an archive cannot be read as a map."),
    Kind("too-large", E, "The map is too large", "Reading stays quick only below a size."),
    Kind("map-empty", E, "The map is empty", "Without pages there is no site."),
    Kind("map-syntax", E, "The text is not YAML", "What cannot be read cannot be built."),
    Kind("too-deep", E, "Nested too deep", "No map needs it, and following it costs without end."),
    Kind("several-documents", E, "More than one document", "A map is one document; a second would be dropped."),
    Kind("no-anchors", E, "Anchors and aliases are not used", "A map says each thing once, where it is read."),
    Kind("no-tags", E, "Tags are not used", "Every value of a map is text."),
    Kind("no-merge", E, "Merge keys are not used", "What a page has stands at the page."),
    Kind("key-twice", E, "A key is given twice", "One of the two would be lost without a word."),
    Kind("key-not-text", E, "A key is not text", "Keys name pages and settings."),
    Kind("too-many-findings", W, "More findings than are listed", "A wall of findings helps nobody."),
    # The shape of the map
    Kind("wrong-shape", E, "A value of the wrong kind", "A list, a set of keys and a text are different things."),
    Kind("unknown-key", E, "An unknown key", "A misspelt setting would be dropped without a word."),
    Kind("missing-key", E, "Something needed is missing", "Without it the entry says nothing."),
    Kind("bad-value", E, "A value that is not allowed", "The setting has a fixed set of values."),
    Kind("empty-text", E, "An empty text", "A page or an entry without words cannot be found or read out."),
    Kind("too-long", E, "A text that is too long", "Menus and results cut it off."),
    Kind("no-name", W, "The site has no name", "The header leads home by the site's name."),
    Kind("no-base", W, "The site has no base address", "Without it: no sitemap, no canonical addresses."),
    Kind("bad-base", E, "The base address is not usable", "Canonical addresses and the sitemap begin with it."),
    # Parts, layouts and files
    Kind("unknown-part", E, "A part that does not exist", "The place where it should stand would be empty."),
    Kind("unknown-layout", E, "A layout that does not exist", "Pages without a layout cannot be made."),
    Kind("unknown-file", E, "A file that does not exist", "Pages would ask for what is not there."),
    Kind("file-unread", W, "A file that is left out", "Pages that ask for it would not find it."),
    Kind("table-unread", E, "A table that cannot be read", "The pages of its rows would be missing."),
    Kind("unknown-column", E, "A column that does not exist", "What it should say would be empty on every page."),
    Kind("mount-ring", E, "A file that mounts itself", "It would never end."),
    Kind("layout-unread", E, "A layout that cannot be used", "What a layout may say is little, so that it is safe."),
    Kind("part-ring", E, "A part that holds itself", "It would never end."),
    Kind("part-too-large", E, "A part that is too large", "Parts in parts can grow without bound."),
    Kind("table-too-large", E, "A table that makes too much", "Pages of this size serve nobody."),
    Kind("part-twice", W, "A part that is written twice", "One of the two would be lost without a word."),
    Kind("part-unread", W, "A file that is no part", "What it says would be missed."),
    Kind("part-unused", A, "A part that stands nowhere", "What nobody sees need not be kept."),
    Kind("slot-nowhere", W, "A slot that the layout does not have", "What fills it would not be shown."),
    # The header
    Kind("header-flickers", W, "The header undoes its own change", "A page that jumps to and fro cannot be read."),
    Kind(
        "header-never-rests", W, "The header is never at rest again", "What it loses on the way down never comes back."
    ),
    Kind("header-room-kept", W, "The room cannot follow the header", "It looks as if the setting did nothing."),
    Kind("header-grows", W, "The header is higher when small", "It is to give room to the text, not to take it."),
    Kind("header-gap", A, "The header leaves a gap", "Its room in the page is seen while nothing stands in it."),
    Kind("header-cannot-end", W, "A fixed header does not end", "The footer stays under it."),
    Kind("header-over-row", W, "The header lies over the row above it", "The row cannot be read or used."),
    Kind("header-without-ground", W, "The header has no ground", "Text over text cannot be read."),
    Kind("header-unreadable", W, "The header is hard to read over content", "Anything may pass under it."),
    Kind(
        "header-takes-much", W, "The header takes much of the screen", "What it takes is missing to what one came for."
    ),
    Kind("header-held", W, "A rule keeps the header from sticking", "It looks as if the setting did nothing."),
    # Pages
    Kind("no-pages", E, "The map has no pages", "Without pages there is no site."),
    Kind("bad-id", E, "An id that cannot be used", "Ids become addresses and keys."),
    Kind("no-home", E, "No page is home", "Visitors, breadcrumbs and the header's name lead to it."),
    Kind("two-homes", E, "More than one home", "A site has one front door."),
    Kind("home-nested", E, "Home stands below another page", "Home is at the top, and nobody's child."),
    Kind("home-has-pages", E, "Home has pages under it", "Home is nobody's parent; its pages are the top level."),
    Kind("too-many-pages", E, "Too many pages", "Past this number a map is better made from a table."),
    Kind("too-many-levels", E, "Too many levels", "Nobody clicks down that far."),
    Kind("empty-section", W, "A section without pages", "It leads nowhere, and is left out of menus."),
    Kind("home-not-built", E, "Home is not a page that is built", "Every site has a front door."),
    Kind("bad-highlight", E, "A highlight that cannot be", "It names another page, whose entry is lit."),
    Kind("key-without-use", E, "A setting without meaning here", "It would be dropped without a word."),
    # Addresses
    Kind("bad-path", E, "A path that cannot be an address", "It must name one file and one address."),
    Kind("address-clash", E, "Two pages at one address", "A server answers an address with one page only."),
    Kind("file-clash", E, "A page where another file must stand", "One would overwrite the other."),
    Kind("path-too-long", E, "An address that is too long", "File systems and sitemaps have limits."),
    Kind("redirect-clash", E, "An old address that is in use", "A visitor gets the page that stands there now."),
    # References and menus
    Kind("unknown-page", E, "A page that does not exist", "The link would lead nowhere."),
    Kind("ambiguous-page", E, "A name that fits several pages", "The link could lead to the wrong one."),
    Kind("page-twice", E, "A page twice in one menu", "Two entries would be lit, or the wrong one."),
    Kind("bad-scheme", E, "An outside address that is not allowed", "Menus link to https, http, mailto and tel."),
    Kind("empty-group", E, "A group with nothing in it", "It would open on nothing."),
    Kind("hidden-entry", E, "An entry for a page kept out of menus", "One of the two is not what is meant."),
    Kind("draft-entry", A, "An entry for a draft", "It is left out until the page is built for everyone."),
    Kind("highlight-nowhere", W, "A highlight that lights nothing", "The page it names stands in no menu."),
    Kind("unknown-icon", E, "An icon that does not exist", "Nothing would be drawn."),
    Kind("menu-label-twice", E, "Two menus of one name", "Those who cannot see them could not tell them apart."),
    Kind("menu-too-large", E, "Menus too large for so many pages", "The build would write gigabytes."),
    Kind("home-not-in-menu", A, "Home is not in the main menu", "People look for the way back there."),
    # Looks and words
    Kind("poor-contrast", W, "Colours that are hard to tell apart", "WCAG 2.2, 1.4.3 asks for 4.5 to 1."),
    Kind("words-in-english", A, "Words that do not ship in the language", "Pages would speak two languages."),
    # Lists that become maps
    Kind("list-line", W, "A line that cannot be taken as it is", "What it says would be lost without a word."),
    Kind("list-note", A, "Something the list leaves open", "It was decided, and can be changed in the map."),
    # Content
    Kind("no-content", A, "A page without content", "It is built with its title alone."),
    Kind("content-unused", W, "Content without a page", "The file is named after a page that is not there."),
    Kind("content-not-utf8", E, "Content that is not UTF-8", "It cannot be read as text."),
    Kind("section-linked", E, "A link to a section", "A section has no page of its own."),
    Kind("draft-linked", W, "A link to a draft", "The page is not there; the link keeps its words alone."),
    # Checks
    Kind("unknown-check", E, "A check that does not exist", "What it should say would still be said, or never."),
)

CATALOGUE: dict[str, Kind] = {kind.code: kind for kind in _KINDS}
