"""What a menu calls a page is like what the page calls itself."""

from __future__ import annotations

import re
from collections.abc import Iterator

from rapidfuzz import fuzz

from basilica.core.findings.check import Check, Violation
from basilica.core.rules.rule import Level, Stage
from basilica.core.site_reader import BuiltSite

_ALIKE = 75
"""Of 100: below this two texts have few letters in common in the same order."""


def run(built: BuiltSite) -> Iterator[Violation]:
    """Labels, of pages and of entries, held against the title of the page to which they lead."""
    plan = built.plan
    if plan is None:
        return
    for key, page in plan.site.pages.items():
        if page.own_label and key != plan.site.home and not similar(page.label, page.title):
            message = f"The page `{key}` is called `{page.label[:60]}` in menus and `{page.title[:60]}` on the page."
            yield Violation(built.by_key.get(key), message, key=key)
    for menu in plan.menus.values():
        for entry in menu.entries:
            if entry.page is None or entry.fragment is not None or entry.page == plan.site.home:
                continue
            page = plan.site.pages[entry.page]
            if (
                entry.label != page.label
                and not similar(entry.label, page.title)
                and not similar(entry.label, page.label)
            ):
                message = (
                    f"The menu `{menu.name}` calls the page `{page.key}` `{entry.label[:60]}`, and its title is"
                    f" `{page.title[:60]}`."
                )
                yield Violation(built.by_key.get(page.key), message, at=entry.at, key=page.key)


def similar(label: str, title: str) -> bool:
    """Whether somebody who follows a label knows the title again: they have the beginning of a word in common, or most
    letters."""
    ours, theirs = _beginnings(label), _beginnings(title)
    if ours & theirs or not ours or not theirs:
        return True
    return bool(fuzz.partial_ratio(label.casefold(), title.casefold()) >= _ALIKE)


def _beginnings(text: str) -> set[str]:
    """The first letters of each word that has some."""
    return {word[:4] for word in re.findall(r"\w+", text.casefold()) if len(word) > 2}


CHECK = Check(
    code="label-differs",
    level=Level.ADVICE,
    title="A label that does not match the page's title",
    why="People look for the words of the link on the page, to be sure that they are right.",
    standard="WCAG 2.2, 2.4.4 Link Purpose and 3.2.4 Consistent Identification",
    remedy="Use a piece of the title as the label, or begin the title with the label.",
    good="site: {name: Mill}\npages:\n  home: {path: /, title: Mill}\n  hours: {title: Opening hours, label: Hours}\n",
    bad="site: {name: Mill}\npages:\n  home: {path: /, title: Mill}\n"
    "  hours: {title: Opening hours, label: Visit us}\n",
    stage=Stage.MAP,
    run=run,
)
