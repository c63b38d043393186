"""What the YAML parser says, in the words of the person who typed the text."""

from __future__ import annotations

import re

from basilica.core.map.document.scalar_writer import write_scalar

_SENTENCES: tuple[tuple[str, str, str], ...] = (
    (
        "could not find expected ':'",
        "A name here has no colon after it.",
        "Write `name: value` with a space after the colon, or `- name` for an entry of a list.",
    ),
    (
        "mapping values are not allowed",
        "There is a colon where no value can begin.",
        "Check the indentation of this line, or put text with a colon in quotes.",
    ),
    (
        "did not find expected key",
        "The line does not fit the lines above it.",
        "Give it the same indentation as its neighbours; quotes around part of a text go around all of it.",
    ),
    (
        "did not find expected '-' indicator",
        "The line does not fit the list above it.",
        "Begin it with `-` at the same indentation, or move it out of the list.",
    ),
    (
        "did not find expected ',' or ']'",
        "A list in square brackets is not closed, or a comma is missing.",
        "Write `[one, two]`.",
    ),
    (
        "did not find expected ',' or '}'",
        "Curly brackets are not closed, or a comma is missing.",
        "Write `{one: 1, two: 2}`.",
    ),
    (
        "did not find expected node content",
        "Something is missing here, or brackets are not closed.",
        "Write what belongs here, and close every `[` and `{` above.",
    ),
    (
        "did not find the expected",
        "The text does not go on as YAML does.",
        "Check the brackets and the indentation here.",
    ),
    (
        "found unexpected end of stream",
        "A quoted text is not closed.",
        "Put the closing quote where the text ends.",
    ),
    (
        "found unexpected document indicator",
        "A quoted text is not closed.",
        "Put the closing quote where the text ends.",
    ),
    (
        "unknown escape",
        "There is a backslash before a letter that has no meaning there.",
        "Write `\\\\` for a backslash.",
    ),
    ("hexdecimal", "An escape lacks its digits.", "Write `\\\\` for a backslash."),
    (
        "block sequence entries are not allowed",
        "There is a list entry `-` where no list can begin.",
        "Put it on a line of its own, below its key.",
    ),
    (
        "tab",
        "There is a tab in the indentation.",
        "Indent with spaces.",
    ),
    ("alias", "Text that begins with `*` or `&` must be in quotes.", "Put it in quotes."),
    ("anchor", "Text that begins with `*` or `&` must be in quotes.", "Put it in quotes."),
    ("tag", "Text that begins with `!` must be in quotes.", "Put it in quotes."),
    ("directive", "A line that begins with `%` is not understood.", "Put the text in quotes."),
    ("block scalar", "A text after `|` or `>` is not indented as it should be.", "Indent its lines alike."),
)


_UNQUOTED = re.compile(
    r"(?P<lead>\s*(?:- )*(?:[^\s:#'\"\[{][^:#]*:\s+|-\s+)?)(?P<text>[^\s#'\"].*?)(?P<tail>\s+#.*|\s*)"
)


def quoting(text: str, offset: int) -> tuple[int, int, str] | None:
    """Where the text of the line at ``offset`` begins and ends, and the same in quotes: what mends text that YAML
    takes for something else. None where the line has no such text."""
    start = text.rfind("\n", 0, offset) + 1
    end = text.find("\n", offset)
    whole = text[start : end if end >= 0 else len(text)].rstrip("\r")
    line = _UNQUOTED.fullmatch(whole) if len(whole) < 1_000 else None
    if line is None or "\\" in line["text"]:
        return None
    return start + line.start("text"), start + line.end("text"), write_scalar(line["text"])


def in_plain_words(problem: str, context: str, text: str, offset: int) -> tuple[str, str]:
    """A sentence of what is wrong and one of what to do, for the parser's own words.

    ``offset`` is where in ``text`` the parser stopped, in characters.
    """
    if "cannot start any token" in problem:
        character = text[offset : offset + 1]
        if character == "\t":
            return "There is a tab in the indentation.", "Indent with spaces."
        return f"Text cannot begin with `{character}`.", "Put the text in quotes."
    for needle, message, remedy in _SENTENCES:
        if needle in problem or needle in context:
            return message, remedy
    return "The text cannot be read as YAML from here on.", "Check the line above and the indentation here."
