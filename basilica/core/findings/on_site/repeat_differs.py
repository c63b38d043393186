"""A page is the same at its further addresses, and names its own."""

from __future__ import annotations

from collections.abc import Iterator

from basilica.core.findings.check import Check, Violation
from basilica.core.rules.rule import Level, Stage
from basilica.core.site_reader import BuiltPage, BuiltSite


def run(built: BuiltSite) -> Iterator[Violation]:
    """What the map serves at further addresses of pages, held against these pages."""
    plan = built.plan
    if plan is None:
        return
    repeats = {page.file: page for page in built.repeats}
    for further in plan.further:
        key, there = further.key, repeats.get(further.file)
        own = built.by_key.get(key) if key is not None else None
        if key is None or own is None or not further.file:
            continue
        if there is None:
            yield Violation(own, f"The page `{key}` is not at {further.path}: there is no file {further.file}.")
        elif there.head.canonical != own.head.canonical:
            yield Violation(there, f"{there.file} does not name {plan.path_of(key)} as its canonical address.", key=key)
        elif _said(built, there, own.file) != _said(built, own, own.file):
            yield Violation(there, f"{there.file} differs from {own.file}, of which it is a copy.", key=key)


def _said(built: BuiltSite, page: BuiltPage, own: str) -> tuple[object, ...]:
    """What a page says, and where its links lead; those to itself, to its ``own`` file."""
    words = tuple(
        (region.words, region.headings, region.ids, region.crumbs and len(region.crumbs)) for region in page.regions
    )
    targets = ((link.name, built.resolver.target(page.file, link.href)) for link in page.links())
    links = tuple((name, own if to.file == page.file else to.file, to.fragment, to.url) for name, to in targets)
    marks = tuple((nav.name, nav.marks) for nav in page.navs())
    return page.language, page.head.title, page.head.description, words, links, marks


CHECK = Check(
    code="repeat-differs",
    level=Level.ERROR,
    title="A further address with another page",
    why="Visitors and search engines must get one page at all its addresses, and its own address as the canonical one.",
    standard="RFC 6596, 3 The Canonical Link Relation",
    remedy="Build again.",
    good={"hours/index.html": '<link rel="canonical" href="https://saltern-reach.example/visit/hours/">'},
    bad={"hours/index.html": ""},
    stage=Stage.BUILT,
    run=run,
    applies=lambda built, page: page.file in built.repeat_files,
    of_redirects=True,
)
