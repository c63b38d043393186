"""Plan → findings: what is wrong with what a plan works out. One module for each of its pieces, with its rules and a
function ``find``."""

from __future__ import annotations

from basilica.core.findings.on_plan import contents, headers, menus, parts
from basilica.core.plan import Plan
from basilica.core.rules.finding import Finding, Findings

RULES = (*menus.RULES, *parts.RULES, *headers.RULES, *contents.RULES)


def plan_findings(plan: Plan) -> tuple[Finding, ...]:
    """Everything that is wrong with a plan."""
    findings = Findings()
    for piece in (menus, parts, headers):
        piece.find(plan, findings)
    return findings.done()
