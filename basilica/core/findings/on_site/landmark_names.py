"""Landmarks of the same kind have names, and different ones."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator

from basilica.core.findings.check import Check, Violation
from basilica.core.rules.rule import Level, Stage
from basilica.core.site_reader import BuiltSite
from basilica.core.site_reader.built_page import Landmark

_TAGS = {"navigation": "nav", "complementary": "aside"}
_ONCE = {"banner": "header", "contentinfo": "footer"}
"""Those that a page has once."""


def run(built: BuiltSite) -> Iterator[Violation]:
    """The landmarks of each page, held against one another."""
    for page in built.pages:
        # The same links twice, as above and below a long page, are one thing and have one name.
        landmarks: list[tuple[str, str]] = []
        met: set[Landmark] = set()
        for one in page.landmarks():
            if not (one.name and one.links and one in met):
                landmarks.append((one.role, one.name))
            met.add(one)
        if len(set(landmarks)) == len(landmarks):
            roles = Counter(role for role, _ in landmarks)
            bare = [role for role, name in landmarks if not name and roles[role] > 1 and role in _TAGS]
            if not bare:
                continue
            yield Violation(
                page,
                f"On {page.file} a landmark `{_TAGS[bare[0]]}` has no name, beside others of its kind.",
                spot=(f"{_TAGS[bare[0]]}:not([aria-label]):not([aria-labelledby])", 0),
            )
            continue
        for (role, name), count in Counter(landmarks).items():
            if count > 1 and role != "main":
                tag = _TAGS.get(role) or _ONCE.get(role, f"[role={role}]")
                named = f"are called `{name[:60]}`" if name else "have no name"
                yield Violation(page, f"On {page.file} {count} landmarks of the kind `{role}` {named}.", spot=(tag, 1))


CHECK = Check(
    code="landmark-names",
    level=Level.WARNING,
    title="Landmarks that cannot be told apart",
    why="Screen readers list landmarks by name.",
    standard="WAI-ARIA APG, landmark regions",
    remedy="Give each its own `aria-label`; menus get theirs from `label:`.",
    without_map="Give each an `aria-label` of its own.",
    good='<nav aria-label="Tides"><a href="#a">A</a></nav> <nav aria-label="Mills"><a href="#b">B</a></nav>'
    ' <p id="a"><p id="b">',
    bad='<nav aria-label="Tides"><a href="#a">A</a></nav> <nav aria-label="Tides"><a href="#b">B</a></nav>'
    ' <p id="a"><p id="b">',
    stage=Stage.ANY,
    run=run,
)
