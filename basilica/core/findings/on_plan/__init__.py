"""Plan → findings: what is wrong with what a plan works out. One module for each of its pieces, with its rules and a
function ``find``."""

from __future__ import annotations

from basilica.core.findings.on_plan import (
    address_findings,
    content_findings,
    head_findings,
    header_findings,
    html_findings,
    language_findings,
    menu_findings,
    part_findings,
    style_findings,
    template_findings,
)
from basilica.core.plan import Plan
from basilica.core.rules.finding import Finding, Findings
from basilica.core.rules.rule import Rule

_MADE = (
    address_findings,
    menu_findings,
    part_findings,
    html_findings,
    head_findings,
    header_findings,
    style_findings,
    template_findings,
    language_findings,
)

RULES: tuple[Rule, ...] = tuple(rule for module in (*_MADE, content_findings) for rule in module.RULES)


def plan_findings(plan: Plan) -> tuple[Finding, ...]:
    """Everything that is wrong with a plan."""
    findings = Findings()
    for piece in _MADE:
        piece.find(plan, findings)
    return findings.done()
