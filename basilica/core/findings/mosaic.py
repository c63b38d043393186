"""The mosaic: every page by every shared part and every check, one tile each."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from enum import StrEnum
from functools import cached_property

from basilica.core.findings import Check, CheckResults, Violation
from basilica.core.language.sections.part_words import MENU_PART
from basilica.core.rules.rule import Level, Stage
from basilica.core.shared.locales import own_name
from basilica.core.site_reader import BuiltPage

LANGUAGE = "language-"
"""What the column of a language is called: this, and its tag."""


class State(StrEnum):
    """What a tile says. The values are the letters that stand for it in a row."""

    PASSES = "h"
    DIFFERS = "d"
    """A warning or an advice."""
    BROKEN = "b"
    """An error."""
    IGNORED = "l"
    """Off, and ignored for a reason that the map gives."""
    ABSENT = "a"
    """Not here on purpose."""
    UNTRANSLATED = "u"
    """Not there in a language. That is no finding: not every page has to be."""


WORDS = {
    State.PASSES: "passes",
    State.DIFFERS: "warning or advice",
    State.BROKEN: "error",
    State.IGNORED: "ignored",
    State.ABSENT: "not expected here",
    State.UNTRANSLATED: "not translated",
}
"""Each state in words."""
SIGNS = {
    State.PASSES: "",
    State.DIFFERS: "≠",
    State.BROKEN: "×",
    State.IGNORED: "○",
    State.ABSENT: "·",
    State.UNTRANSLATED: "–",
}
"""The shape of each state, so that colour never stands alone."""

BY_GRAVITY = (State.ABSENT, State.PASSES, State.UNTRANSLATED, State.IGNORED, State.DIFFERS, State.BROKEN)
"""The states, the gravest last."""


def worst(states: str) -> State:
    """The gravest of some states."""
    return max((State(letter) for letter in set(states)), key=BY_GRAVITY.index, default=State.ABSENT)


@dataclass(frozen=True, slots=True)
class Column:
    """A shared part or a check. ``name`` is that of the part, or the code of the check; ``short`` is the title in few
    words, for above the tiles; ``checks`` are those that speak in it. ``language`` is the tag of the language whose
    pages it shows, with all that was found on them; empty for any other column."""

    name: str
    title: str
    short: str
    is_part: bool
    checks: tuple[Check, ...]
    language: str = ""


@dataclass(frozen=True, slots=True)
class MosaicRow:
    """A page of the site. ``name`` is its key, or its file where the map does not list it; ``tiles`` has the letter of
    a state for each column. Pages below it have a larger ``depth``."""

    name: str
    label: str
    depth: int
    file: str
    """Empty for sections, which have none."""
    tiles: str

    @property
    def has_violations(self) -> bool:
        """Whether anything is off here."""
        return State.BROKEN in self.tiles or State.DIFFERS in self.tiles


@dataclass(frozen=True)
class Mosaic:
    """The whole of it, with what was found on the pages of the first language; what was found ``in_others``, by tag, is
    in the columns of these. ``of_site`` is what belongs to no single page, with where it was found."""

    results: CheckResults
    in_others: Mapping[str, CheckResults]
    columns: tuple[Column, ...]
    rows: tuple[MosaicRow, ...]
    of_site: tuple[tuple[CheckResults, Check, Violation], ...]
    _violations: Mapping[tuple[str, str], tuple[tuple[Check, Violation], ...]] = field(repr=False)

    def at(self, row: str, column: str) -> tuple[tuple[Check, Violation], ...]:
        """What is off at a tile."""
        return self._violations.get((row, column), ())

    def found_in(self, column: str) -> CheckResults:
        """The results that a column shows: those of the pages in its language, or in the first one."""
        known = self.column(column)
        return self.in_others.get(known.language, self.results) if known is not None else self.results

    def passes_in(self, row: MosaicRow) -> tuple[Column, ...]:
        """The other languages in which a page is there and passes every check."""
        return tuple(one for one in self.columns if one.language and self.state(row, one.name) is State.PASSES)

    def state(self, row: MosaicRow, column: str) -> State:
        """The state of a tile."""
        return State(row.tiles[self.number(column)])

    def number(self, column: str) -> int:
        """Where a column stands, from 0."""
        return self._numbers[column]

    @cached_property
    def _numbers(self) -> Mapping[str, int]:
        return {column.name: number for number, column in enumerate(self.columns)}

    @cached_property
    def by_name(self) -> Mapping[str, MosaicRow]:
        """Every row by its name."""
        return {row.name: row for row in self.rows}

    @cached_property
    def counts(self) -> Mapping[State, int]:
        """How many tiles are in each state."""
        found: Counter[str] = Counter()
        for row in self.rows:
            found.update(row.tiles)
        return {state: found.get(state, 0) for state in State}

    @cached_property
    def counted(self) -> Mapping[str, int]:
        """How many things are off in each column."""
        found: Counter[str] = Counter()
        for (_, column), violations in self._violations.items():
            found[column] += len(violations)
        return found

    def column(self, name: str) -> Column | None:
        """A column by its name."""
        return self.columns[self._numbers[name]] if name in self._numbers else None

    def in_column(self, name: str) -> Iterator[tuple[MosaicRow, Check, Violation]]:
        """Everything that is off in a column, in the order of the rows."""
        for row in self.rows:
            for check, violation in self.at(row.name, name):
                yield row, check, violation

    def level(self, check: Check, violation: Violation) -> tuple[Level, str]:
        """How grave something is on this site, and the reason the map gives for that."""
        return self.results.levels.of_rule(check, violation.about)


def mosaic_of(results: CheckResults, others: Sequence[CheckResults] = ()) -> Mosaic:
    """The mosaic of a built site on which every check was run: ``results`` are those of the pages in the first
    language, ``others`` those of the pages in each of the others."""
    columns = tuple(_columns(results))
    named = {column.name for column in columns}
    in_parts = {check.code for column in columns if column.is_part for check in column.checks}
    violations: dict[tuple[str, str], list[tuple[Check, Violation]]] = defaultdict(list)
    of_site = []
    for check, violation in results.violations:
        column = violation.part if check.code in in_parts and violation.part in named else check.code
        row = _name_of(violation)
        if row is None or column not in named:
            of_site.append((results, check, violation))
        else:
            violations[row, column].append((check, violation))
    in_others = {each.built.plan.site.language: each for each in others if each.built.plan is not None}
    for tag, other in in_others.items():
        for check, violation in other.violations:
            key = violation.about
            if key is None or results.built.plan is None or key not in results.built.plan.site.pages:
                of_site.append((other, check, violation))
            else:
                violations[key, LANGUAGE + tag].append((check, violation))
    rows = tuple(_rows(results, columns, violations))
    places = {place: tuple(each) for place, each in violations.items()}
    return Mosaic(results, in_others, columns, rows, tuple(of_site), places)


def _name_of(violation: Violation) -> str | None:
    return violation.about or (violation.page.file if violation.page is not None else None)


def _columns(results: CheckResults) -> Iterator[Column]:
    plan = results.built.plan
    if plan is None:
        yield from (_of_check(check) for check in results.checks if check.stage is Stage.ANY)
        return

    def of(column: str) -> tuple[Check, ...]:
        return tuple(check for check in results.checks if check.column == column)

    for menu in plan.menus.values():
        if menu.entries:
            titles = f"The menu “{menu.label}”", f"{menu.label} menu"
            yield Column(MENU_PART + menu.name, *titles, True, of("menus"))
    yield Column("breadcrumbs", "Breadcrumbs", "Breadcrumbs", True, of("breadcrumbs"))
    yield Column("header", "Header", "Header", True, of("parts"))
    yield Column("footer", "Footer", "Footer", True, of("parts"))
    for tag in plan.site.languages[1:]:
        if tag in plan.languages:
            name = own_name(tag, plan.site.languages)
            yield Column(LANGUAGE + tag, f"Pages in {name}", name, True, (), tag)
    yield from (_of_check(check) for check in of(""))


def _of_check(check: Check) -> Column:
    return Column(check.code, check.title, check.code.replace("-", " ").capitalize(), False, (check,))


def _rows(
    results: CheckResults,
    columns: tuple[Column, ...],
    violations: Mapping[tuple[str, str], list[tuple[Check, Violation]]],
) -> Iterator[MosaicRow]:
    built, plan = results.built, results.built.plan

    def tiles(name: str, page: BuiltPage | None) -> str:
        return "".join(_state(results, column, name, page, violations.get((name, column.name))) for column in columns)

    met = set()
    if plan is not None:
        for key, page in plan.site.pages.items():
            there = built.by_key.get(key)
            met.add(there.file if there is not None else "")
            yield MosaicRow(key, page.label, page.depth, there.file if there is not None else "", tiles(key, there))
    for there in sorted((*built.pages, *built.beside), key=lambda page: _folders(page.file)):
        if there.file not in met:
            depth = 0 if plan is not None else _depth(there.file)
            label = there.head.title or there.file if plan is None else there.file
            name = there.file if plan is not None else there.key or there.file
            yield MosaicRow(name, label, depth, there.file, tiles(there.file, there))


def _folders(file: str) -> tuple[str, ...]:
    """The order of files in which a folder's own page comes before what is in it."""
    *folders, name = file.split("/")
    return (*folders, "" if name == "index.html" else name)


