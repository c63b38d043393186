"""The plans of a site in its other languages than the first, and what is found in these alone."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from basilica.core.findings.on_plan import plan_findings
from basilica.core.map.document import Document
from basilica.core.map.languages import document_in, included_in
from basilica.core.map.map_files import Files
from basilica.core.map.site import Entry, EntryKind, resolve
from basilica.core.map.site.site_rules import DRAFT_ENTRY
from basilica.core.plan import Plan, make_plan
from basilica.core.plan.plan_rules import LANGUAGE_NOT_BUILT
from basilica.core.rules.finding import Finding
from basilica.core.rules.place import START, Place

_OF_DRAFTS = frozenset(["draft-entry", "draft-linked", "hidden-entry", "highlight-nowhere", "empty-group"])
"""What is said of drafts, which pages without a translation are not to anybody."""


def in_languages(
    document: Document, plan: Plan, files: Files, known: tuple[Finding, ...]
) -> tuple[Plan, tuple[Finding, ...]]:
    """A plan with those of the other languages, and what was found in these alone."""
    plans: dict[str, Plan] = {}
    tags = plan.site.languages
    plans[tags[0]] = plan = replace(plan, languages=plans)
    said = {(finding.code, finding.line, finding.column, finding.file) for finding in known}
    found: list[Finding] = []
    for tag in tags[1:]:
        beside = files.in_language(tag)
        site, more = resolve(document_in(document, tag, tags, files), beside, tag, included_in(tag, tags, files))
        if site is None or site.home is None or site.pages[site.home].options.draft:
            at = plan.site.lines.place(plan.site.pages[plan.site.home].at) if plan.site.home else START
            message = f"Nothing is built in `{tag}`: the home page has no title in it."
            found.append(Finding(LANGUAGE_NOT_BUILT, message, LANGUAGE_NOT_BUILT.remedy, at.line, at.column))
            continue
        menus = {name: replace(menu, entries=_filled(menu.entries)) for name, menu in site.menus.items()}
        plans[tag] = other = replace(make_plan(replace(site, menus=menus)), languages=plans)
        for finding in (*more, *plan_findings(other)):
            place = finding.code, finding.line, finding.column, finding.file
            if place not in said and finding.code not in _OF_DRAFTS:
                found.append(replace(finding, message=f"In `{tag}`: {finding.message}"))
    elsewhere = {
        old.address for other in plans.values() if other is not plan for old in (*other.redirects, *other.further)
    }
    if elsewhere:  # an old address below `redirects` leads to the page in its own language, if that is there
        own = tuple(old for old in plan.redirects if old.address not in elsewhere)
        plans[tags[0]] = plan = replace(plan, redirects=own)
    return plan, tuple(found)


def for_other_languages(plan: Plan, found: tuple[Finding, ...]) -> tuple[Finding, ...]:
    """Findings without those that entries are left out whose pages are there in another language."""
    there = {key for key in plan.drafts if plan.there_in(key)}

    def places(entries: tuple[Entry, ...]) -> Iterator[Place]:
        for entry in entries:
            if entry.page in there:
                yield plan.site.lines.place(entry.at)
            yield from places(entry.items)

    silent = {place for menu in plan.site.menus.values() for place in places(menu.written)} if there else set()
    return tuple(
        finding
        for finding in found
        if finding.code != DRAFT_ENTRY.code or Place(finding.line, finding.column, finding.file) not in silent
    )


def _filled(entries: tuple[Entry, ...]) -> tuple[Entry, ...]:
    """Entries without the groups in which nothing is translated."""
    inside = (replace(entry, items=_filled(entry.items)) for entry in entries)
    return tuple(entry for entry in inside if entry.items or entry.kind is not EntryKind.GROUP)
