"""All the way in one call, for those who want the result and not the steps between."""

from __future__ import annotations

from dataclasses import dataclass

from basilica.core.document import Document, read
from basilica.core.findings import Finding, in_order
from basilica.core.plan import Plan, make_plan
from basilica.core.site import resolve


@dataclass(frozen=True, slots=True)
class Compiled:
    """What became of a map's text: the plan, if one could be made, and every finding so far."""

    document: Document
    plan: Plan | None
    findings: tuple[Finding, ...]

    @property
    def stops(self) -> bool:
        """Whether a finding refuses a build."""
        return self.plan is None or any(finding.stops for finding in self.findings)


def compile_map(source: str | bytes) -> Compiled:
    """Read the text of a map, resolve it and plan it. Never raises for any input."""
    document, findings = read(source)
    site, more = resolve(document)
    if site is None:
        return Compiled(document, None, in_order(findings + more))
    plan, last = make_plan(site)
    return Compiled(document, plan, in_order(findings + more + last))
