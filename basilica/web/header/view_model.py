"""A header as its workspace shows it: its settings and where they hold, what follows from them, and what is written."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import NamedTuple

from basilica.core.compile import Compiled
from basilica.core.header import BreakpointVariant, HeaderPlan, Settings
from basilica.core.header.header_end import names_of_ends
from basilica.core.header.header_script import Code, script_of
from basilica.core.header.header_settings import word_of
from basilica.core.header.header_style import AIR, REDUCED_MOTION, StyleRule, rules_of
from basilica.core.header.legibility import Read, least_opacity, reading
from basilica.core.header.viewport_share import Share, jump_room, shares, staying
from basilica.core.language.sections.header_words import BELOW, HEADER, MOBILE, RANGES, UNITS
from basilica.core.language.sections.part_words import MENU_PART
from basilica.core.language.word import Word
from basilica.core.map.site.model import Header
from basilica.core.plan import Plan
from basilica.core.rules.finding import Finding

GROUPS = (
    ("What it does", ("behaviour", "threshold", "threshold-margin", "hides-after", "returns-after")),
    ("Heights", ("height", "small-height", "min-window")),
    ("Movement", ("duration", "easing")),
    ("When small", ("small-name", "small-tagline", "top-row")),
    ("Background", ("ground", "opacity", "blur", "shadow", "shadow-strength", "border")),
    ("Bar", ("bar", "arrange", "over-picture", "align", "padding", "name-width", "width", "tagline")),
    ("Position", ("layout", "space", "until", "layer", "below")),
)
"""The words of the header as one looks for them."""
LABELS = {
    "small-name": "Name when small",
    "small-tagline": "Tagline when small",
    "ground": "Background",
    "border": "Lower edge",
    "bar": "Bar is as wide as",
    "align": "Menu position",
    "arrange": "Name and menu",
    "padding": "Space at both ends",
    "name-width": "Widest name",
    "width": "Content width",
    "layout": "Position",
    "space": "Space in the page",
    "until": "Sticks until",
    "layer": "Stacking order",
    "below": "Below width",
    "min-window": "Lowest window",
}
"""What fields are called whose word alone says too little."""


class Field(NamedTuple):
    """A word of the header at one place: what the map gives there (``own``), what ``holds`` without that, and the
    declarations that it ``feeds``."""

    word: Word
    own: str
    holds: str
    unit: str
    range: tuple[int, int] | None
    feeds: tuple[str, ...]
    choices: tuple[tuple[str, str], ...] = ()
    """What it can be, each with its words; none where anything can be typed."""

    @property
    def label(self) -> str:
        """What the field is called."""
        return LABELS.get(self.word.name) or self.word.name.replace("-", " ").capitalize()


@dataclass(frozen=True)
class HeaderView:
    """What is shown of the header of a page in a window."""

    header: HeaderPlan
    cell: BreakpointVariant
    findings: tuple[Finding, ...]
    reading: tuple[Read, ...]
    least_opacity: int | None
    shares: tuple[Share, ...]
    jump_room: int
    air: int
    staying: int
    rules: tuple[StyleRule, ...]
    script: tuple[Code, ...]

    @property
    def settings(self) -> Settings:
        """The settings that hold in the window."""
        return self.cell.settings


def header_view(compiled: Compiled, key: str | None, width: int, height: int) -> HeaderView:
    """The header of a page (None: of most) in a window of that size, CSS px; ``compiled`` has a plan."""
    assert compiled.plan is not None
    plan = compiled.plan
    header = plan.header_of(key)
    cell = header.cell(width, height)
    shown = ("", cell.windows.media, REDUCED_MOTION)
    return HeaderView(
        header,
        cell,
        tuple(finding for finding in compiled.findings if finding.code.startswith("header-")),
        reading(cell.settings, plan.site.theme),
        least_opacity(cell.settings, plan.site.theme),
        shares(header.settled, max(each.row for each in header.cells)),
        jump_room(cell.settings, cell.row),
        AIR,
        staying(cell.settings, cell.row),
        tuple(rule for rule in rules_of(plan.headers, header) if rule.media in shown),
        script_of([header]),
    )


def own_header(plan: Plan, key: str | None) -> Header:
    """What the map says of the header for the site (None), or on one page."""
    return plan.site.header if key is None else plan.site.pages[key].options.header or Header()


def fields(view: HeaderView, plan: Plan, key: str | None, mobile: bool) -> list[tuple[str, list[Field]]]:
    """The fields of the header's settings at a place, in groups: for the site (None) or a page, in every window or
    (``mobile``) in those below a width."""
    own = own_header(plan, key)
    said = dict(own.mobile if mobile else own.own)
    section = (BELOW, *MOBILE) if mobile else HEADER if key is None else MOBILE
    known = {word.name: word for word in section}
    cells = [cell for cell in view.header.cells if cell.windows.width_below] if mobile else []
    holding = (cells or view.header.cells)[-1].settings
    holds = {word_of(name): getattr(holding, name) for name in Settings.__slots__}
    holds["below"] = next((cell.windows.width_below for cell in view.header.cells if cell.windows.width_below), "")
    holds["threshold-margin"] = holding.threshold - holding.back
    holds["min-window"] = holding.lets_go_below(view.header.cells[-1].row)
    fed = _feeds(view.rules)
    groups = []
    for title, names in GROUPS:
        inside = [
            Field(
                known[name],
                str(said.get(name, "")),
                str(holds.get(name, "") or known[name].default).replace("`", ""),
                UNITS.get(name, ""),
                RANGES.get(name),
                fed.get(name, ()),
                _ends(plan) if name == "until" else tuple((value, value) for value in known[name].values),
            )
            for name in names
            if name in known
        ]
        if inside:
            groups.append((title, inside))
    return groups


def _ends(plan: Plan) -> tuple[tuple[str, str], ...]:
    """What the header can stick until, in words."""
    words = {"page": "the end of the page", "content": "the end of the content"}
    names = {f"{MENU_PART}{name}": f"the menu {menu.label}" for name, menu in plan.menus.items()}
    return tuple((name, words.get(name) or names.get(name) or name) for name in names_of_ends(plan.site))


def _feeds(rules: Iterable[StyleRule]) -> dict[str, tuple[str, ...]]:
    found: dict[str, tuple[str, ...]] = {}
    for rule in rules:
        for line in rule.lines:
            if line.word:
                selector = rule.selector.removeprefix(":where(").removesuffix(")").partition(",")[0]
                found[line.word] = (*found.get(line.word, ()), f"{selector} {{ {line.name}: {line.value} }}")
    return found
