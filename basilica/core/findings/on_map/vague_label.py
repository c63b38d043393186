"""The labels of menus say where they lead."""

from __future__ import annotations

from collections.abc import Iterator

from basilica.core.findings.check import Check, Violation
from basilica.core.findings.vague_words import is_vague
from basilica.core.rules.rule import Level, Stage
from basilica.core.site_reader import BuiltSite


def run(built: BuiltSite) -> Iterator[Violation]:
    """The labels of pages and of every entry."""
    plan = built.plan
    if plan is None:
        return
    for key, page in plan.site.pages.items():
        if is_vague(page.label):
            yield Violation(built.by_key.get(key), f"The page `{key}` is called only `{page.label}`.", key=key)
    for menu in plan.menus.values():
        for entry in menu.entries:
            own = entry.page is not None and entry.label == plan.site.pages[entry.page].label
            if is_vague(entry.label) and not own:
                message = f"An entry of the menu `{menu.name}` says only `{entry.label}`."
                there = built.by_key.get(entry.page) if entry.page else None
                yield Violation(there, message, at=entry.at, part="menu-" + menu.name, key=entry.page)


CHECK = Check(
    code="vague-label",
    level=Level.WARNING,
    title="A label that does not say where it leads",
    why="People search menus for something; this entry does not tell them what is there.",
    standard="WCAG 2.2, 2.4.4 Link Purpose (In Context)",
    remedy="Name what is there.",
    good="site: {name: Mill}\npages:\n  home: {path: /, title: Mill}\n  hours: Opening hours\n",
    bad="site: {name: Mill}\npages:\n  home: {path: /, title: Mill}\n"
    "  hours: {title: Opening hours, label: Click here}\n",
    stage=Stage.MAP,
    run=run,
)
