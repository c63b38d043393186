"""Reports: what checks found, written for people, for programs, and for those who were not there."""

from basilica.core.findings.reports.baseline import Baseline, fingerprint
from basilica.core.findings.reports.report import Report
from basilica.core.findings.reports.report_formats import FORMATS

__all__ = ["FORMATS", "Baseline", "Report", "fingerprint"]
