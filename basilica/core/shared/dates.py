"""Days as they are written: year, month and day (ISO 8601, RFC 3339)."""

from __future__ import annotations

import re

_DATE = re.compile(r"(\d{4})-(\d{2})-(\d{2})")
_DAYS = (31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31)


def is_date(text: str) -> bool:
    """Whether a text is a day of the calendar, such as `2026-03-01`."""
    found = _DATE.fullmatch(text)
    if not found:
        return False
    year, month, day = map(int, found.groups())
    leap = month == 2 and year % 4 == 0 and (year % 100 != 0 or year % 400 == 0)
    return year > 0 and 1 <= month <= 12 and 1 <= day <= _DAYS[month - 1] + leap
