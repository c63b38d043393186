"""What is wrong with own templates before they are run."""

from __future__ import annotations

from basilica.core.own_templates import templates_of
from basilica.core.plan import Plan
from basilica.core.plan.plan_rules import TEMPLATE_UNUSABLE
from basilica.core.rules.finding import Findings
from basilica.core.rules.place import Place
from basilica.core.rules.rule import Rule

RULES: tuple[Rule, ...] = ()


def find(plan: Plan, findings: Findings) -> None:
    """Templates that cannot be read, say what a template may not, or have a name that none has."""
    for problem in templates_of(plan.site.files).problems:
        findings.add(TEMPLATE_UNUSABLE, Place(problem.line, 1), problem.message, problem.remedy, problem.file)
