"""Tags that do not belong together: elements that are not closed, and closing tags of none."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from itertools import islice

from basilica.core.findings.on_source.source_rule import SourceFault, SourceRule
from basilica.core.rules.rule import Level, Stage
from basilica.core.site_reader import Resolver
from basilica.core.site_reader.page_source import PageSource, Tag

_VOID = frozenset(
    "area base basefont bgsound br col embed frame hr img input keygen link meta param source track wbr".split()  # noqa: SIM905
)
_OPTIONAL = frozenset(
    "html head body p li dt dd rt rp option optgroup colgroup caption thead tbody tfoot tr td th".split()  # noqa: SIM905
)
"""Elements whose closing tag may be left out (HTML, 13.1.2.4)."""
_FOREIGN = ("svg", "math")
_MOST = 20
"""Faults of a page that are listed; of more, only these."""


def run(page: PageSource, resolver: Resolver) -> Iterator[SourceFault]:
    """Every such tag, up to the first few."""
    if not page.file.lower().endswith(".xhtml"):
        yield from islice(faults(page), _MOST)


def faults(page: PageSource) -> Iterator[SourceFault]:
    """Every such tag."""
    opened: list[Tag] = []
    counts: Counter[str] = Counter()
    closed_early: Counter[str] = Counter()
    foreign = 0
    for tag in page.tags:
        closes_itself = foreign and page.data[tag.end - 2 : tag.end] == b"/>"
        if tag.name in _VOID or (tag.opens and closes_itself):
            continue
        if tag.opens:
            foreign += tag.name in _FOREIGN
            opened.append(tag)
            counts[tag.name] += 1
        elif counts[tag.name]:
            while (last := opened.pop()).name != tag.name:
                counts[last.name] -= 1
                closed_early[last.name] += 1
                foreign -= last.name in _FOREIGN
                if last.name not in _OPTIONAL:
                    yield SourceFault(last.start, f"{page.file} has `<{last.name}>`, still open at `</{tag.name}>`.")
            counts[tag.name] -= 1
            foreign -= tag.name in _FOREIGN
        elif closed_early[tag.name]:
            closed_early[tag.name] -= 1  # what closed it early is the fault
        elif tag.name not in _OPTIONAL or tag.name == "p":
            yield SourceFault(tag.start, f"{page.file} has `</{tag.name}>`, and no `<{tag.name}>` is open there.")
    for left in opened:
        if left.name not in _OPTIONAL:
            yield SourceFault(left.start, f"{page.file} has `<{left.name}>`, which is never closed.")


RULE = SourceRule(
    code="tags-off",
    stage=Stage.EXISTING,
    level=Level.WARNING,
    title="A tag that is not closed, or not open",
    why="Browsers mend it, and what stands behind it may end up somewhere else than it was meant to.",
    standard="HTML, 13.1.2 Elements",
    remedy="Close the element where it ends, or take out the closing tag that is too many.",
    good="<div><b>Tides</b></div>",
    bad="<div><b>Tides</div></b>",
    run=run,
)
