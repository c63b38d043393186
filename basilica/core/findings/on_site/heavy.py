"""What every page brings along is light."""

from __future__ import annotations

from collections.abc import Iterator

from basilica.core.findings.check import Check, Violation
from basilica.core.rules.rule import Level, Stage
from basilica.core.site_reader import BuiltPage, BuiltSite

MOST = 100_000
"""Bytes of what a page shares with others, as it lies on the disk: its regions outside the content, and the style
sheets and scripts of the site that it loads. Compressed to about a seventh, that is what the first answer of a server
holds (RFC 6928: ten segments of 1,460 bytes)."""


def run(built: BuiltSite) -> Iterator[Violation]:
    """The weight of the shared parts of each page."""
    for page in built.pages:
        weight = weight_of(built, page)
        if weight > MOST:
            yield Violation(
                page,
                f"What {page.file} shares with other pages weighs {weight:,} bytes: menus, header and footer"
                f" {shared_of(page):,}, styles and scripts {weight - shared_of(page):,}.",
            )


def shared_of(page: BuiltPage) -> int:
    """Bytes of a page outside its content."""
    return sum(region.size for region in page.regions) + page.marks_size


def weight_of(built: BuiltSite, page: BuiltPage) -> int:
    """The same with the style sheets and scripts that it loads."""
    weight = shared_of(page)
    for load in page.head.loads:
        file = built.resolver.target(page.file, load.url).file
        if file is not None and file.endswith((".css", ".js", ".mjs")):
            weight += built.sizes.get(file, 0)
    return weight


CHECK = Check(
    code="heavy",
    level=Level.ADVICE,
    title="Shared parts that are large",
    why="Every page loads them, over every slow connection.",
    standard="RFC 6928, 2 (initial window); common practice",
    remedy="Use `auto: 1` for large menus, so that deep pages are listed where they belong and not on every page.",
    without_map="Let menus hold what is needed everywhere, and no more.",
    good={"index.html": '<!doctype html><html lang="en"><title>A</title><nav aria-label="Main"></nav><main></main>'},
    bad={
        "index.html": '<!doctype html><html lang="en"><title>A</title><link rel=stylesheet href=a.css><main></main>',
        "a.css": "/* " + "-" * MOST + " */",
    },
    stage=Stage.ANY,
    run=run,
)
