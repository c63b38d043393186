"""Without a map: a page marks itself, once, and no other."""

from __future__ import annotations

from collections.abc import Iterator

from basilica.core.findings.check import Check, Violation, nav_named
from basilica.core.rules.rule import Level, Stage
from basilica.core.site_reader import BuiltEntry, BuiltPage, BuiltSite
from basilica.core.site_reader.built_page import all_of

_VALUES = frozenset(["page", "step", "location", "date", "time", "true", "false"])


def run(built: BuiltSite) -> Iterator[Violation]:
    """What each menu of each page marks as current."""
    if built.plan is not None:
        return  # the map knows better
    for page in built.pages:
        for name, entries in page.menus.items():
            if wrong := _wrong(built, page, [entry for entry in all_of(entries) if entry.current is not None]):
                yield Violation(page, f"The menu `{name[:60]}` on {page.file} {wrong}.", spot=nav_named(name))


def _wrong(built: BuiltSite, page: BuiltPage, current: list[BuiltEntry]) -> str:
    for entry in current:
        if entry.current not in _VALUES:
            return f'has `aria-current="{(entry.current or "")[:40]}"`, which means nothing'
    here = [entry for entry in current if entry.current == "page"]
    if len(here) > 1:
        return f"marks {len(here)} entries as this page"
    if here and here[0].href is not None and built.resolver.target(page.file, here[0].href).file != page.file:
        return f"marks `{here[0].label[:60]}` as this page, which leads elsewhere"
    return ""


def _page(mark: str) -> str:
    return (
        '<nav aria-label="Main"><ul><li><a href="index.html" aria-current="page">Home</a></li>'
        f'<li><a href="#a"{mark}>Tides</a></li></ul></nav><p id="a">'
    )


CHECK = Check(
    code="conflicting-current",
    level=Level.WARNING,
    title="A mark that says one is somewhere else",
    why="The mark was copied along with the menu, and never moved.",
    standard="WAI-ARIA 1.2, aria-current",
    remedy="Mark the entry of the page itself, and no other.",
    good={"index.html": _page("")},
    bad={"index.html": _page(' aria-current="page"')},
    stage=Stage.ANY,
    column="unmapped",
    run=run,
)
