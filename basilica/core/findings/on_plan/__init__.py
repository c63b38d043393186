"""Plan → findings: what is wrong with what a plan works out. One module for each of its pieces, with its rules and a
function ``find``."""

from __future__ import annotations

from basilica.core.findings.on_plan import content_findings, header_findings, menu_findings, part_findings
from basilica.core.plan import Plan
from basilica.core.rules.finding import Finding, Findings

RULES = (*menu_findings.RULES, *part_findings.RULES, *header_findings.RULES, *content_findings.RULES)


def plan_findings(plan: Plan) -> tuple[Finding, ...]:
    """Everything that is wrong with a plan."""
    findings = Findings()
    for piece in (menu_findings, part_findings, header_findings):
        piece.find(plan, findings)
    return findings.done()
