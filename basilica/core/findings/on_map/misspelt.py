"""The words of the map are spelt as the site's language has them."""

from __future__ import annotations

from collections.abc import Iterator

from basilica.core.findings.check import Check, Violation
from basilica.core.findings.spelling import Speller
from basilica.core.plan import Plan
from basilica.core.rules.rule import COMMON, Level, Stage
from basilica.core.site_reader import BuiltSite

OFTEN = 3
"""A word that stands on so many pages is one of the site's own."""


def run(built: BuiltSite) -> Iterator[Violation]:
    """Titles, labels and descriptions as they stand in the map; those of tables are data."""
    plan = built.plan
    speller = Speller.of(plan.site.language, (*plan.site.checks.spelling, plan.site.name)) if plan is not None else None
    if plan is None or speller is None:
        return
    told: set[str] = set()
    texts = list(_texts(plan))
    often = speller.often((text for _, _, _, text in texts), OFTEN)
    for key, at, what, text in texts:
        for word, better in speller.misspellings(text):
            if word not in told and word.casefold() not in often:
                told.add(word)
                yield Violation(
                    built.by_key.get(key) if key else None,
                    f"`{word}` in {what} is in no word list of the language; `{better}` is.",
                    f"Write `{better}`, or add `{word}` at `spelling:` under `checks:` if it is the site's own.",
                    at=at,
                    key=key,
                )


def _texts(plan: Plan) -> Iterator[tuple[str | None, int, str, str]]:
    for key, page in plan.site.pages.items():
        if page.options.from_table:
            continue
        if page.own_title:
            yield key, page.at, f"the title of `{key}`", page.title
        if page.own_label:
            yield key, page.at, f"the label of `{key}`", page.label
        if page.description:
            yield key, page.at, f"the description of `{key}`", page.description
    for menu in plan.menus.values():
        for entry in menu.entries:
            if entry.page is None or entry.label != plan.site.pages[entry.page].label:
                yield entry.page, entry.at, f"the menu `{menu.name}`", entry.label


CHECK = Check(
    code="misspelt",
    level=Level.ADVICE,
    title="A word that is probably misspelt",
    why="It is on every page, and makes people doubt the rest.",
    standard=COMMON,
    remedy="Correct it, or add it to `spelling:` under `checks:` if it is the site's own.",
    good="site: {name: Mill, language: en}\npages:\n"
    "  home: {path: /, title: Mill}\n  hours: Opening hours and admission\n",
    bad="site: {name: Mill, language: en}\npages:\n"
    "  home: {path: /, title: Mill}\n  hours: Opening hours and admision\n",
    stage=Stage.MAP,
    run=run,
)
