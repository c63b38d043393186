"""Fixes of findings, put into the texts that they are about."""

from __future__ import annotations

from collections.abc import Collection, Iterable

from basilica.core.map.document import Lines
from basilica.core.map.site import site_rules
from basilica.core.rules.finding import Finding, Fix
from basilica.core.rules.rule import Rule

WORDS = (site_rules.OLD_WORD, site_rules.OTHER_WORD)
"""The rules whose fixes write words of the map language, and leave no choice."""


def fixes_by_file(findings: Iterable[Finding], rules: Collection[Rule] = WORDS) -> dict[str, list[Fix]]:
    """The fixes of the findings of some rules, by the name of the file that each changes (empty: the map itself)."""
    found: dict[str, list[Fix]] = {}
    for finding in findings:
        if finding.rule in rules and finding.fix is not None:
            found.setdefault(finding.file, []).append(finding.fix)
    return found


def with_fixes(text: str, fixes: Iterable[Fix]) -> str:
    """A text with fixes put in, from its end to its beginning; of two that meet the later one is left out."""
    starts = Lines.of(text).starts
    upto = len(text)
    for fix in sorted(fixes, key=lambda each: each.start, reverse=True):
        start, end = (starts[place.line - 1] + place.column - 1 for place in (fix.start, fix.end))
        if start <= end <= upto:
            text, upto = text[:start] + fix.text + text[end:], start
    return text
