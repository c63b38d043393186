"""For every rule a sound example and a broken one, as its documentation shows them: nothing is said of it on the first,
and it is said on the second."""

from __future__ import annotations

import pytest

from basilica.core.exchange import list_rules
from basilica.core.exchange.site_import import drift_findings
from basilica.core.findings import CHECKS, STAGE_RULES, on_source
from basilica.core.rules.rule import Rule, Stage
from scripts.rule_examples import findings_of

RULES: tuple[Rule, ...] = (*CHECKS, *STAGE_RULES, *list_rules.RULES, *drift_findings.RULES, *on_source.RULES)


@pytest.mark.long
@pytest.mark.parametrize("rule", RULES, ids=lambda rule: rule.code)
def test_a_rule_is_said_on_the_broken_twin_alone(rule: Rule) -> None:
    good, bad = findings_of(rule, rule.good), findings_of(rule, rule.bad)
    assert rule.code not in {finding.code for finding in good}
    if rule.stage in (Stage.READING, Stage.LIST):
        assert not [finding for finding in good if finding.stops]
    found = [finding for finding in bad if finding.code == rule.code]
    assert found and all(finding.message and finding.remedy for finding in found)
    assert all((rule.title, rule.why, rule.standard, rule.remedy))
