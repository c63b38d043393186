"""A baseline: what was there before, so that only what is new fails."""

from __future__ import annotations

import json
from collections import Counter
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Any

from basilica.core.rules.finding import Finding

_VERSION = 1

Print = tuple[str, str, str]
"""Code, file and message: what a finding is known by, however lines move."""


def fingerprint(finding: Finding) -> Print:
    """What a finding is known by."""
    return finding.code, finding.built or finding.file, finding.message


@dataclass(frozen=True, slots=True)
class Baseline:
    """How often each finding was there."""

    counts: Mapping[Print, int]

    @classmethod
    def of(cls, findings: Iterable[Finding]) -> Baseline:
        """The baseline that knows some findings. What is ignored need not be known."""
        return cls(Counter(fingerprint(finding) for finding in findings if not finding.ignored))

    @classmethod
    def parse(cls, text: str) -> Baseline:
        """Read what ``as_text`` wrote. Raises ``ValueError``, with a message for people, for anything else."""
        try:
            data = json.loads(text)
            rows: list[dict[str, Any]] = data["findings"] if data["version"] == _VERSION else []
            if not isinstance(rows, list) or data["version"] != _VERSION:
                raise ValueError
            return cls({(row["code"], row["file"], row["message"]): int(row["count"]) for row in rows})
        except (ValueError, KeyError, TypeError) as error:
            raise ValueError("is not a baseline that Basilica wrote") from error

    def as_text(self) -> str:
        """The same every time, so that a change of it can be read."""
        rows = [
            {"code": code, "file": file, "message": message, "count": count}
            for (code, file, message), count in sorted(self.counts.items())
        ]
        return json.dumps({"version": _VERSION, "findings": rows}, ensure_ascii=False, indent=1) + "\n"

    def known(self, findings: Iterable[Finding]) -> frozenset[int]:
        """The numbers of those findings that were there before; no more of each than there were."""
        left = dict(self.counts)
        found = set()
        for number, finding in enumerate(findings):
            name = fingerprint(finding)
            if not finding.ignored and left.get(name, 0) > 0:
                left[name] -= 1
                found.add(number)
        return frozenset(found)


NO_BASELINE = Baseline({})
