"""Without a map: a menu that most pages have alike, and some have otherwise."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator

from basilica.core.findings.check import Check, Violation, nav_named
from basilica.core.rules.rule import Level, Stage
from basilica.core.site_reader import BuiltPage, BuiltSite
from basilica.core.site_reader.menu_shapes import Shape, difference

MOST = 0.6
"""The share of the pages with a menu that must have it alike, so that it is taken for the site's."""


def run(built: BuiltSite) -> Iterator[Violation]:
    """Each menu, by its name or else its place among those without one, over all pages in one language; without what
    leads to others."""
    if built.plan is not None:
        return  # the map knows better
    found: dict[tuple[str, str, int], list[tuple[BuiltPage, Shape]]] = {}
    for page in built.pages:
        bare = 0
        for nav in page.navs(in_main=False):
            bare += not nav.name
            shape = tuple(
                entry
                for entry in built.menu_shape(page, nav.menu)
                if entry[1] is None or not built.is_in_another_language(page, entry[1][0])
            )
            found.setdefault((page.plain_language, nav.name, 0 if nav.name else bare), []).append((page, shape))
    for (_, name, number), menus in found.items():
        (usual, count), *_ = Counter(shape for _, shape in menus).most_common(1)
        if len(menus) < 3 or count == len(menus) or count < MOST * len(menus):
            continue
        called = f"menu `{name[:60]}`" if name else f"menu number {number} without a name"
        for page, shape in menus:
            if shape != usual:
                message = f"The {called} on {page.file} {difference(shape, usual)}"
                yield Violation(
                    page,
                    f"{message}; {count} of {len(menus)} pages have it alike.",
                    spot=nav_named(name) if name else ("nav:not([aria-label])", number - 1),
                )


def _page(label: str) -> str:
    return (
        '<!doctype html><html lang="en"><title>A</title><nav aria-label="Main"><ul><li><a href="index.html">Home</a>'
        f'</li><li><a href="a.html">{label}</a></li></ul></nav><main><h1>A</h1></main>'
    )


CHECK = Check(
    code="stale-menu",
    level=Level.WARNING,
    title="A menu that differs from most pages",
    why="It was changed on the other pages and not on this one, or only on this one.",
    standard="WCAG 2.2, 3.2.3 Consistent Navigation",
    remedy="Copy the menu of the other pages, or make all of them from one map.",
    good={"index.html": _page("Tides"), "a.html": _page("Tides"), "b.html": _page("Tides")},
    bad={"index.html": _page("Tides"), "a.html": _page("Tides"), "b.html": _page("Tide table")},
    stage=Stage.ANY,
    column="unmapped",
    run=run,
)