def _depth(file: str) -> int:
    *folders, name = file.split("/")
    return max(0, len(folders) - (name == "index.html"))


def _state(
    results: CheckResults,
    column: Column,
    name: str,
    page: BuiltPage | None,
    violations: list[tuple[Check, Violation]] | None,
) -> State:
    if violations:
        levels = {results.levels.of_rule(check, violation.about)[0] for check, violation in violations}
        if Level.ERROR in levels:
            return State.BROKEN
        return State.IGNORED if levels == {Level.IGNORE} else State.DIFFERS
    if column.language:
        return _translated(results, column.language, name)
    if page is None or not _applies_here(results, column, page):
        return State.ABSENT
    return State.PASSES


def _translated(results: CheckResults, tag: str, name: str) -> State:
    """Whether a page is there in a language."""
    plan = results.built.plan
    there = plan.is_translated(name, tag) if plan and name in plan.site.pages else None
    return State.ABSENT if there is None else State.PASSES if there else State.UNTRANSLATED


def _applies_here(results: CheckResults, column: Column, page: BuiltPage) -> bool:
    """Whether a page has the part of a column, or is one that its check asks about."""
    built, plan = results.built, results.built.plan
    is_beside = page.head.refresh is not None or page.file in built.repeat_files
    if is_beside and not any(check.of_redirects for check in column.checks):
        return False
    if plan is None or not column.is_part:
        return any(check.applies(built, page) for check in column.checks)
    if column.name.startswith(MENU_PART):
        return plan.shows_menu(plan.menus[column.name.removeprefix(MENU_PART)], page.key)
    if column.name == "breadcrumbs":
        return page.key is not None and bool(plan.breadcrumbs(page.key))
    return plan.shows(column.name, page.key)
