"""What a template or an editor has left behind, and people can read."""

from __future__ import annotations

import re
from collections.abc import Iterator

from basilica.core.findings.on_source.source_rule import SourceFault, SourceRule
from basilica.core.rules.rule import Level, Stage
from basilica.core.site_reader import Resolver
from basilica.core.site_reader.page_source import PageSource

_LEFT = re.compile(
    r"\{\{[^{}\n]{0,80}\}\}|\{%[^%\n]{0,80}%\}|<%[^%]{0,80}%>|\$\{[\w.]{1,60}\}|\[\[[\w .]{1,60}\]\]|%%[A-Z_]{2,40}%%"
    r"|\bLorem ipsum\b|<\?php\b|\bTODO:|\[(?:insert|your) [^\]\n]{0,40}\]",
    re.IGNORECASE,
)
_CODE = ("code", "pre", "samp", "kbd", "tt", "textarea", "script", "style")


def run(page: PageSource, resolver: Resolver) -> Iterator[SourceFault]:
    """Every piece of this kind in what is read, in addresses, and in code that a server was to run; not in code that is
    shown."""
    shown: list[str] = []
    spans = list(page.texts())
    number = 0
    for tag in [*page.tags, None]:
        end = tag.start if tag is not None else len(page.data)
        while number < len(spans) and spans[number][0] < end:
            if not shown:
                yield from _in_text(page, *spans[number])
            number += 1
        if tag is None:
            break
        if tag.name in _CODE:
            shown = [*shown, tag.name] if tag.opens else shown[:-1]
        for name in ("href", "src", "alt", "title", "content"):
            found = _LEFT.search(tag.attributes.get(name, ""))
            if found and not shown:
                yield SourceFault(tag.start, f"`{found[0][:60]}` was left in `{name}` on {page.file}.")
    for piece in page.pieces:
        written = page.data[piece.start : piece.end]
        if piece.kind == "other" and re.match(rb"<\?(?!xml)|<%", written, re.IGNORECASE):
            words = page.text(piece.start, min(piece.end, piece.start + 60)).split("\n")[0]
            yield SourceFault(piece.start, f"`{words}` was left on {page.file}: no server has run it.")


def _in_text(page: PageSource, start: int, end: int) -> Iterator[SourceFault]:
    for found in _LEFT.finditer(page.text(start, end)):
        at = start + len(page.text(start, end)[: found.start()].encode(page.encoding, "replace"))
        yield SourceFault(at, f"`{found[0][:60]}` was left in the text of {page.file}.")


RULE = SourceRule(
    code="left-over",
    stage=Stage.EXISTING,
    level=Level.WARNING,
    title="A leftover of a template",
    why="Readers and search engines see it.",
    remedy="Write the text that belongs there.",
    good="<p>Tides</p> <pre>{{ title }}</pre>",
    bad="<p>{{ title }}</p>",
    run=run,
)
