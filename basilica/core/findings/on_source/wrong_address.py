"""Addresses that cannot work for anybody else: of the machine where they were written, misspelt, or empty."""

from __future__ import annotations

import re
from collections.abc import Iterator

from basilica.core.findings.on_source.source_rule import SourceFault, SourceRule
from basilica.core.rules.rule import Level, Stage
from basilica.core.site_reader import Resolver
from basilica.core.site_reader.page_source import PageSource

_ADDRESSES = ("href", "src", "action", "poster", "data", "background")
_LOCAL = re.compile(
    r"(?:https?:)?//(?:localhost|127(?:\.\d+){3}|0\.0\.0\.0|\[::1\])(?=[:/?#]|$)|file:|[a-z]:[\\/]|\\\\", re.IGNORECASE
)
_MISSPELT = re.compile(
    r"(?:h+t+p+s?|ht+ps?|htt+s?|hptts?|hhtps?|htps?|thtps?|ttps?)(?:[:;,.]?)(?=/|\\|$)"
    r"|https?(?:[;,.]|(?=//))(?!:)|https?:(?!//)(?=/|\\|www\.)|https?:///|mailto(?=//|;)|mail:|mialto:|tell:|phone:",
    re.IGNORECASE,
)
_RIGHT = re.compile(r"https?://(?!/)", re.IGNORECASE)


def run(page: PageSource, resolver: Resolver) -> Iterator[SourceFault]:
    """Every such address."""
    for tag in page.tags:
        for name in _ADDRESSES if tag.opens else ():
            if name not in tag.attributes or (name == "data" and tag.name != "object"):
                continue
            written = tag.attributes[name].strip()
            shown = written[:80]
            if _LOCAL.match(written):
                yield SourceFault(tag.start, f"`{shown}` on {page.file} leads to the machine on which it was written.")
            elif not _RIGHT.match(written) and _MISSPELT.match(written):
                yield SourceFault(tag.start, f"`{shown}` on {page.file} has no scheme that browsers know.")
            elif not written and name in ("href", "src") and tag.name not in ("base", "link"):
                yield SourceFault(tag.start, f"`<{tag.name}>` on {page.file} has an empty `{name}`: it leads nowhere.")


RULE = SourceRule(
    code="wrong-address",
    stage=Stage.EXISTING,
    level=Level.ERROR,
    title="An address that works for nobody else",
    why="It works only on the machine on which it was written, or not at all.",
    standard="RFC 8089 (`file:`); RFC 6761, 6.3 (`localhost`); RFC 3986, 3.1 Scheme",
    remedy="Link to the page or the file on this site, or write the full address of another site.",
    good='<a href="https://tides.example/">Tides</a>',
    bad='<a href="file:///C:/site/tides.html">Tides</a> <a href="htp://tides.example/">Tides</a>',
    run=run,
)
