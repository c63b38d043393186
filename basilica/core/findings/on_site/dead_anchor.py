"""Every anchor stands on the page to which a link jumps."""

from __future__ import annotations

from collections.abc import Iterator

from basilica.core.findings.check import Check, Violation
from basilica.core.rules.rule import Level, Stage
from basilica.core.site_reader import BuiltSite, Target
from basilica.core.site_reader.built_page import LINKS, Region


def run(built: BuiltSite) -> Iterator[Violation]:
    """Each link with a fragment, held against the anchors of the page to which it leads."""
    in_menus = _in_menus(built)
    said: set[tuple[str, str]] = set()
    sound: set[tuple[Region, str]] = set()
    for page in (*built.pages, *built.beside):
        before = 0
        for region in page.regions:
            targets = built.targets(page, region)
            shared, key = built.is_shared(page, region), built.shared_key(page, region)
            if not shared or key not in sound:
                lost = [n for n, target in enumerate(targets) if _is_lost(built, target)]
                if not lost and shared:
                    sound.add(key)
                for number in lost:
                    target = targets[number]
                    jump = target.file or "", target.fragment
                    if jump in in_menus and jump in said:
                        continue  # a menu stands on every page; what is wrong with it is said once, at its line
                    said.add(jump)
                    where = "in a menu" if jump in in_menus else f"on {page.file}"
                    href = region.links[number].href
                    yield Violation(
                        page,
                        f"The link to `{href[:120]}` {where} jumps to `{target.fragment[:80]}`, which is not on"
                        f" {target.file}.",
                        spot=(LINKS, before + number),
                        written=f"#{target.fragment}",
                        at=in_menus.get(jump),
                    )
            before += len(region.links)


def _is_lost(built: BuiltSite, target: Target) -> bool:
    if not target.fragment or target.fragment == "top" or target.file is None:
        return False
    there = built.by_file.get(target.file)
    return there is not None and target.fragment not in there.anchors


def _in_menus(built: BuiltSite) -> dict[tuple[str, str], int]:
    plan = built.plan
    if plan is None:
        return {}
    return {
        (plan.routes[entry.page].file, entry.fragment): entry.at
        for menu in plan.menus.values()
        for entry in menu.entries
        if entry.page is not None and entry.fragment is not None
    }


CHECK = Check(
    code="dead-anchor",
    level=Level.ERROR,
    title="An anchor that is not on the page",
    why="The browser stays at the top of the page, although the answer is somewhere below.",
    standard="HTML, navigating to a fragment",
    remedy="Give a heading or an element there that id, or fix the anchor.",
    good='<a href="#prices">Prices</a> <a href="#old">Old</a> <h2 id="prices">Prices</h2> <a name="old"></a>',
    bad='<a href="#price">Prices</a> <h2 id="prices">Prices</h2>',
    stage=Stage.ANY,
    run=run,
    of_redirects=True,
)
