"""What can be said while the text of a map is read."""

from __future__ import annotations

from basilica.core.rules import limits
from basilica.core.rules.examples import HOME, TWO_PAGES, Many
from basilica.core.rules.rule import Level, Rule

NOT_UTF8 = Rule(
    code="not-utf8",
    level=Level.ERROR,
    title="The text is not UTF-8",
    why="Every editor and browser can read a map only if it is UTF-8.",
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
    why="Large maps are slow to read.",
    remedy="Move parts of it into files that the map includes, or rows of it into a table.",
    good=HOME,
    bad=Many(HOME, "# A note of about forty characters, {n}.\n", limits.TEXT_BYTES // 38),
)

MAP_EMPTY = Rule(
    code="map-empty",
    level=Level.ERROR,
    title="The map is empty",
    why="A site needs pages.",
    remedy="Start with `pages:` and a home page whose path is `/`.",
    good=HOME,
    bad="# Nothing yet.\n",
)

MAP_SYNTAX = Rule(
    code="map-syntax",
    level=Level.ERROR,
    title="The text is not YAML",
    why="Nothing can be built from text that cannot be read.",
    standard="YAML 1.2.2",
    remedy="Fix this place first; everything below it is read after that.",
    good=TWO_PAGES,
    bad=HOME + '  tides: "Tides\n',
)

TOO_DEEP = Rule(
    code="too-deep",
    level=Level.ERROR,
    title="Nested too deep",
    why="No map needs this many levels, and following them takes very long.",
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
    remedy="Remove the line `---`, so that the map is one document.",
    good=TWO_PAGES,
    bad=HOME + "---\n" + HOME,
)

NO_ANCHORS = Rule(
    code="no-anchors",
    level=Level.ERROR,
    title="Anchors and aliases are not used",
    why="In a map everything is written where it is used.",
    standard="YAML 1.2.2, 7.1 Alias Nodes",
    remedy="Write it out. Put text that begins with `&` or `*` in quotes.",
    good=TWO_PAGES,
    bad=HOME + "  tides: &tides Tides\n",
)

NO_TAGS = Rule(
    code="no-tags",
    level=Level.ERROR,
    title="Tags are not used",
    why="Every value of a map is text.",
    standard="YAML 1.2.2, 6.8.1 Node Tags",
    remedy="Remove the tag. Put text that begins with `!` in quotes.",
    good=TWO_PAGES,
    bad=HOME + "  tides: !name Tides\n",
)

NO_MERGE = Rule(
    code="no-merge",
    level=Level.ERROR,
    title="Merge keys are not used",
    why="In a map everything is written where it is used.",
    remedy="Write the keys out.",
    good=TWO_PAGES,
    bad=HOME + "  tides: {<<: {hidden: menus}, title: Tides}\n",
)

DUPLICATE_KEY = Rule(
    code="duplicate-key",
    level=Level.ERROR,
    title="A key is written twice",
    why="One of the two would be lost silently.",
    standard="YAML 1.2.2, 3.2.1.1 Nodes",
    remedy="Remove or rename one of the two.",
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
