"""Links to pages by key, as they stand in the source of a text: what of Markdown or HTML is an address, and what only
looks like one because it is code, a comment or plain words."""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping

from markdown_it.token import Token

from basilica.core.content.markup import address_spans
from basilica.core.map.site.references import References, rewritten
from basilica.core.shared.markdown_parser import parser

PAGE_LINK = re.compile(r"(?<![\w/-])page:([a-z0-9-]+(?:/[a-z0-9-]+)*)")

_MARKDOWN = parser()
_CODE = re.compile(r"(?<!`)(`+)(?!`).*?(?<!`)\1(?!`)|<!--.*?-->", re.DOTALL)
_DESTINATION = re.compile(r"""(?:\]\(\s*<?|<|(?:href|src|poster|action|data)\s*=\s*["']?|\]:\s*<?)$""", re.IGNORECASE)


def page_links(text: str, markup: str) -> Iterator[tuple[int, re.Match[str]]]:
    """The links to pages in a text of ``markup`` (`markdown` or `html`): each as a match of ``PAGE_LINK``, with its
    number among all that this pattern finds in the text, from 0."""
    if "page:" not in text:
        return
    spans = address_spans(text) if markup == "html" else list(_markdown_spans(text))
    for number, match in enumerate(PAGE_LINK.finditer(text)):
        if any(start <= match.start() < end for start, end in spans):
            yield number, match


def updated_links(
    text: str, markup: str, keys: Mapping[str, str], old: References, new: References, raw: str | None = None
) -> str:
    """Text in which links to pages whose key changed (``keys``: old to new) lead to them still.

    ``raw`` is the same text as it is written in a map, quoted or indented: then it is what is changed and given back.
    """
    better: dict[int, str] = {}
    for number, match in page_links(text, markup):
        found = old.find(match[1])
        target = keys.get(found[0]) if len(found) == 1 else None
        if target is not None:
            better[number] = f"page:{rewritten(match[1], target, new)}"
    numbers = iter(range(text.count("page:") + 1))
    written = text if raw is None else raw
    return PAGE_LINK.sub(lambda match: better.get(next(numbers, -1), match[0]), written) if better else written


def _markdown_spans(text: str) -> Iterator[tuple[int, int]]:
    """Where addresses of pages stand in Markdown: in its blocks of words, its definitions of links, and its HTML."""
    starts = [0]
    for line in text.splitlines(keepends=True):
        starts.append(starts[-1] + len(line))

    def offsets(token_map: list[int]) -> tuple[int, int]:
        return starts[min(token_map[0], len(starts) - 1)], starts[min(token_map[1], len(starts) - 1)]

    environment: dict[str, dict[str, dict[str, list[int]]]] = {}
    tokens: list[Token] = _MARKDOWN.parse(text, environment)
    blocks = [offsets(token.map) for token in tokens if token.type == "inline" and token.map]
    blocks += [offsets(known["map"]) for known in environment.get("references", {}).values()]
    for start, end in blocks:
        code = [match.span() for match in _CODE.finditer(text, start, end)]
        for match in PAGE_LINK.finditer(text, start, end):
            begins = match.start()
            if not any(a <= begins < b for a, b in code) and _DESTINATION.search(text, start, begins):
                yield match.span()
    for token in tokens:
        if token.type == "html_block" and token.map:
            start, end = offsets(token.map)
            yield from ((start + a, start + b) for a, b in address_spans(text[start:end]))
