"""What can be said while the text of a map is read."""

from __future__ import annotations

from basilica.core.rules import limits
from basilica.core.rules.examples import HOME, TWO_PAGES, Many
from basilica.core.rules.rule import Level, Rule

NOT_UTF8 = Rule(
    code="not-utf8",
    level=Level.ERROR,
    title="The text is not UTF-8",
    why="A map is text that every editor and browser reads alike.",
    standard="YAML 1.2.2, 5.2 Character Encodings",
    remedy="Save the file as UTF-8.",
    good=HOME + "  cafe: Café\n",
    bad=(HOME + "  cafe: Café\n").encode("latin-1"),
)

NOT_TEXT = Rule(
    code="not-text",
    level=Level.ERROR,
    title="The file is not text",
    why="A picture or an archive cannot be read as a map.",
    remedy="Choose the map, a YAML text file.",
    good=HOME,
    bad=b"\x89PNG\r\n\x1a\n\0\0\0\rIHDR",
)

TOO_LARGE = Rule(
    code="too-large",
    level=Level.ERROR,
    title="The map is too large",
    why="Reading stays quick only below a size.",
    remedy="Put parts of it into files that the map includes, or rows of it into a table.",
    good=HOME,
    bad=Many(HOME, "# A note of about forty characters, {n}.\n", limits.TEXT_BYTES // 38),
)

MAP_EMPTY = Rule(
    code="map-empty",
    level=Level.ERROR,
    title="The map is empty",
    why="Without pages there is no site.",
    remedy="Begin with `pages:` and a home page whose path is `/`.",
    good=HOME,
    bad="# Nothing yet.\n",
)

MAP_SYNTAX = Rule(
    code="map-syntax",
    level=Level.ERROR,
    title="The text is not YAML",
    why="What cannot be read cannot be built.",
    standard="YAML 1.2.2",
    remedy="Mend what stands at this place; what is below it is read after that.",
    good=TWO_PAGES,
    bad=HOME + '  tides: "Tides\n',
)

TOO_DEEP = Rule(
    code="too-deep",
    level=Level.ERROR,
    title="Nested too deep",
    why="No map needs it, and following it costs without end.",
    remedy="Close what was opened by mistake.",
    good=TWO_PAGES,
    bad=HOME + f"  tides: {'[' * limits.NESTING}{']' * limits.NESTING}\n",
)

SEVERAL_DOCUMENTS = Rule(
    code="several-documents",
    level=Level.ERROR,
    title="More than one document",
    why="A map is one document; a second would be dropped.",
    standard="YAML 1.2.2, 9.2 Streams",
    remedy="Take out the line `---`, so that the map is one document.",
    good=TWO_PAGES,
    bad=HOME + "---\n" + HOME,
)

NO_ANCHORS = Rule(
    code="no-anchors",
    level=Level.ERROR,
    title="Anchors and aliases are not used",
    why="A map says each thing once, where it is read.",
    standard="YAML 1.2.2, 7.1 Alias Nodes",
    remedy="Write it out; text that begins with `&` or `*` goes in quotes.",
    good=TWO_PAGES,
    bad=HOME + "  tides: &tides Tides\n",
)

NO_TAGS = Rule(
    code="no-tags",
    level=Level.ERROR,
    title="Tags are not used",
    why="Every value of a map is text.",
    standard="YAML 1.2.2, 6.8.1 Node Tags",
    remedy="Take the tag out; text that begins with `!` goes in quotes.",
    good=TWO_PAGES,
    bad=HOME + "  tides: !name Tides\n",
)

NO_MERGE = Rule(
    code="no-merge",
    level=Level.ERROR,
    title="Merge keys are not used",
    why="What a page has stands at the page.",
    remedy="Write the keys out.",
    good=TWO_PAGES,
    bad=HOME + "  tides: {<<: {hidden: menus}, title: Tides}\n",
)

DUPLICATE_KEY = Rule(
    code="duplicate-key",
    level=Level.ERROR,
    title="A key is given twice",
    why="One of the two would be lost without a word.",
    standard="YAML 1.2.2, 3.2.1.1 Nodes",
    remedy="Take one of the two out, or rename it.",
    good=TWO_PAGES,
    bad=HOME + "  tides: Tides\n  tides: Tide tables\n",
)

KEY_NOT_TEXT = Rule(
    code="key-not-text",
    level=Level.ERROR,
    title="A key is not text",
    why="Keys name pages and settings.",
    remedy="Write a name before the colon.",
    good=TWO_PAGES,
    bad=HOME + "  [tides, flour]: Tides\n",
)

RULES = (
    NOT_UTF8,
    NOT_TEXT,
    TOO_LARGE,
    MAP_EMPTY,
    MAP_SYNTAX,
    TOO_DEEP,
    SEVERAL_DOCUMENTS,
    NO_ANCHORS,
    NO_TAGS,
    NO_MERGE,
    DUPLICATE_KEY,
    KEY_NOT_TEXT,
)
"""In the order in which they are listed."""
