"""The formats in which a report can be written."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from basilica.core.reports.junit import as_junit
from basilica.core.reports.page import as_page
from basilica.core.reports.report import Report
from basilica.core.reports.sarif import as_sarif
from basilica.core.reports.text import as_json, as_text

FORMATS: Mapping[str, Callable[[Report], str]] = {
    "text": as_text,
    "json": as_json,
    "sarif": as_sarif,
    "junit": as_junit,
    "html": as_page,
}
