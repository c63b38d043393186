"""The breadcrumbs that search engines read are those that people see."""

from __future__ import annotations

from collections.abc import Iterator

from basilica.core.findings.check import Check, Violation
from basilica.core.rules.rule import Level, Stage
from basilica.core.site_reader import BuiltPage, BuiltSite


def run(built: BuiltSite) -> Iterator[Violation]:
    """Names, order and addresses of the data of each page, held against its visible breadcrumbs."""
    for page in built.pages:
        seen, data = page.breadcrumbs, page.data
        if not seen and not data:
            continue
        if not data and built.plan is None:
            continue  # a site need not have the data
        if wrong := _wrong(built, page):
            yield Violation(page, f"The breadcrumbs in the data of {page.file} {wrong}.", part="breadcrumbs")


def _wrong(built: BuiltSite, page: BuiltPage) -> str:
    seen, data = page.breadcrumbs, page.data
    if built.plan is not None and page.key is not None:
        # What is seen may leave out home, or the page itself; the data has the whole way.
        trail = built.plan.breadcrumbs(page.key)
        names = [" ".join(level.label.split()) for level in trail]
    else:
        names = [text for text, _, _ in seen]
    if [" ".join(str(name).split()) for _, name, _ in data] != names:
        return "have other names than those on the page"
    if [position for position, _, _ in data] != list(range(1, len(data) + 1)):
        return "are not numbered from 1"
    files = built.breadcrumb_targets(page)
    for (_, _, item), file in zip(data, files, strict=False):
        if item is not None and file is not None and built.resolver.target(page.file, item).file != file:
            return f"lead to `{item[:120]}`, where the page leads elsewhere"
    return ""


_PAGE = (
    '<!doctype html><html lang="en"><head><title>Visit</title><script type="application/ld+json">{"@type":'
    '"BreadcrumbList","itemListElement":[{"@type":"ListItem","position":1,"name":"%s","item":"visit.html"}]}</script>'
    '</head><body><nav aria-label="Breadcrumb"><ol><li><a href="visit.html">Visit</a></li></ol></nav><main></main>'
)

CHECK = Check(
    code="breadcrumb-data",
    level=Level.ERROR,
    title="Breadcrumbs that differ from the page's structured data",
    why="Search results show the data, and people expect the page to match.",
    standard="schema.org, BreadcrumbList",
    remedy="Build again. If that does not help, something else writes this data.",
    without_map="Make the data say what the breadcrumbs on the page say.",
    good={"visit.html": _PAGE % "Visit"},
    bad={"visit.html": _PAGE % "Visits"},
    stage=Stage.ANY,
    column="breadcrumbs",
    run=run,
    applies=BuiltSite.has_breadcrumbs,
)
