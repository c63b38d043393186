"""What the Map workspace shows: the plan drawn, the facts that its editor needs, pages that were looked for."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from types import MappingProxyType
from typing import Any

from flask import render_template, request, url_for

from basilica.core.content import layouts_of
from basilica.core.diff.deletion_impact import page_positions
from basilica.core.diff.page_differences import page_differences
from basilica.core.drawing import Drawing, draw, folds
from basilica.core.edits.fixes import fixes_by_file
from basilica.core.edits.menu_facts import auto_numbers
from basilica.core.exchange import Item
from basilica.core.exchange.list_edits import ListMerge
from basilica.core.header.header_end import names_of_ends
from basilica.core.map.map_files import NO_FILES, linkable
from basilica.core.map.site import Site
from basilica.core.map.site.part_reader import part_names
from basilica.core.map.site.written_place import ROW_ACTS, cannot, not_below, not_here
from basilica.core.plan import Plan
from basilica.core.plan.page_search import find_pages
from basilica.core.rules.finding import Finding, Fix, in_order
from basilica.core.rules.rule import Level
from basilica.services.compiled_maps import Reading
from basilica.store.records import SiteRecord
from basilica.web.context import services
from basilica.web.map.answers import FoundPage, KnownNames, KnownPage, TextFix, UnderlinedFinding
from basilica.web.map.forms import View

_WIDTHS = (320, 4000)
LIST_WIDTH = 560
"""Of the plan that a list would make, px."""


def chosen_page(plan: Plan | None, key: str | None) -> str | None:
    """The page that is asked for, if it is there, and else home."""
    if plan is None:
        return None
    return key if key in plan.site.pages else plan.site.home


def drawn(plan: Plan, view: View) -> Drawing:
    """The plan drawn as it is looked at."""
    try:
        width = max(_WIDTHS[0], min(_WIDTHS[1], int(view.width)))
    except (ValueError, OverflowError):
        width = 640
    return draw(plan, width, folds(plan, frozenset(view.turned.split()), view.chosen))


def asked_view(chosen: str | None = None) -> View:
    """How the plan is looked at, as the address says; with this page ``chosen`` where there is one."""
    args = request.args
    return View(args.get("width", "640"), chosen or args.get("chosen"), args.get("turned", ""))


def facts(reading: Reading, plan: Plan | None) -> dict[str, Any]:
    """The fields of ``Facts``: findings to underline, places to choose by, pages to complete."""
    pages: list[KnownPage] = []
    if plan:
        main = plan.menus["main"].page_entries
        for key, known in plan.site.pages.items():
            written = known
            while written.parent is not None and plan.site.lines.elsewhere(written.at):
                written = plan.site.pages[written.parent]  # it stands in another file, which is mounted there
            line, column, _ = plan.site.lines.place(written.at)
            page = KnownPage(
                key=key,
                title=known.title,
                path=plan.path_of(key),
                line=line,
                column=column,
                main=main.get(key, (None,))[0],
                **_cannot_be_edited(plan.site, key),
            )
            pages.append(page)
    return {
        "good": reading.good,
        "findings": underlined(reading),
        "places": page_positions(reading.compiled.document, reading.plan) if reading.good else None,
        "pages": pages,
        "auto": {name: sorted(numbers) for name, numbers in auto_numbers(plan).items()} if plan else {},
        "names": KnownNames(
            files=list(linkable(reading.compiled.files)),
            **(_names(reading.compiled.plan) if reading.compiled.plan else {}),
        ),
    }


def _cannot_be_edited(site: Site, key: str) -> dict[str, Any]:
    """Why a page cannot be edited in the map, less by the acts of ``cells``, which a table's row takes; and why no
    page can be added under it. Nothing if both can be."""
    reasons = {"elsewhere": not_here(site, key), "below": not_below(site, key)}
    found: dict[str, Any] = {name: f"{reason}." for name, reason in reasons.items() if reason}
    if key in site.rows:
        found["cells"] = [act for act in ROW_ACTS if not cannot(site, key, act)]
    return found


def _names(plan: Plan) -> dict[str, Any]:
    """What can be named in the map, for completion: of each kind a list, and colours by their name."""
    return {
        "facts": list(plan.site.facts),
        "parts": list(part_names(plan.site.parts, plan.menus)),
        "menus": list(plan.menus),
        "layouts": list(layouts_of(plan.site.files).good),
        "ends": list(names_of_ends(plan.site)),
        "colours": plan.site.theme.all_colours(),
    }


def underlined(reading: Reading) -> list[UnderlinedFinding]:
    """What the editor underlines: advice, and what is ignored, is listed and not underlined."""
    return [
        UnderlinedFinding(
            line=finding.line,
            column=finding.column,
            level=str(finding.level),
            message=finding.message,
            remedy=finding.remedy,
            fix=_text_fix(finding.fix) if finding.fix else None,
        )
        for finding in reading.findings
        if not finding.file and finding.level not in (Level.ADVICE, Level.IGNORE)
    ]


def _text_fix(fix: Fix) -> TextFix:
    return (fix.start.line, fix.start.column), (fix.end.line, fix.end.column), fix.text


def old_word_fixes(reading: Reading) -> list[Fix]:
    """The fixes that write today's words of the map language into the map, in its order."""
    return sorted(fixes_by_file(reading.findings).get("", []))


def count_findings(findings: Iterable[Finding]) -> dict[str, int]:
    """How many findings of each level there are; what is ignored is not counted."""
    levels = [finding.level for finding in findings]
    return {level: levels.count(level) for level in ("error", "warning", "advice")}  # type: ignore[arg-type]


def pages_found(slug: str, words: str) -> list[tuple[float, FoundPage]]:
    """The pages of a site that fit some letters: how well, and what is shown of them."""
    plan = services().maps.good_plan(services().store.get(slug))
    rows: list[tuple[float, FoundPage]] = []
    if plan is None:
        return rows
    for found in find_pages(plan, words[:200]):
        page = plan.site.pages[found.key]
        row = FoundPage(
            key=page.key,
            label=page.label,
            path=plan.path_of(found.key),
            above=[level.label for level in plan.trail(found.key)[:-1]],
            href=url_for("map.show", slug=slug, page=page.key),
        )
        rows.append((found.score, row))
    return rows


def shown_list(
    site: SiteRecord | None,
    text: str,
    items: tuple[Item, ...],
    findings: tuple[Finding, ...],
    before: Plan | None = None,
    there: tuple[str, ...] = (),
    merge: ListMerge | None = None,
    changed: Mapping[str, bytes] = MappingProxyType({}),
) -> str:
    """What a list will make of a site, as a piece of a page: its findings, the plan, the text; how that differs from
    what was there ``before``, and what is ``there`` already and left as it is; or what of the whole site it is to
    ``merge``; and the files beside the map that are ``changed`` with it."""
    there_beside = services().maps.files(site) if site is not None else NO_FILES
    compiled = services().maps.compiled(text, there_beside.replaced(changed))
    plan = compiled.plan if not compiled.stops else None
    stoppers = tuple(finding for finding in compiled.findings if finding.stops)
    return render_template(
        "map/_list.html",
        text=text,
        items=items,
        there=there,
        merge=merge,
        findings=in_order(findings),
        stoppers=stoppers,
        differences=page_differences(before, plan) if before and plan else None,
        plan=plan,
        drawing=drawn(plan, View(LIST_WIDTH)) if plan else None,
    )
