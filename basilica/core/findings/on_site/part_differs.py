"""What stands in the header and the footer beside menus is the same on every page."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator

from basilica.core.findings.check import Check, Violation
from basilica.core.rules.rule import COMMON, Level, Stage
from basilica.core.site_reader import BuiltPage, BuiltSite

MOST = 0.6
"""The share of pages that must have it alike, so that it is taken for the site's."""
_ROLES = {"banner": "header", "contentinfo": "footer"}


def run(built: BuiltSite) -> Iterator[Violation]:
    """The words of header and footer over all the pages that are arranged alike, in one language; and that they are
    there."""
    plan = built.plan
    groups: dict[tuple[str, str, object], list[tuple[BuiltPage, str]]] = {}
    for page in built.pages:
        arranged = plan.assignment_of(page.key) if plan is not None else None
        found = dict(_words(page))
        for role, words in found.items():
            groups.setdefault((role, page.plain_language, arranged), []).append((page, words))
        for role in ("header", "footer") if plan is not None else ():
            if role not in found and plan is not None and plan.shows(role, page.key):
                yield Violation(page, f"{page.file} has no {role}, and the map says that it has one.", part=role)
    for (role, _, _), pages in groups.items():
        (usual, count), *_ = Counter(words for _, words in pages).most_common(1)
        if len(pages) < 3 or count == len(pages) or count < MOST * len(pages):
            continue
        for page, words in pages:
            if words != usual:
                yield Violation(
                    page,
                    f"The {role} of {page.file} reads `{_piece(words, usual)}` where {count} other pages have"
                    f" `{_piece(usual, words)}`.",
                    spot=(role, 0),
                    part=role,
                )


def _words(page: BuiltPage) -> Iterator[tuple[str, str]]:
    for region in page.regions:
        for landmark in region.landmarks if not region.in_main else ():
            if landmark.role in _ROLES:
                yield _ROLES[landmark.role], region.words


def _piece(text: str, other: str) -> str:
    """Where one text begins to differ from another, a few words of it."""
    ours, theirs = text.split(), other.split()
    at = next((n for n, (a, b) in enumerate(zip(ours, theirs, strict=False)) if a != b), min(len(ours), len(theirs)))
    return " ".join(ours[at : at + 6])[:80] or "nothing more"


def _page(words: str) -> str:
    return f'<!doctype html><html lang="en"><title>A</title><main><h1>A</h1></main><footer><p>{words}</p></footer>'


CHECK = Check(
    code="part-differs",
    level=Level.WARNING,
    title="A header or a footer that differs from most pages",
    why="It was changed on the other pages, and not on this one.",
    standard=COMMON,
    remedy="Build again. If each page needs its own text there, use a slot.",
    without_map="Change it to match the other pages.",
    good={name: _page("Call 01632 960142") for name in ("index.html", "a.html", "b.html")},
    bad={
        **{name: _page("Call 01632 960142") for name in ("index.html", "a.html")},
        "b.html": _page("Call 01632 960999"),
    },
    stage=Stage.ANY,
    column="parts",
    run=run,
)
