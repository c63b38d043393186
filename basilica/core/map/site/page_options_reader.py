"""What a page has of its own beside its text: layout, slots, head, styles and scripts."""

from __future__ import annotations

import re
from typing import Any

from basilica.core.map.document import Node, Scalar
from basilica.core.map.schema.part_words import PAGE_EXTRA
from basilica.core.map.site import site_rules
from basilica.core.map.site.checks_reader import read_silent
from basilica.core.map.site.field_reader import Context, label_of, text_of, texts_of
from basilica.core.map.site.head_reader import FileNames, read_social
from basilica.core.map.site.part_reader import Names
from basilica.core.map.site.shared_values import PageExtras

_WORDS = frozenset(word.name for word in PAGE_EXTRA)
_CLASS = re.compile(r"-?[A-Za-z_][A-Za-z0-9_-]*( -?[A-Za-z_][A-Za-z0-9_-]*)*")
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
        for word in _WORDS:
            if word not in keys:
                continue
            node, what = keys[word][1], f"`{word}` of {where}"
            if word == "layout":
                found[word] = self._names.layout(node, where)
            elif word == "slots":
                found[word] = self._names.slots(node, where)
            elif word == "without":
                found[word] = self._names.of(node, what)
            elif word == "keywords":
                found[word] = label_of(node, what, context) or ""
            elif word == "social":
                found[word] = read_social(node, where, self._files, context)
            elif word in ("styles", "scripts"):
                found[word] = self._files.several(node, "style sheet" if word == "styles" else "script")
            elif word == "class":
                found["css_class"] = self._class(node, what)
            elif word == "ignore":
                found["ignored"] = read_silent(node, what, context)
            else:
                found[word] = self._inline(word, node, what)
        return PageExtras(**found)

    def _class(self, node: Node, what: str) -> str:
        names = " ".join(item.value.strip() for item in texts_of(node, what, self._context))
        if not names or _CLASS.fullmatch(names):
            return names
        message = f"{what} is `{names[:60]}`, which is no name of a class."
        self._context.say(site_rules.BAD_VALUE, node.start, message, "Use letters, digits and hyphens, such as `wide`.")
        return ""

    def _inline(self, word: str, node: Node, what: str) -> str:
        text = text_of(node, what, self._context) or ""
        if len(text) > _INLINE:
            message = f"{what} has more than {_INLINE:,} characters."
            self._context.say(
                site_rules.TOO_LONG, node.start, message, "Make it a file, under `styles:` or `scripts:`."
            )
            return ""
        if _ENDS[word].search(text):
            message = f"{what} holds what would end it where it stands in the page."
            self._context.say(
                site_rules.BAD_VALUE, node.start, message, "Make it a file, under `styles:` or `scripts:`."
            )
            return ""
        return text
