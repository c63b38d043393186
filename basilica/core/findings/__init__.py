"""Files → findings: the built files are read again, every one, and held against the map, or against one another.

A check is one module with a ``CHECK``, in `on_map` or in `on_site`; its line in ``CHECKS`` is all that it needs
besides. What is wrong with a plan is said in `on_plan`.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Collection, Iterable
from dataclasses import dataclass, replace
from functools import cached_property

from basilica.core.findings import levels, on_plan
from basilica.core.findings.check import Check, Violation
from basilica.core.findings.levels import CheckLevels
from basilica.core.findings.on_map import duplicate_label, label_differs, misspelt, title_missing, vague_label
from basilica.core.findings.on_site import (
    breadcrumb_data,
    conflicting_current,
    dead_anchor,
    dead_link,
    description_long,
    description_missing,
    duplicate_description,
    duplicate_id,
    duplicate_title,
    empty_link,
    far_from_home,
    focus_order,
    heading_order,
    heavy,
    landmark_names,
    language,
    main_heading,
    menu_differs,
    missing_file,
    missing_page,
    names_differ,
    nested_too_deep,
    no_title,
    one_main,
    one_way_only,
    other_host,
    part_differs,
    redirect_chain,
    repeat_differs,
    sitemap_differs,
    skip_link,
    small_target,
    stale_menu,
    title_long,
    translation_links,
    unreachable,
    unreadable_style,
    vague_link,
    wrong_breadcrumbs,
    wrong_current,
)
from basilica.core.findings.source_places import SourcePlaces
from basilica.core.language.sections.part_words import MENU_PART
from basilica.core.map.document import document_rules
from basilica.core.map.site import Base, site_rules
from basilica.core.own_templates import FOLDER, templates_of
from basilica.core.plan import plan_rules
from basilica.core.rules.finding import Finding, in_order, printable
from basilica.core.rules.place import START, Place
from basilica.core.rules.rule import TOO_MANY_FINDINGS, Rule, Stage
from basilica.core.shared.output_file import File
from basilica.core.site_reader import BuiltSite, read_site

__all__ = [
    "CHECKS",
    "RULES",
    "STAGE_RULES",
    "Check",
    "CheckResults",
    "Violation",
    "audit",
    "run_checks",
]

CHECKS: tuple[Check, ...] = (
    # What every page shares
    menu_differs.CHECK,
    wrong_current.CHECK,
    wrong_breadcrumbs.CHECK,
    breadcrumb_data.CHECK,
    part_differs.CHECK,
    stale_menu.CHECK,
    conflicting_current.CHECK,
    names_differ.CHECK,
    # Where links lead, and how one gets to a page
    missing_page.CHECK,
    dead_link.CHECK,
    dead_anchor.CHECK,
    missing_file.CHECK,
    other_host.CHECK,
    redirect_chain.CHECK,
    repeat_differs.CHECK,
    unreachable.CHECK,
    far_from_home.CHECK,
    one_way_only.CHECK,
    sitemap_differs.CHECK,
    # What a page is called
    no_title.CHECK,
    title_missing.CHECK,
    duplicate_title.CHECK,
    title_long.CHECK,
    translation_links.CHECK,
    description_missing.CHECK,
    duplicate_description.CHECK,
    description_long.CHECK,
    label_differs.CHECK,
    duplicate_label.CHECK,
    vague_label.CHECK,
    misspelt.CHECK,
    # Whether everybody can use it
    language.CHECK,
    nested_too_deep.CHECK,
    one_main.CHECK,
    landmark_names.CHECK,
    main_heading.CHECK,
    heading_order.CHECK,
    skip_link.CHECK,
    focus_order.CHECK,
    duplicate_id.CHECK,
    empty_link.CHECK,
    vague_link.CHECK,
    small_target.CHECK,
    unreadable_style.CHECK,
    heavy.CHECK,
)


STAGE_RULES: tuple[Rule, ...] = (
    *document_rules.RULES,
    TOO_MANY_FINDINGS,
    *site_rules.RULES,
    *plan_rules.RULES,
    *on_plan.RULES,
    levels.UNKNOWN_CHECK,
)
"""What is said while a map is read and planned."""

RULES: dict[str, Rule] = {rule.code: rule for rule in (*STAGE_RULES, *CHECKS)}
"""Every rule of a site, by its code."""

_WHOLE_PAGE = {
    "names-differ": "menu",
    "skip-link": "header",
    "language": "page",
    "translation-links": "page",
    "no-title": "page",
    "one-main": "page",
}
"""The own template that writes what a check of a whole page asks about, by its code."""
_ASKS = {"wrong-current": ("current",), "wrong-breadcrumbs": ("current", "address"), "menu-differs": ("address",)}
"""What a template asks for where it writes that."""
_NAMED = 3
"""Pages that are named where the same is off on several."""
MOST = 100
"""Findings of one check that a report lists one by one; the mosaic has them all."""


@dataclass(eq=False)
class CheckResults:
    """A built site with everything that is off on it."""

    built: BuiltSite
    violations: tuple[tuple[Check, Violation], ...]
    checks: tuple[Check, ...] = CHECKS
    """Those that were run."""
    places: SourcePlaces | None = None
    """Where pages of which no map is known are read again, to say where in them something stands."""

    def of_files(self, wanted: Callable[[str], bool]) -> CheckResults:
        """The same without what is off on other files than those wanted; what is true of the whole site stays."""
        left = (one for one in self.violations if one[1].page is None or wanted(one[1].page.file))
        return CheckResults(self.built, tuple(left), self.checks, self.places)

    def without(self, codes: Collection[str], files: Collection[str]) -> CheckResults:
        """The same without what some checks say of some files, where that is told in another way."""
        left = (
            (check, one)
            for check, one in self.violations
            if check.code not in codes or one.page is None or one.page.file not in files
        )
        return CheckResults(self.built, tuple(left), self.checks, self.places)

    def read_again(self, places: SourcePlaces) -> CheckResults:
        """The same with places in the files of the site, and without what is not written there."""
        left = tuple(one for one in self.violations if places.is_written(one[1]))
        return CheckResults(self.built, left, self.checks, places)

    @cached_property
    def levels(self) -> CheckLevels:
        """What the map says of checks."""
        return CheckLevels(self.built.plan.site if self.built.plan is not None else None)

    def finding(self, check: Check, violation: Violation) -> Finding:
        """One thing that is off, with its place and its level."""
        plan = self.built.plan
        file = violation.page.file if violation.page is not None else ""
        own = self._template(check, violation)
        if own is not None:
            place = own
        elif plan is not None:
            place = violation.place(plan, self.built.contents)
        else:
            place = self.places.place(violation) if self.places is not None else START._replace(file=file)
        level, reason = self.levels.of_rule(check, violation.about)
        if plan is None and level is None:
            level = check.level_without_map
        usual = check.remedy_on(self.built) if own is None else f"Change {own.file}, at or near this line."
        message, remedy = printable(violation.message), printable(violation.remedy or usual)
        return Finding(check, message, remedy, *place, given=level, reason=reason, built=file)

    def _template(self, check: Check, violation: Violation) -> Place | None:
        """The place in the own template that writes what is off; None where none does."""
        plan = self.built.plan
        name = violation.part or _WHOLE_PAGE.get(check.code, "")
        own = templates_of(plan.site.files) if plan is not None and name else None
        if plan is None or own is None:
            return None
        if name.startswith(MENU_PART):
            place = plan.menus[name[len(MENU_PART) :]].place
            around = "footer" if place == "footer" else "header" if place in ("header", "utility") else ""
            name = "menu" if "menu" in own and (violation.spot or around not in own) else around
        if name not in own:
            return None
        asks = {"menu": "entries", "breadcrumbs": "label"}.get(name)
        line = own.line_of(name, *_ASKS.get(check.code, ()), asks) if asks else 1
        return Place(line, 1, f"{FOLDER}/{name}.html")

    def findings(self, most: int | None = MOST) -> tuple[Finding, ...]:
        """All of it in order; past ``most`` of one check they are counted in one more."""
        found: list[Finding] = []
        counts: Counter[Check] = Counter()
        for check, violation in self._said():
            counts[check] += 1
            if most is None or counts[check] <= most:
                found.append(self.finding(check, violation))
        for check, count in counts.items():
            if most is not None and count > most:
                level, reason = self.levels.of_rule(check, None)
                message = f"{count - most:,} more are the same (`{check.code}`): {check.title.lower()}."
                found.append(Finding(check, message, check.remedy_on(self.built), given=level, reason=reason))
        return in_order(found)

    def _said(self) -> Iterable[tuple[Check, Violation]]:
        """What is off, each thing once: of pages of which no map is known the same link is told once, with the pages on
        which it stands; and so is what an own template writes."""
        told: dict[tuple[Check, str], list[Violation]] = {}
        if self.built.plan is not None:
            if not templates_of(self.built.plan.site.files).good:
                return self.violations
            for number, (check, violation) in enumerate(self.violations):
                is_shared = self._template(check, violation) is not None
                told.setdefault((check, violation.part if is_shared else f"\0{number}"), []).append(violation)
            return [(check, _of_several(same)) for (check, _), same in told.items()]
        for number, (check, violation) in enumerate(self.violations):
            page = violation.page.file if violation.page is not None else ""
            shared = violation.message.replace(page, "\0") if violation.written and page else f"\0{number}"
            told.setdefault((check, shared), []).append(violation)
        return [(check, _of_several(same)) for (check, _), same in told.items()]


def _of_several(same: list[Violation]) -> Violation:
    """One thing that is off on several pages."""
    first, *others = same
    if not others:
        return first
    named = [other.page.file for other in others[:_NAMED] if other.page is not None]
    more = f" and {len(others) - len(named):,} more" if len(others) > len(named) else ""
    return replace(first, message=f"{first.message} The same on {', '.join(named)}{more}.")


def run_checks(built: BuiltSite, checks: tuple[Check, ...] = CHECKS) -> CheckResults:
    """Run checks on a built site that was read; those that need a map only where there is one."""
    asked = (check for check in checks if built.plan is not None or check.stage is Stage.ANY)
    found = ((check, violation) for check in asked for violation in check.run(built))
    return CheckResults(built, tuple(found), checks)


def audit(files: Iterable[File], base: Base | None = None) -> CheckResults:
    """The checks that need no map, on the files of any built site. ``base`` is where it lives; else what its home page
    calls its canonical address."""
    return run_checks(read_site(files, base=base))
