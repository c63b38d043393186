"""Files → findings: the built files are read again, every one, and held against the plan.

A check is one module with a ``CHECK``; its line in ``CHECKS`` is all that it needs besides.
"""

from __future__ import annotations

from collections.abc import Iterable

from basilica.core.checks import breadcrumbs, links, marks, menus, reach
from basilica.core.checks.built import BuiltSite, read_built
from basilica.core.checks.check import Check
from basilica.core.content import Contents
from basilica.core.findings import Finding, Findings
from basilica.core.outputs import File
from basilica.core.plan import Plan

CHECKS: tuple[Check, ...] = (links.CHECK, menus.CHECK, marks.CHECK, breadcrumbs.CHECK, reach.CHECK)


def prove(files: Iterable[File], plan: Plan, contents: Contents) -> tuple[Finding, ...]:
    """Read every built file again and run every check on what is there.

    ``files`` is what was written, such as the files of a folder; ``plan`` and ``contents`` say what should be.
    A finding points into the content file that brought it up, where there is one, and else at the page's line in
    the map.
    """
    return check_built(read_built(files, plan), contents)


def check_built(built: BuiltSite, contents: Contents) -> tuple[Finding, ...]:
    """Run every check on a built site that was read."""
    findings = Findings()
    for check in CHECKS:
        for off in check.run(built):
            place, name = ((1, 1), "") if findings.full else off.place(built.plan, contents)
            findings.add(off.code, place, off.message, off.remedy, file=name)
    return findings.done()
