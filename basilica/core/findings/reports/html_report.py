"""A report as one page that holds all it needs, for people who were not there. It has no script."""

from __future__ import annotations

from collections import defaultdict
from functools import lru_cache
from typing import NamedTuple

from jinja2 import Environment, PackageLoader

from basilica.core.findings.mosaic import SIGNS, WORDS, MosaicRow, State, worst
from basilica.core.findings.reports.report import Report
from basilica.core.rules.finding import Finding
from basilica.core.rules.rule import Level, Rule

_ROWS = 300
"""Past this many pages only those on which something is off are shown one by one."""
_MOST = 50


class _Group(NamedTuple):
    code: str
    level: Level
    title: str
    why: str
    check: Rule | None
    findings: list[Finding]
    more: int


@lru_cache(maxsize=1)
def _environment() -> Environment:
    return Environment(
        loader=PackageLoader("basilica.core.findings.reports", "templates"),
        autoescape=True,
        trim_blocks=True,
        lstrip_blocks=True,
    )


def as_page(report: Report) -> str:
    """The page, as HTML."""
    mosaic = report.mosaic
    rows: list[MosaicRow] = []
    if mosaic is not None:
        every = len(mosaic.rows) <= _ROWS
        rows = [row for row in mosaic.rows if every or row.has_violations]
    return (
        _environment()
        .get_template("report.html")
        .render(
            report=report,
            title=_title(report),
            mosaic=mosaic,
            rows=rows,
            State=State,
            words=WORDS,
            signs=SIGNS,
            worst=worst,
            groups=_groups(report, report.new),
            ignored=_groups(report, report.ignored),
            path_of=report.path_of,
        )
    )


def _title(report: Report) -> str:
    """The site's name, where it is known."""
    plan = report.mosaic.results.built.plan if report.mosaic is not None else None
    return plan.site.name if plan is not None else report.name


def _groups(report: Report, findings: tuple[Finding, ...]) -> list[_Group]:
    """Findings by check, the gravest first."""
    found: dict[tuple[int, str, str], list[Finding]] = defaultdict(list)
    for finding in findings:
        found[list(Level).index(finding.level), finding.code, finding.reason].append(finding)
    groups = []
    for (level, code, _), each in sorted(found.items()):
        rule = each[0].rule
        groups.append(
            _Group(
                code,
                list(Level)[level],
                rule.title,
                rule.why,
                rule if rule.remedy else None,
                each[:_MOST],
                max(0, len(each) - _MOST),
            )
        )
    return groups
