"""The same page is called the same in every menu."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator

from basilica.core.findings.check import Check, Violation
from basilica.core.rules.rule import Level, Stage
from basilica.core.site_reader import BuiltPage, BuiltSite
from basilica.core.site_reader.built_page import BuiltMenu, all_of


def run(built: BuiltSite) -> Iterator[Violation]:
    """The labels of each target over the menus of all pages; what is rarer is off. A link to another language may have
    the name of that."""
    called: dict[str, Counter[str]] = {}
    where: dict[tuple[str, str], BuiltPage] = {}
    menus: dict[tuple[BuiltMenu, str], list[BuiltPage]] = {}
    for page in built.pages:
        for nav in page.menus.values():
            menus.setdefault((nav.menu, built.place_of(page, nav.menu)), []).append(page)
    for (menu, _), pages in menus.items():
        for entry in all_of(menu.entries):
            if entry.href is None or not entry.label:
                continue
            target = built.resolver.target(pages[0].file, entry.href)
            file = target.file
            if file is None or file not in built.by_file or built.is_in_another_language(pages[0], file):
                continue
            name = f"{file}#{target.fragment}" if target.fragment else file
            called.setdefault(name, Counter())[entry.label] += len(pages)
            where.setdefault((name, entry.label), pages[0])
    for name, labels in called.items():
        if len({label.casefold() for label in labels}) > 1:
            (usual, _), *others = labels.most_common()
            for label, _ in others:
                page = where[name, label]
                yield Violation(
                    page,
                    f"A menu on {page.file} calls {name} `{label[:60]}`; elsewhere it is called `{usual[:60]}`.",
                    written=label,
                )


_MENUS = (
    '<nav aria-label="A"><ul><li><a href="index.html">Tides</a></li></ul></nav>'
    '<nav aria-label="B"><ul><li><a href="index.html">%s</a></li></ul></nav>'
)

CHECK = Check(
    code="names-differ",
    level=Level.ADVICE,
    title="A page with different names in different menus",
    why="People look for the name under which they found the page.",
    standard="WCAG 2.2, 3.2.4 Consistent Identification",
    remedy="Remove `label:` from the entry, so that it uses the page's own.",
    without_map="Call the page by one name in all menus.",
    good={"index.html": _MENUS % "Tides"},
    bad={"index.html": _MENUS % "High water"},
    stage=Stage.ANY,
    run=run,
)
