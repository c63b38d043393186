"""Every menu is the same on every page: labels, order, nesting and resolved targets."""

from __future__ import annotations

from collections.abc import Iterator

from basilica.core.content.assets import built_path
from basilica.core.findings.check import Check, Violation, nav_named
from basilica.core.language.sections.part_words import MENU_PART
from basilica.core.plan import MenuPlan, PlannedEntry
from basilica.core.rules.rule import Level, Stage
from basilica.core.site_reader import BuiltSite
from basilica.core.site_reader.menu_shapes import Shape, difference


def run(built: BuiltSite) -> Iterator[Violation]:
    """What stands in each menu on each page, held against the plan."""
    plan = built.plan
    if plan is None:
        return
    for menu in plan.menus.values():
        if not menu.entries:
            continue
        planned = _planned(built, menu)
        in_texts = any(part.value("menu") == menu.name for part in plan.site.parts.values())
        for page in built.pages:
            wanted = planned if plan.shows_menu(menu, page.key) else ()
            nav = page.menus.get(menu.label)
            found = built.menu_shape(page, nav.menu if nav is not None else None)
            if found == wanted or (in_texts and not wanted and found == planned):
                continue  # or else a part in the page's own text has it
            yield Violation(
                page,
                f"The menu `{menu.name}` on {page.file} {difference(found, wanted)}.",
                spot=nav_named(menu.label) if found else None,
                part=MENU_PART + menu.name,
            )


def _planned(built: BuiltSite, menu: MenuPlan) -> Shape:
    plan = built.plan
    assert plan is not None

    def target(entry: PlannedEntry) -> tuple[str, str] | None:
        if entry.file:
            return built_path(entry.file, plan.site.files), ""
        if entry.page is not None and entry.page in plan.routes:
            return plan.routes[entry.page].file, entry.fragment or ""
        return (entry.url, "") if entry.url else None

    return tuple(
        (" ".join(entry.label.split()), target(entry), len(menu.above(entry.number))) for entry in menu.entries
    )


CHECK = Check(
    code="menu-differs",
    level=Level.ERROR,
    title="A menu that differs from page to page",
    why="A page with an old copy of the menu stays wrong until somebody notices.",
    standard="WCAG 2.2, 3.2.3 Consistent Navigation",
    remedy="Build again. If that does not help, something in the page's content breaks the menu.",
    good='<a href="/tides/">Tides</a>',
    bad='<a href="/tides/">Tide</a>',
    stage=Stage.BUILT,
    column="menus",
    run=run,
    applies=BuiltSite.has_menus,
)
