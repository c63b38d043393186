"""What can be said while the text of a map is read."""

from __future__ import annotations

from basilica.core.rules.rule import Level, Rule

NOT_UTF8 = Rule(
    code="not-utf8",
    level=Level.ERROR,
    title="The text is not UTF-8",
    why="A map is text that every editor and browser reads alike.",
)

NOT_TEXT = Rule(
    code="not-text",
    level=Level.ERROR,
    title="The file is not text",
    why="A picture or an archive cannot be read as a map.",
)

TOO_LARGE = Rule(
    code="too-large",
    level=Level.ERROR,
    title="The map is too large",
    why="Reading stays quick only below a size.",
)

MAP_EMPTY = Rule(
    code="map-empty",
    level=Level.ERROR,
    title="The map is empty",
    why="Without pages there is no site.",
)

MAP_SYNTAX = Rule(
    code="map-syntax",
    level=Level.ERROR,
    title="The text is not YAML",
    why="What cannot be read cannot be built.",
)

TOO_DEEP = Rule(
    code="too-deep",
    level=Level.ERROR,
    title="Nested too deep",
    why="No map needs it, and following it costs without end.",
)

SEVERAL_DOCUMENTS = Rule(
    code="several-documents",
    level=Level.ERROR,
    title="More than one document",
    why="A map is one document; a second would be dropped.",
)

NO_ANCHORS = Rule(
    code="no-anchors",
    level=Level.ERROR,
    title="Anchors and aliases are not used",
    why="A map says each thing once, where it is read.",
)

NO_TAGS = Rule(
    code="no-tags",
    level=Level.ERROR,
    title="Tags are not used",
    why="Every value of a map is text.",
)

NO_MERGE = Rule(
    code="no-merge",
    level=Level.ERROR,
    title="Merge keys are not used",
    why="What a page has stands at the page.",
)

DUPLICATE_KEY = Rule(
    code="duplicate-key",
    level=Level.ERROR,
    title="A key is given twice",
    why="One of the two would be lost without a word.",
)

KEY_NOT_TEXT = Rule(
    code="key-not-text",
    level=Level.ERROR,
    title="A key is not text",
    why="Keys name pages and settings.",
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
