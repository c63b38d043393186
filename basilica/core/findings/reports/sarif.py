"""A report in the Static Analysis Results Interchange Format, SARIF 2.1.0 (OASIS)."""

from __future__ import annotations

import hashlib
import json
from typing import Any
from urllib.parse import quote

from basilica.core.findings.reports.baseline import fingerprint
from basilica.core.findings.reports.report import Report
from basilica.core.rules.finding import Finding
from basilica.core.rules.rule import Level, Rule
from basilica.core.version import VERSION

_LEVELS = {Level.ERROR: "error", Level.WARNING: "warning", Level.ADVICE: "note", Level.IGNORE: "none"}
SCHEMA = "https://docs.oasis-open.org/sarif/sarif/v2.1.0/errata01/os/schemas/sarif-schema-2.1.0.json"


def as_sarif(report: Report) -> str:
    """The log of one run, as JSON."""
    rules = sorted({finding.code: finding.rule for finding in report.findings}.values(), key=lambda rule: rule.code)
    numbers = {rule.code: number for number, rule in enumerate(rules)}
    results = [
        _result(report, finding, numbers[finding.code], number in report.known)
        for number, finding in enumerate(report.findings)
    ]
    driver = {"name": "Basilica", "version": VERSION, "rules": [_described(rule) for rule in rules]}
    run = {"tool": {"driver": driver}, "columnKind": "unicodeCodePoints", "results": results}
    return json.dumps({"$schema": SCHEMA, "version": "2.1.0", "runs": [run]}, ensure_ascii=False, indent=2) + "\n"


def _described(rule: Rule) -> dict[str, Any]:
    found: dict[str, Any] = {
        "id": rule.code,
        "shortDescription": {"text": rule.title},
        "fullDescription": {"text": rule.why},
        "defaultConfiguration": {"level": _LEVELS[rule.level]},
    }
    if rule.remedy:
        found["help"] = {"text": f"{rule.remedy} ({rule.standard})"}
    return found


def _result(report: Report, finding: Finding, rule: int, known: bool) -> dict[str, Any]:
    path = quote(report.path_of(finding).replace("\\", "/"), safe="/-._~")
    place = {
        "artifactLocation": {"uri": path},
        "region": {"startLine": finding.line, "startColumn": finding.column},
    }
    name = hashlib.sha256("\0".join(fingerprint(finding)).encode()).hexdigest()
    result: dict[str, Any] = {
        "ruleId": finding.code,
        "ruleIndex": rule,
        "level": _LEVELS[finding.level],
        "message": {"text": f"{finding.message} {finding.remedy}"},
        "locations": [{"physicalLocation": place}],
        "partialFingerprints": {"finding/v1": name},
    }
    if report.baseline.counts:
        result["baselineState"] = "unchanged" if known else "new"
    if finding.ignored:
        result["suppressions"] = [{"kind": "inSource", "justification": finding.reason}]
    return result
