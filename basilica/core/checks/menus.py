"""Every menu is the same on every page: labels, order, nesting and resolved targets."""

from __future__ import annotations

from collections.abc import Iterator

from basilica.core.checks.built import BuiltEntry, BuiltSite, Target
from basilica.core.checks.check import Check, Off
from basilica.core.plan import MenuPlan, PlannedEntry

Shape = tuple[tuple[str, tuple[str, str] | None, int], ...]
"""Label, target (file or address, and fragment) and depth of each entry, as one reads."""


def run(built: BuiltSite) -> Iterator[Off]:
    """What stands in each menu on each page, held against the plan."""
    for menu in built.plan.menus.values():
        if not menu.entries:
            continue
        planned = _planned(built, menu)
        in_texts = any(part.value("menu") == menu.name for part in built.plan.site.parts.values())
        for page in built.pages:
            wanted = planned if built.plan.menu_stands(menu, page.key) else ()
            found = _found(built, page.file, page.menus.get(menu.label, ()), 0)
            if in_texts and not wanted and found == planned:
                continue  # a part in the page's own text has it
            if found != wanted:
                yield Off(
                    "menu-differs",
                    page.key,
                    f"The menu `{menu.name}` on {page.file} {_difference(found, wanted)}.",
                    "Build again; where that does not help, something in the page's content breaks the menu.",
                )


def _planned(built: BuiltSite, menu: MenuPlan) -> Shape:
    def target(entry: PlannedEntry) -> tuple[str, str] | None:
        if entry.page is not None and entry.page in built.plan.routes:
            return built.plan.routes[entry.page].file, entry.fragment or ""
        return (entry.url, "") if entry.url else None

    return tuple(
        (" ".join(entry.label.split()), target(entry), len(menu.above(entry.number))) for entry in menu.entries
    )


def _found(built: BuiltSite, file: str, entries: tuple[BuiltEntry, ...], depth: int) -> Shape:
    shape: list[tuple[str, tuple[str, str] | None, int]] = []
    for entry in entries:
        target = None
        if entry.href is not None:
            reached: Target = built.resolver.target(file, entry.href)
            target = (entry.href, "") if reached.outside else (reached.file or "", reached.fragment)
        shape.append((entry.label, target, depth))
        if entry.items:
            shape.extend(_found(built, file, entry.items, depth + 1))
    return tuple(shape)


def _difference(found: Shape, wanted: Shape) -> str:
    if not found:
        return "is missing"
    for here, there in zip(found, wanted, strict=False):
        if here != there:
            return f"has `{here[0][:60]}` where `{there[0][:60]}` is expected, or it leads elsewhere"
    return f"has {len(found)} entries where {len(wanted)} are expected"


CHECK = Check(
    ("menu-differs",),
    "Menus are equal on every page",
    "One page with a stale menu stays stale until somebody stumbles over it.",
    "WCAG 2.2, 3.2.3 Consistent Navigation",
    run,
)
