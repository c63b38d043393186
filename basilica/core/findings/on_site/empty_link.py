"""Every link can be read out."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from basilica.core.findings.check import Check, Violation
from basilica.core.rules.rule import Level, Stage
from basilica.core.site_reader import BuiltPage, BuiltSite
from basilica.core.site_reader.built_page import LINKS, Link, Region


def run(built: BuiltSite) -> Iterator[Violation]:
    """The name of each link."""
    for page, number, link in links_that(built, lambda link: not link.name):
        message = f"The link to `{link.href[:80]}` on {page.file} has no words."
        yield Violation(page, message, spot=(LINKS, number), written=link.href)


def links_that(built: BuiltSite, holds: Callable[[Link], bool]) -> Iterator[tuple[BuiltPage, int, Link]]:
    """The links of which something holds, each with its page and the how-manieth it is there. What pages share is asked
    once, and told of each."""
    known: dict[int, list[int]] = {}

    def of(region: Region) -> list[int]:
        return [number for number, link in enumerate(region.links) if holds(link)]

    for page in built.pages:
        before = 0
        said = set()  # a link that stands on a page twice is told once
        for region in page.regions:
            if region.links:
                found = of(region) if region.in_main else known.get(id(region))
                if found is None:
                    found = known[id(region)] = of(region)
                for number in found:
                    link = region.links[number]
                    if (link.href, link.name) not in said:
                        said.add((link.href, link.name))
                        yield page, before + number, link
                before += len(region.links)


CHECK = Check(
    code="empty-link",
    level=Level.WARNING,
    title="A link without words",
    why="Who hears the page is told of a link, and not where it leads.",
    standard="WCAG 2.2, 2.4.4 Link Purpose (In Context)",
    remedy="Write words into it, or give its picture an `alt`.",
    good='<a href="#wheel"><img src="data:," alt="The wheel"></a> <p id="wheel">',
    bad='<a href="#wheel"><img src="data:," alt=""></a> <p id="wheel">',
    stage=Stage.ANY,
    run=run,
)
