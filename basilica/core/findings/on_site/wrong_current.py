"""The current-page marks say where one is."""

from __future__ import annotations

from collections.abc import Iterator

from basilica.core.findings.check import Check, Violation, nav_named
from basilica.core.language.sections.part_words import MENU_PART
from basilica.core.own_templates import templates_of
from basilica.core.plan import MenuPlan
from basilica.core.rules.rule import Level, Stage
from basilica.core.site_reader import BuiltPage, BuiltSite
from basilica.core.site_reader.built_page import Marks


def run(built: BuiltSite) -> Iterator[Violation]:
    """The mark in each menu of each page, held against the plan."""
    plan = built.plan
    if plan is None:
        return
    own = templates_of(plan.site.files)  # a template of one's own may say in its own way what holds the current entry
    for menu in plan.menus.values():
        if not menu.entries:
            continue  # nothing of it stands on pages
        for page in built.pages:
            nav = page.menus.get(menu.label)
            found = nav.marks if nav is not None else Marks()
            wanted = _wanted(built, page, menu) if nav is not None else Marks()
            if found.current != wanted.current or (found.path != wanted.path and "menu" not in own):
                yield Violation(
                    page,
                    f"The menu `{menu.name}` on {page.file} {_said(found, menu)} where the map says that it "
                    f"{_said(wanted, menu)}.",
                    spot=nav_named(menu.label),
                    part=MENU_PART + menu.name,
                )


def _wanted(built: BuiltSite, page: BuiltPage, menu: MenuPlan) -> Marks:
    mark = menu.mark(built.plan.site, page.key) if built.plan is not None and page.key is not None else None
    return Marks(tuple((number, mark.current) for number in mark.entries), mark.path) if mark else Marks()


def _said(marks: Marks, menu: MenuPlan) -> str:
    current, path = marks
    if not current:
        return "marks no entry as current"
    names = [
        f"`{menu.entries[number].label[:40]}` ({current})" for number, current in current if number < len(menu.entries)
    ]
    above = f", below {len(path)} {'entry' if len(path) == 1 else 'entries'}" if path else ""
    return "marks " + " and ".join(names) + above


CHECK = Check(
    code="wrong-current",
    level=Level.ERROR,
    title="A wrong mark of the current page",
    why="The mark tells people where they are, also in screen readers.",
    standard="WAI-ARIA 1.2, aria-current",
    remedy="Build again. If that does not help, something in the page's content breaks the menu.",
    good='<a href="/visit/hours/" aria-current="page">',
    bad='<a href="/visit/hours/">',
    stage=Stage.BUILT,
    column="menus",
    run=run,
    applies=BuiltSite.has_menus,
)
