"""What a page has of its own beside its text: layout, slots, head, styles and scripts."""

from __future__ import annotations

import re
from collections.abc import Callable
from typing import Any

from basilica.core.language.sections.page_words import PAGE_EXTRA
from basilica.core.map.document import Node, Scalar
from basilica.core.map.site import site_rules
from basilica.core.map.site.checks_reader import read_silent
from basilica.core.map.site.field_reader import Context, text_of
from basilica.core.map.site.head_reader import FileNames, read_social
from basilica.core.map.site.part_reader import Names
from basilica.core.map.site.shared_values import PageExtras
from basilica.core.map.site.word_reader import WordReader

_WORDS = frozenset(word.name for word in PAGE_EXTRA)
_FIELDS = {"ignore": "ignored"}
"""What words are called in ``PageExtras``, where they are called otherwise."""
_PLAIN = WordReader((word for word in PAGE_EXTRA if word.name not in ("css", "js")), "options.extra.")
_INLINE = 20_000
"""Characters of style or script that is written out at a page."""
_ENDS = {"css": re.compile("</style", re.IGNORECASE), "js": re.compile("</script|<!--", re.IGNORECASE)}
"""What would end the element in which such a text stands, or keep it from ending."""


class ExtraReader:
    """Reads these words of one page after another."""

    def __init__(self, names: Names, files: FileNames, context: Context) -> None:
        self._names = names
        self._files = files
        self._context = context

    def read(self, keys: dict[str, tuple[Scalar, Node]], where: str) -> PageExtras:
        """What a page says of itself; ``where`` names it for the person."""
        if not any(word in _WORDS for word in keys):
            return PageExtras()
        context = self._context
        found: dict[str, Any] = {}
        read: dict[str, Callable[[Node, str], Any]] = {
            "layout": lambda node, _: self._names.layout(node, where),
            "slots": lambda node, _: self._names.slots(node, where),
            "without": self._names.of,
            "social": lambda node, _: read_social(node, where, self._files, context),
            "styles": lambda node, _: self._files.several(node, "style sheet"),
            "scripts": lambda node, _: self._files.several(node, "script"),
            "ignore": lambda node, what: read_silent(node, what, context),
            "css": lambda node, what: self._inline("css", node, what),
            "js": lambda node, what: self._inline("js", node, what),
        }
        for word, reader in read.items():
            if word in keys:
                found[_FIELDS.get(word, word)] = reader(keys[word][1], f"`{word}` of {where}")
        found |= _PLAIN.read(keys, context, where)
        return PageExtras(**found)

    def _inline(self, word: str, node: Node, what: str) -> str:
        text = text_of(node, what, self._context) or ""
        if len(text) > _INLINE:
            message = f"{what} has more than {_INLINE:,} characters."
            self._context.say(
                site_rules.TOO_LONG, node.start, message, "Make it a file, under `styles:` or `scripts:`."
            )
            return ""
        if _ENDS[word].search(text):
            message = f"{what} contains text that would end its element in the page."
            self._context.say(
                site_rules.BAD_VALUE, node.start, message, "Make it a file, under `styles:` or `scripts:`."
            )
            return ""
        return text
