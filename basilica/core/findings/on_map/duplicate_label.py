"""No two entries of a menu have the same label and lead to different pages."""

from __future__ import annotations

from collections.abc import Iterator

from basilica.core.findings.check import Check, Violation
from basilica.core.plan import MenuPlan, PlannedEntry
from basilica.core.rules.rule import Level, Stage
from basilica.core.site_reader import BuiltSite


def run(built: BuiltSite) -> Iterator[Violation]:
    """The labels of each menu, entry beside entry and under the same heading."""
    plan = built.plan
    if plan is None:
        return
    for menu in plan.menus.values():
        for first, second in _twins(menu):
            page = built.by_key.get(second.page) if second.page else None
            yield Violation(
                page,
                f"The menu `{menu.name}` has `{second.label[:60]}` twice, and the two lead to different places"
                f" ({_where(first)} and {_where(second)}).",
                at=second.at,
                part="menu-" + menu.name,
                key=second.page,
            )


def _twins(menu: MenuPlan) -> Iterator[tuple[PlannedEntry, PlannedEntry]]:
    met: dict[tuple[int | None, str], PlannedEntry] = {}
    for entry in menu.entries:
        if not entry.label or (entry.page is None and entry.url is None):
            continue
        first = met.setdefault((entry.parent, entry.label.casefold()), entry)
        if _where(first) != _where(entry):
            yield first, entry


def _where(entry: PlannedEntry) -> str:
    if entry.page is None:
        return f"`{(entry.url or '')[:60]}`"
    return f"`{entry.page}#{entry.fragment}`" if entry.fragment else f"`{entry.page}`"


CHECK = Check(
    code="duplicate-label",
    level=Level.WARNING,
    title="Two entries with the same label",
    why="Nobody can tell which leads where.",
    standard="WCAG 2.2, 2.4.4 Link Purpose (In Context)",
    remedy="Write another `label:` for one of them.",
    good="site: {name: Mill}\npages:\n  home: {path: /, title: Mill}\n"
    "  fees: Fees for visits\n  rent: Fees for the hall\n",
    bad="site: {name: Mill}\npages:\n  home: {path: /, title: Mill}\n  fees: Fees\n  rent: Fees\n",
    stage=Stage.MAP,
    run=run,
)
