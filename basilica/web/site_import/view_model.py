"""What the report of an import shows: which pages differ in what, and what stands there."""

from __future__ import annotations

from dataclasses import dataclass

from flask import abort

from basilica.core.diff.line_differences import DiffLine, differences
from basilica.core.exchange.site_import import Drift, ImportedSite
from basilica.core.exchange.site_import.import_report import called
from basilica.core.exchange.site_import.old_page import OldPage
from basilica.core.exchange.site_import.source_tree import Element
from basilica.core.shared.page_encoding import as_text
from basilica.services.job_queue import Job
from basilica.services.site_imports import SiteImport
from basilica.services.site_stays import PageChange
from basilica.web.context import services

_EXCERPT = 2_000
"""Characters of a block that are shown."""


@dataclass(frozen=True, slots=True)
class DriftedPage:
    """A page that differs: by block what is said of it, and for each block that is there what stands on most pages and
    what stands here, as it is written."""

    file: str
    cells: dict[str, list[Drift]]
    excerpts: dict[str, tuple[str, str]]
    can_stay: bool
    """Whether a menu or a part is among what differs, which the page can keep."""


def job_of(token: str) -> Job[SiteImport]:
    """The reading of a site, which is over or on its way; "not found" for any other."""
    job = services().imports.job(token)
    if job is None:
        abort(404, "This reading is not kept any more. Begin again.")
    return job


def columns_of(site: ImportedSite) -> dict[str, str]:
    """The blocks in which pages differ, each with what it is called; the head is the one without a name."""
    names = {one.block for each in site.in_languages for one in each.drift}
    known = {"": "Head"}
    for each in reversed(site.in_languages):
        known |= {part.name: f"Part {called(part.name)}" for part in each.parts}
        known |= {menu.name: "Main menu" if menu is each.main else f"Menu {called(menu.name)}" for menu in each.menus}
    return {name: title for name, title in known.items() if name in names}


def differing(site: ImportedSite) -> list[DriftedPage]:
    """The pages that differ, in the order of the site, one language after the other. Those of the first may stay."""
    blocks = {part.name for part in site.parts} | {menu.name for menu in site.menus}
    rows = []
    for each in site.in_languages:
        found: dict[str, dict[str, list[Drift]]] = {}
        for one in each.drift:
            found.setdefault(one.file, {}).setdefault(one.block, []).append(one)
        for file, cells in found.items():
            can_stay = each is site and not blocks.isdisjoint(cells)
            rows.append(DriftedPage(file, cells, _excerpts(each, file, cells), can_stay))
    return rows


def page_differences(change: PageChange) -> tuple[DiffLine, ...]:
    """What changes in a page beside its marks, line by line."""
    return differences(*(as_text(data) for data in (change.marked, change.after)))


def _excerpts(site: ImportedSite, file: str, cells: dict[str, list[Drift]]) -> dict[str, tuple[str, str]]:
    blocks = {menu.name: menu.block for menu in site.menus} | {part.name: part for part in site.parts}
    found = {}
    for name in cells:
        block = blocks.get(name)
        if block is not None:
            here = block.blocks.get(file)
            model = block.model
            found[name] = (
                _excerpt(model.page, model.element),
                _excerpt(here.page, here.element) if here is not None else "",
            )
    return found


def _excerpt(page: OldPage, element: Element) -> str:
    text = page.whole(element)
    return text if len(text) <= _EXCERPT else text[:_EXCERPT] + "\n…"
