"""All the way in one call, for those who want the result and not the steps between."""

from __future__ import annotations

from dataclasses import dataclass

from basilica.core.checks import known_levels
from basilica.core.checks.rules import Rules, look_at_rules
from basilica.core.document import Document, read
from basilica.core.files import NO_FILES, Files
from basilica.core.findings import Finding, in_order
from basilica.core.plan import Plan, make_plan
from basilica.core.site import resolve
from basilica.core.site.model import PLAIN


@dataclass(frozen=True, slots=True)
class Compiled:
    """What became of a map's text: the plan, if one could be made, and every finding so far."""

    document: Document
    plan: Plan | None
    findings: tuple[Finding, ...]
    files: Files = NO_FILES
    """Those beside the map."""

    @property
    def stops(self) -> bool:
        """Whether a finding refuses a build."""
        return self.plan is None or any(finding.stops for finding in self.findings)


def compile_map(source: str | bytes, files: Files = NO_FILES) -> Compiled:
    """Read the text of a map, resolve it with the files beside it, and plan it. Never raises for any input."""
    document, findings = read(source)
    site, more = resolve(document, files)
    if site is None:
        return Compiled(document, None, in_order(findings + more), files)
    plan, last = make_plan(site)
    found = findings + more + last
    if site.checks.levels or any(
        own.extra.silent for own in [page.own for page in site.pages.values()] if own is not PLAIN
    ):
        found = Rules(site).settle(found + look_at_rules(site, known_levels()))
    return Compiled(document, plan, in_order(found), files)
