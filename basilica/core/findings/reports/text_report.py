"""A report as lines for a terminal, and as JSON."""

from __future__ import annotations

import json
from collections import Counter

from basilica.core.findings import MOST
from basilica.core.findings.reports.report import Report
from basilica.core.rules.finding import Finding


def as_text(report: Report) -> str:
    """One line for each finding that is new, and what is ignored, counted by its reason."""
    counts: Counter[str] = Counter()
    lines = []
    for finding in report.new:
        counts[finding.code] += 1
        if counts[finding.code] <= MOST:
            lines.append(line_of(report, finding))
    lines += [f"{report.name}: {count - MOST:,} more, {code}" for code, count in counts.items() if count > MOST]
    reasons = Counter((finding.code, finding.reason) for finding in report.ignored)
    lines += [f"{report.name}: {count} ignored, {code}: {reason}" for (code, reason), count in reasons.items()]
    return "".join(f"{line}\n" for line in lines)


def line_of(report: Report, finding: Finding) -> str:
    """A finding as one line: file, line and column, code, what is wrong, and what to do."""
    place = f"{report.path_of(finding)}:{finding.line}:{finding.column}"
    return f"{place}: {finding.code} {finding.message} {finding.remedy}"


def as_json(report: Report) -> str:
    """Every finding, with what is known of it."""
    rows = [
        {**finding.as_dict(report.name), **({"known": True} if number in report.known else {})}
        for number, finding in enumerate(report.findings)
    ]
    data = {"findings": rows, "stops": bool(report.failing)}
    return json.dumps(data, ensure_ascii=False, indent=2) + "\n"
