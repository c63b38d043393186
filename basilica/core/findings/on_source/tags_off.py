"""Tags that do not belong together: elements that are not closed, and closing tags of none."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import islice

from basilica.core.findings.on_source.source_rule import SourceFault, SourceRule
from basilica.core.rules.rule import Level, Stage
from basilica.core.site_reader import Resolver
from basilica.core.site_reader.page_source import PageSource
from basilica.core.site_reader.tag_balance import unbalanced

_MOST = 20
"""Faults of a page that are listed; of more, only these."""


def run(page: PageSource, resolver: Resolver) -> Iterator[SourceFault]:
    """Every such tag, up to the first few."""
    if not page.file.lower().endswith(".xhtml"):
        found = unbalanced(page.data, page.pieces)
        yield from islice((SourceFault(tag.start, f"{page.file} has {words}.") for tag, words in found), _MOST)


RULE = SourceRule(
    code="tags-off",
    stage=Stage.EXISTING,
    level=Level.WARNING,
    title="A tag that is not closed, or was never opened",
    why="Browsers repair it in their own way, and what follows may end up in the wrong place.",
    standard="HTML, 13.1.2 Elements",
    remedy="Close the element where it ends, or remove the extra closing tag.",
    good="<div><b>Tides</b></div>",
    bad="<div><b>Tides</div></b>",
    run=run,
)
