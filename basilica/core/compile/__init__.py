"""The text of a map is read, resolved with the files beside it, and planned."""

from __future__ import annotations

from dataclasses import dataclass

from basilica.core.compile.other_languages import for_other_languages, in_languages
from basilica.core.findings import RULES
from basilica.core.findings.levels import CheckLevels, level_findings
from basilica.core.findings.on_plan import plan_findings
from basilica.core.map.document import Document, read
from basilica.core.map.languages import document_in, included_in, languages_of
from basilica.core.map.map_files import NO_FILES, Files
from basilica.core.map.site import resolve
from basilica.core.plan import Plan, make_plan
from basilica.core.rules.finding import Finding, in_order


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
    tags = languages_of(document)
    if tags:
        site, more = resolve(
            document_in(document, tags[0], tags, files), files, in_language=included_in(tags[0], tags, files)
        )
    else:
        site, more = resolve(document, files)
    if site is None:
        return Compiled(document, None, in_order(findings + more), files)
    plan = make_plan(site)
    found = findings + more + plan_findings(plan)
    if tags and site.languages:
        plan, others = in_languages(document, plan, files, found)
        found = for_other_languages(plan, found) + others
    if site.checks.levels or any(
        page.options.extra.ignored for page in site.pages.values() if page.set_options is not None
    ):
        found = CheckLevels(site).settle(found + level_findings(site, RULES))
    return Compiled(document, plan, in_order(found), files)
