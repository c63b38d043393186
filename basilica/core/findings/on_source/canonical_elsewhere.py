"""The canonical address of a page is its own."""

from __future__ import annotations

from collections.abc import Iterator

from basilica.core.findings.on_source.source_rule import SourceFault, SourceRule
from basilica.core.rules.rule import Level, Stage
from basilica.core.site_reader import Resolver
from basilica.core.site_reader.page_source import PageSource

_HEAD = (
    '<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width">'
    "<title>{0}</title>{1}<main><h1>{0}</h1></main></html>"
)
_CANONICAL = '<link rel="canonical" href="https://mill.example/{}">'
_HOME = _HEAD.format("Mill", _CANONICAL.format(""))


def run(page: PageSource, resolver: Resolver) -> Iterator[SourceFault]:
    """Where the page says that it really is, if that is another page of the site."""
    for tag in page.tags:
        if tag.name != "link" or not tag.opens or "canonical" not in tag.attributes.get("rel", "").lower().split():
            continue
        href = tag.attributes.get("href", "").strip()
        target = resolver.target(page.file, href) if href else None
        if target is not None and target.file is not None and target.file != page.file:
            yield SourceFault(tag.start, f"{page.file} gives the address of {target.file} as its own.")


RULE = SourceRule(
    code="canonical-elsewhere",
    stage=Stage.EXISTING,
    level=Level.WARNING,
    title="A page that names another as its canonical address",
    why="Search engines list the other page instead. This often happens when a page is copied.",
    standard="RFC 6596 The Canonical Link Relation",
    remedy="Write the page's own address there, unless the two are meant to be one.",
    good={"index.html": _HOME, "tides.html": _HEAD.format("Tides", _CANONICAL.format("tides.html"))},
    bad={"index.html": _HOME, "tides.html": _HEAD.format("Tides", _CANONICAL.format(""))},
    run=run,
)
