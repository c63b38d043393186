"""A report as lines for a terminal, and as JSON."""

from __future__ import annotations

import json
from collections import Counter

from basilica.core.findings.reports.report import GRAVE, Report
from basilica.core.rules.finding import Finding

SHOWN = 10
"""How many findings with one code are shown, each on a line; `--format json` has all."""


def as_text(report: Report) -> str:
    """One line for each finding that is new, errors first, no more than ten with one code; and what is ignored, counted
    by its reason."""
    counts: Counter[str] = Counter()
    lines = []
    for finding in sorted(report.new, key=lambda each: GRAVE.index(each.level)):
        counts[finding.code] += 1
        if counts[finding.code] <= SHOWN:
            lines.append(line_of(report, finding))
    lines += [f"{report.name}: {count - SHOWN:,} more, {code}" for code, count in counts.items() if count > SHOWN]
    reasons = Counter((finding.code, finding.reason) for finding in report.ignored)
    lines += [f"{report.name}: {count} ignored, {code}: {reason}" for (code, reason), count in reasons.items()]
    return "".join(f"{line}\n" for line in lines)


def line_of(report: Report, finding: Finding) -> str:
    """A finding as one line: file, line and column, level, code, what is wrong, and what to do."""
    place = f"{report.path_of(finding)}:{finding.line}:{finding.column}"
    return f"{place}: {finding.level} {finding.code} {finding.message} {finding.remedy}"


def as_json(report: Report) -> str:
    """Every finding, with what is known of it."""
    rows = [
        {**finding.as_dict(report.name), **({"known": True} if number in report.known else {})}
        for number, finding in enumerate(report.findings)
    ]
    data = {"findings": rows, "stops": bool(report.failing)}
    return json.dumps(data, ensure_ascii=False, indent=2) + "\n"
