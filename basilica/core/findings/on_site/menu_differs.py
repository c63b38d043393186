"""Every menu is the same on every page: labels, order, nesting and resolved targets."""

from __future__ import annotations

from collections.abc import Iterator

from basilica.core.findings.check import Check, Violation
from basilica.core.map.schema.part_words import MENU_PART
from basilica.core.plan import MenuPlan, PlannedEntry
from basilica.core.rules.rule import Level, Stage
from basilica.core.site_reader import BuiltEntry, BuiltPage, BuiltSite

Shape = tuple[tuple[str, tuple[str, str] | None, int], ...]
"""Label, target (file or address, and fragment) and depth of each entry, as one reads."""


def run(built: BuiltSite) -> Iterator[Violation]:
    """What stands in each menu on each page, held against the plan."""
    plan = built.plan
    if plan is None:
        return
    shapes = Shapes(built)
    for menu in plan.menus.values():
        if not menu.entries:
            continue
        planned = _planned(built, menu)
        in_texts = any(part.value("menu") == menu.name for part in plan.site.parts.values())
        for page in built.pages:
            wanted = planned if plan.shows_menu(menu, page.key) else ()
            found = shapes.of(page, page.menus.get(menu.label, ()))
            if found == wanted or (in_texts and not wanted and found == planned):
                continue  # or else a part in the page's own text has it
            yield Violation(
                page,
                f"The menu `{menu.name}` on {page.file} {difference(found, wanted)}.",
                spot=nav_named(menu.label) if found else None,
                part=MENU_PART + menu.name,
            )


class Shapes:
    """The shapes of menus, each worked out once for all the pages that share its HTML."""

    def __init__(self, built: BuiltSite) -> None:
        self._built = built
        self._known: dict[tuple[int, str], Shape] = {}

    def of(self, page: BuiltPage, entries: tuple[BuiltEntry, ...]) -> Shape:
        """The shape of some entries, as page ``page`` has them."""
        if not entries:
            return ()
        place = (id(entries), self._built.place_of(page, entries))
        known = self._known.get(place)
        if known is None:
            known = self._known[place] = tuple(self._found(page.file, entries, 0))
        return known

    def _found(
        self, file: str, entries: tuple[BuiltEntry, ...], depth: int
    ) -> Iterator[tuple[str, tuple[str, str] | None, int]]:
        for entry in entries:
            target = None
            if entry.href is not None:
                reached = self._built.resolver.target(file, entry.href)
                target = (entry.href, "") if reached.outside else (reached.file or "", reached.fragment)
            yield entry.label, target, depth
            if entry.items:
                yield from self._found(file, entry.items, depth + 1)


def _planned(built: BuiltSite, menu: MenuPlan) -> Shape:
    plan = built.plan
    assert plan is not None

    def target(entry: PlannedEntry) -> tuple[str, str] | None:
        if entry.page is not None and entry.page in plan.routes:
            return plan.routes[entry.page].file, entry.fragment or ""
        return (entry.url, "") if entry.url else None

    return tuple(
        (" ".join(entry.label.split()), target(entry), len(menu.above(entry.number))) for entry in menu.entries
    )


def nav_named(name: str) -> tuple[str, int]:
    """Where the navigation of a name stands in a page: a CSS selector, and the first that it meets."""
    escaped = name.replace("\\", "\\\\").replace('"', '\\"')
    return f'nav[aria-label="{escaped}"]', 0


def difference(found: Shape, wanted: Shape) -> str:
    """What sets one shape apart from another, in words."""
    if not found:
        return "is missing"
    if not wanted:
        return "stands where it should not"
    for here, there in zip(found, wanted, strict=False):
        if here != there:
            return f"has `{here[0][:60]}` where `{there[0][:60]}` is expected, or it leads elsewhere"
    return f"has {len(found)} entries where {len(wanted)} are expected"


def _applies(built: BuiltSite, page: BuiltPage) -> bool:
    plan = built.plan
    return plan is not None and any(menu.entries and plan.shows_menu(menu, page.key) for menu in plan.menus.values())


CHECK = Check(
    code="menu-differs",
    level=Level.ERROR,
    title="A menu that differs from page to page",
    why="A site has one menu. One page with a stale copy stays stale until somebody stumbles over it.",
    standard="WCAG 2.2, 3.2.3 Consistent Navigation",
    remedy="Build again; where that does not help, something in the page's content breaks the menu.",
    good='<a href="/tides/">Tides</a>',
    bad='<a href="/tides/">Tide</a>',
    stage=Stage.BUILT,
    run=run,
    applies=_applies,
)
