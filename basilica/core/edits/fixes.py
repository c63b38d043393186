"""Fixes of findings, put into the texts that they are about."""

from __future__ import annotations

from collections.abc import Iterable

from basilica.core.map.document import Lines
from basilica.core.map.site import site_rules
from basilica.core.rules.finding import Finding, Fix
from basilica.core.rules.rule import Rule


def fixes_by_file(findings: Iterable[Finding], rule: Rule = site_rules.OLD_WORD) -> dict[str, list[Fix]]:
    """The fixes of the findings of one rule, by the name of the file that each changes (empty: the map itself)."""
    found: dict[str, list[Fix]] = {}
    for finding in findings:
        if finding.rule is rule and finding.fix is not None:
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
