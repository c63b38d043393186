"""Without a map: a page marks itself, once, and no other."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import islice

from basilica.core.findings.check import Check, Violation, nav_named
from basilica.core.rules.rule import Level, Stage
from basilica.core.site_reader import BuiltPage, BuiltSite
from basilica.core.site_reader.built_page import Nav, all_of

_VALUES = frozenset(["page", "step", "location", "date", "time", "true", "false"])


def run(built: BuiltSite) -> Iterator[Violation]:
    """What each menu of each page marks as current."""
    if built.plan is not None:
        return  # the map knows better
    for page in built.pages:
        for name, nav in page.menus.items():
            if nav.marks.current and (wrong := _wrong(built, page, nav)):
                yield Violation(page, f"The menu `{name[:60]}` on {page.file} {wrong}.", spot=nav_named(name))


def _wrong(built: BuiltSite, page: BuiltPage, nav: Nav) -> str:
    for _, value in nav.marks.current:
        if value not in _VALUES:
            return f'has `aria-current="{value[:40]}"`, which means nothing'
    here = [number for number, value in nav.marks.current if value == "page"]
    if len(here) > 1:
        return f"marks {len(here)} entries as this page"
    entry = next(islice(all_of(nav.menu.entries), here[0], None)) if here else None
    if entry is not None and entry.href is not None and built.resolver.target(page.file, entry.href).file != page.file:
        return f"marks `{entry.label[:60]}` as this page, which leads elsewhere"
    return ""


def _page(mark: str) -> str:
    return (
        '<nav aria-label="Main"><ul><li><a href="index.html" aria-current="page">Home</a></li>'
        f'<li><a href="#a"{mark}>Tides</a></li></ul></nav><p id="a">'
    )


CHECK = Check(
    code="conflicting-current",
    level=Level.WARNING,
    title="A mark of the wrong page as current",
    why="The mark was copied along with the menu.",
    standard="WAI-ARIA 1.2, aria-current",
    remedy="Mark only the entry of the page itself.",
    good={"index.html": _page("")},
    bad={"index.html": _page(' aria-current="page"')},
    stage=Stage.ANY,
    column="unmapped",
    run=run,
)
