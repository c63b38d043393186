"""The formats in which a report can be written."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from basilica.core.findings.reports.html_report import as_page
from basilica.core.findings.reports.junit import as_junit
from basilica.core.findings.reports.report import Report
from basilica.core.findings.reports.sarif import as_sarif
from basilica.core.findings.reports.text_report import as_json, as_text

FORMATS: Mapping[str, Callable[[Report], str]] = {
    "text": as_text,
    "json": as_json,
    "sarif": as_sarif,
    "junit": as_junit,
    "html": as_page,
}
