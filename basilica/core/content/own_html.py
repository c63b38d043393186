"""The HTML that stands in a text, at its places in it."""

from __future__ import annotations

import re

from basilica.core.shared.markdown import Content
from basilica.core.shared.markdown_parser import parser

_MARKDOWN = parser()
_TAG = re.compile(r"</?[A-Za-z]")


def own_html(content: Content) -> str:
    """A text in which all that is no HTML is blank, so that every tag has its line and column: of Markdown what its
    tags are, and of HTML everything. Empty where there is none."""
    text = content.text
    if not _TAG.search(text):
        return ""
    if content.name.endswith(".html"):
        return text
    lines = text.split("\n")
    starts = [0]
    for line in lines:
        starts.append(starts[-1] + len(line) + 1)
    found = [" " if character != "\n" else "\n" for character in text]

    def show(start: int, end: int) -> None:
        found[start:end] = text[start:end]

    for token in _MARKDOWN.parse(text, {}):
        if token.map is None:
            continue
        start, end = starts[token.map[0]], min(starts[token.map[1]], len(text))
        if token.type == "html_block":
            show(start, end)
        for child in token.children or ():
            at = text.find(child.content, start, end) if child.type == "html_inline" else -1
            if at >= 0:
                show(at, at + len(child.content))
                start = at + len(child.content)
    shown = "".join(found)
    return shown if _TAG.search(shown) else ""
