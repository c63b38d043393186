"""Every page says its own title."""

from __future__ import annotations

from collections.abc import Iterator

from basilica.core.findings.check import Check, Violation
from basilica.core.rules.rule import Level, Stage
from basilica.core.site_reader import BuiltSite


def run(built: BuiltSite) -> Iterator[Violation]:
    """Pages whose title is made of their id."""
    if built.plan is None:
        return
    for key, page in built.plan.site.pages.items():
        if not page.own_title and "title" not in page.from_text and key in built.plan.routes:
            yield Violation(
                built.by_key.get(key),
                f"The page `{key}` has no title; `{page.title[:60]}` is made of its id.",
                f"Write `title:` at it, or `{page.id}: {page.title[:60]}` if that is what it is called.",
                key=key,
            )


CHECK = Check(
    code="title-missing",
    level=Level.ADVICE,
    title="A page whose title is made from its id",
    why="Ids lack capitals, accents and articles.",
    standard="WCAG 2.2, 2.4.2 Page Titled",
    remedy="Write `title:` for the page.",
    good="site: {name: Mill}\npages:\n  home: {path: /, title: The mill}\n  cafe: The mill's café\n",
    bad="site: {name: Mill}\npages:\n  home: {path: /, title: The mill}\n  cafe:\n",
    stage=Stage.MAP,
    run=run,
)
