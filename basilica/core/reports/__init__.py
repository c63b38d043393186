"""Reports: what checks found, written for people, for programs, and for those who were not there."""

from basilica.core.reports.baseline import Baseline, fingerprint
from basilica.core.reports.formats import FORMATS
from basilica.core.reports.report import Report

__all__ = ["FORMATS", "Baseline", "Report", "fingerprint"]
