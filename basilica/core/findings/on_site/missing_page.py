"""Every page of the map is there."""

from __future__ import annotations

from collections.abc import Iterator

from basilica.core.findings.check import Check, Violation
from basilica.core.rules.rule import Level, Stage
from basilica.core.site_reader import BuiltSite


def run(built: BuiltSite) -> Iterator[Violation]:
    """The pages that a build of the map writes, looked up among those that were read."""
    plan = built.plan
    if plan is None:
        return
    for key in plan.builds():
        if key not in built.by_key:
            yield Violation(None, f"The page `{key}` is not there: there is no file {plan.routes[key].file}.", key=key)


CHECK = Check(
    code="missing-page",
    level=Level.ERROR,
    title="A page of the map that was not built",
    why="Its address answers “not found”.",
    standard="RFC 9110, 15.5.5 404 Not Found",
    remedy="Build again.",
    good={"visit/index.html": "<h1>Plan your visit</h1>", "visit/hours/index.html": "<h1>Opening hours</h1>"},
    bad={"visit/index.html": "<h1>Plan your visit</h1>"},
    stage=Stage.BUILT,
    run=run,
)
