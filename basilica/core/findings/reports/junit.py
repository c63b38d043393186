"""A report as JUnit XML, which programs that run tests read: each check is a case."""

from __future__ import annotations

from collections import defaultdict
from xml.etree import ElementTree

from basilica.core.findings import CHECKS
from basilica.core.findings.reports.report import Report
from basilica.core.findings.reports.text_report import line_of
from basilica.core.rules.finding import Finding

_MOST = 200
"""Lines of one case."""


def as_junit(report: Report) -> str:
    """One suite. A check with a finding that fails is a failed case; what else it says is output."""
    found: dict[str, list[Finding]] = defaultdict(list)
    for finding in report.new:
        found[finding.code].append(finding)
    codes = [*dict.fromkeys([*(check.code for check in CHECKS), *sorted(found)])]
    failed = {code: [finding for finding in found[code] if report.fails(finding)] for code in codes}
    counts = {"tests": str(len(codes)), "failures": str(sum(1 for each in failed.values() if each)), "errors": "0"}
    suites = ElementTree.Element("testsuites", counts)
    suite = ElementTree.SubElement(suites, "testsuite", {"name": _text(report.name), **counts})
    for code in codes:
        case = ElementTree.SubElement(suite, "testcase", {"classname": "basilica", "name": code})
        if failed[code]:
            says = {
                "message": _text(f"{failed[code][0].rule.title}: {len(failed[code])}"),
                "type": str(failed[code][0].level),
            }
            ElementTree.SubElement(case, "failure", says).text = _lines(report, failed[code])
        others = [finding for finding in found[code] if finding not in failed[code]]
        if others:
            ElementTree.SubElement(case, "system-out").text = _lines(report, others)
    ElementTree.indent(suites)
    return '<?xml version="1.0" encoding="UTF-8"?>\n' + ElementTree.tostring(suites, encoding="unicode") + "\n"


def _lines(report: Report, findings: list[Finding]) -> str:
    return _text("\n".join(line_of(report, finding) for finding in findings[:_MOST]))


def _text(text: str) -> str:
    """Without the characters that XML cannot hold."""
    return "".join(
        c for c in text if c in "\t\n\r" or ("\x20" <= c <= "\ud7ff") or ("\ue000" <= c <= "\ufffd") or c > "\uffff"
    )
