"""The address under which the workspace's modules answer, and what they share."""

from __future__ import annotations

from typing import Any

from flask import Blueprint, Response, jsonify

from basilica.core.diff.deletion_impact import page_positions
from basilica.core.drawing import Drawing, draw, folds
from basilica.core.edits.fixes import fixes_by_file
from basilica.core.plan import Plan
from basilica.core.rules.finding import Fix
from basilica.core.rules.rule import Level
from basilica.store.records import Conflict
from basilica.web.services import Reading

blueprint = Blueprint("map", __name__, template_folder="templates", url_prefix="/sites/<slug>/map")

_WIDTHS = (320, 4000)


def stale(error: Conflict) -> tuple[Response, int]:
    """The answer to a change that somebody else's came before."""
    message = "This map was saved from elsewhere since it was opened here. What you typed is still here."
    return jsonify(message=message, text=error.current.text, revision=error.current.revision), 409


def chosen_page(plan: Plan | None, key: Any) -> str | None:
    """The page that is asked for, if it is there, and else home."""
    if plan is None:
        return None
    return key if isinstance(key, str) and key in plan.site.pages else plan.site.home


def drawn(plan: Plan, asked: dict[str, Any]) -> Drawing:
    """The plan drawn as a view asks for it: ``width`` in px, the ``chosen`` page, and the folds that were ``turned``
    (keys with spaces between them)."""
    try:
        width = max(_WIDTHS[0], min(_WIDTHS[1], int(asked.get("width", 640))))
    except (TypeError, ValueError):
        width = 640
    turned = asked.get("turned")
    keys = frozenset(turned.split()) if isinstance(turned, str) else frozenset()
    chosen = asked.get("chosen")
    return draw(plan, width, folds(plan, keys, chosen if isinstance(chosen, str) else None))


def facts(reading: Reading, plan: Plan | None) -> dict[str, Any]:
    """What the editor needs: findings to underline, places to choose by, pages to complete."""
    pages: list[dict[str, Any]] = []
    if plan:
        main = plan.menus["main"].page_entries
        for key, known in plan.site.pages.items():
            written = known
            while written.parent is not None and plan.site.lines.elsewhere(written.at):
                written = plan.site.pages[written.parent]  # it stands in another file, which is mounted there
            line, column, _ = plan.site.lines.place(written.at)
            where = {"path": plan.path_of(key), "line": line, "column": column, "main": main.get(key)}
            pages.append({"key": key, "title": known.title, **where})
    return {
        "good": reading.good,
        "findings": underlined(reading),
        "places": page_positions(reading.compiled.document, reading.plan) if reading.good else None,
        "pages": pages,
    }


def underlined(reading: Reading) -> list[dict[str, Any]]:
    """What the editor underlines: advice, and what is ignored, is listed and not underlined."""
    return [
        {**finding.as_dict(""), "fix": finding.fix if not finding.file else None}
        for finding in reading.findings
        if not finding.file and finding.level not in (Level.ADVICE, Level.IGNORE)
    ]


@blueprint.app_template_global("old_word_fixes")
def _old_words(reading: Reading) -> list[Fix]:
    """The fixes that write today's words of the map language into the map, in its order."""
    return sorted(fixes_by_file(reading.findings).get("", []))


@blueprint.app_template_global("count_findings")
def _count(reading: Reading) -> dict[str, int]:
    levels = [finding.level for finding in reading.findings]
    return {level: levels.count(level) for level in ("error", "warning", "advice")}  # type: ignore[arg-type]
