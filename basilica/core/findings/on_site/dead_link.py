"""Every link leads somewhere."""

from __future__ import annotations

from collections.abc import Iterator

from basilica.core.findings.check import Check, Violation
from basilica.core.rules.rule import Level, Stage
from basilica.core.site_reader import BuiltPage, BuiltSite
from basilica.core.site_reader.built_page import LINKS, Region


def run(built: BuiltSite) -> Iterator[Violation]:
    """Each link of each page, followed as a browser does, within the site."""
    sound: set[tuple[Region, str]] = set()
    for page in (*built.pages, *built.beside):
        before = 0
        said: set[str] = set()
        for region in page.regions:
            shared = built.is_shared(page, region)
            key = built.shared_key(page, region)
            if not shared or key not in sound:
                lost = [n for n, target in enumerate(built.targets(page, region)) if target.lost is not None]
                if not lost and shared:
                    sound.add(key)
                for number in lost:
                    href = region.links[number].href
                    if href not in said:
                        said.add(href)
                        yield _violation(page, href, (LINKS, before + number))
            before += len(region.links)
        named = [*page.head.links, *([page.head.refresh] if page.head.refresh else [])]
        for href in named:
            if built.resolver.target(page.file, href).lost is not None and href not in said:
                said.add(href)
                yield _violation(page, href, None)


def _violation(page: BuiltPage, href: str, spot: tuple[str, int] | None) -> Violation:
    message = f"The link to `{href[:120]}` on {page.file} leads to no file of the site."
    return Violation(page, message, spot=spot, written=href)


CHECK = Check(
    code="dead-link",
    level=Level.ERROR,
    title="A link that leads nowhere",
    why="People who follow it get “not found”.",
    standard="WHATWG URL",
    remedy="Write `page:` and the page's key; the address is then worked out.",
    without_map="Fix the address, or remove the link.",
    good={"index.html": '<a href="visit/">Visit</a>', "visit/index.html": '<a href="../">Home</a>'},
    bad={"index.html": '<a href="visits/">Visit</a>', "visit/index.html": '<a href="../">Home</a>'},
    stage=Stage.ANY,
    run=run,
    of_redirects=True,
)
