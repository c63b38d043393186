"""What is wrong with the headers of a site, as findings with the values that would be right."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from basilica.core.header.header_plan import BreakpointVariant, HeaderPlan
from basilica.core.header.header_settings import Settings
from basilica.core.header.legibility import least_opacity, reading
from basilica.core.header.sticky_rules import sticky_problems
from basilica.core.header.viewport_share import shares
from basilica.core.map.site.model import Site
from basilica.core.rules.finding import Findings
from basilica.core.shared.theme import ENOUGH

Said = tuple[str, tuple[str, ...], str, str]
"""A code, the words that it is about, what is wrong, and what to do."""


def check_headers(site: Site, headers: Iterable[HeaderPlan], has_row: bool, findings: Findings) -> None:
    """Add the findings about every header; ``has_row`` tells whether a row stands above the bar."""
    for header in headers:
        said: dict[tuple[str, str], Said] = {}
        for cell in header.cells:
            for one in _of_cell(site, cell, has_row):
                said.setdefault((one[0], one[2]), one)
        for one in [*said.values(), *_of_screens(header)]:
            code, words, message, remedy = one
            findings.add(code, site.lines.place(header.place(*words)), message, remedy)
    _held(site, headers, findings)


def _of_cell(site: Site, cell: BreakpointVariant, has_row: bool) -> Iterator[Said]:
    settings = cell.settings
    if not settings.sticks:
        return

    def words(*names: str) -> tuple[str, ...]:
        return tuple(
            part for name in names for part in (f"mobile.{name}", name) if cell.windows.width_below or part == name
        )

    yield from (
        (code, words(*names), message, remedy)
        for code, names, message, remedy in (
            *_steadiness(settings),
            *_layout(settings, has_row),
            *_legibility(settings, site),
        )
    )


def _steadiness(settings: Settings) -> Iterator[Said]:
    least = settings.least_margin
    if settings.space == "follows" and not settings.follows:
        yield (
            "header-room-kept",
            ("space",),
            f"`space: follows` has no meaning for `behaviour: {settings.behaviour}` with `layout: {settings.layout}`;"
            " the room is kept.",
            "Take it out; it is for `shrink` that is `sticky`.",
        )
    if settings.shrinks and settings.small_height >= settings.height:
        yield (
            "header-grows",
            ("small-height", "height"),
            f"When small the header is {settings.small_height} px high, and at rest {settings.height} px.",
            f"Write a `small-height:` below {settings.height}.",
        )
        return
    if settings.shrinks or settings.hides:
        if settings.threshold - settings.back < least:
            yield (
                "header-flickers",
                ("threshold-margin", "space"),
                f"Becoming small takes {least} px out of the page, which moves the page back past `band: "
                f"{settings.threshold - settings.back}`, and the header at once grows again.",
                f"Write `threshold-margin: {least}` or more, or `space: kept`.",
            )
        if settings.back < 0:
            yield (
                "header-never-rests",
                ("threshold-margin", "threshold"),
                f"It is at rest again {settings.threshold - settings.back} px above a depth of {settings.threshold} px,"
                " which no page can be scrolled to.",
                f"Write a `threshold-margin:` of at most {settings.threshold}."
                if least <= settings.threshold
                else f"Write `threshold: {least}` or more, or `space: kept`.",
            )
        free = settings.height if settings.hides else settings.taken
        if settings.threshold < free and not settings.follows:
            yield (
                "header-gap",
                ("threshold",),
                f"At a depth of {settings.threshold} px the header leaves {free - settings.threshold} px of its space"
                " in view, with nothing in it.",
                f"Write `threshold: {free}` or more.",
            )


def _layout(settings: Settings, has_row: bool) -> Iterator[Said]:
    if settings.layout == "fixed" and settings.until == "content":
        yield (
            "header-cannot-end",
            ("until", "layout"),
            "A fixed header stands outside the flow of the page, so it does not end with the content.",
            "Write `layout: sticky`, or `until: page`.",
        )
    if settings.layout == "fixed" and has_row and settings.top_row == "scrolls":
        yield (
            "header-over-row",
            ("layout", "top-row"),
            "A fixed header lies over the row above it until that is scrolled away.",
            "Write `layout: sticky`, or `top-row: stays` or `top-row: leaves`.",
        )


def _legibility(settings: Settings, site: Site) -> Iterator[Said]:
    if settings.opacity == 100 and not settings.ground:
        return  # the pairs of `looks` say it
    worst = min(reading(settings, site.theme), key=lambda read: read.ratio)
    if worst.enough:
        return
    least = least_opacity(settings, site.theme)
    remedy = (
        f"Write `opacity: {least}` or more." if least is not None else "Choose another `ground:`, or other colours."
    )
    if settings.opacity == 0:
        yield (
            "header-without-ground",
            ("opacity",),
            "The header has no ground, and lies over the text of the page once it sticks.",
            remedy,
        )
        return
    yield (
        "header-unreadable",
        ("opacity", "ground"),
        f"Over {worst.over} under the header, `{worst.name}` has a contrast of {int(worst.ratio * 100) / 100} to 1;"
        f" {ENOUGH} is needed.",
        remedy,
    )


def _of_screens(header: HeaderPlan) -> Iterator[Said]:
    much = [share for share in shares(header.settled, max(cell.row for cell in header.cells)) if share.much]
    if much:
        worst = max(much, key=lambda share: share.stays)
        lowest = 5 * round(worst.stays * worst.height / 100)
        yield (
            "header-takes-much",
            ("height", "behaviour"),
            f"Of {worst.screen} ({worst.width} × {worst.height}) the header takes {round(worst.stays)} percent while"
            " one reads; a fifth is much.",
            f"Write `min-window: {lowest}`: in windows lower than that it scrolls away. Or write a smaller height.",
        )


def _held(site: Site, headers: Iterable[HeaderPlan], findings: Findings) -> None:
    """What the site's own style sheet says against a header, once for each rule."""
    css = site.theme.css
    if not css:
        return
    told = set()
    for header in headers:
        for cell in header.cells:
            for trouble in sticky_problems(css, cell.settings):
                if trouble not in told:
                    told.add(trouble)
                    first, column = site.lines.place(site.theme.css_at)
                    place = (first + trouble.line, 1) if site.theme.css_in_lines else (first, column)
                    findings.add(
                        "header-held",
                        place,
                        f"`{trouble.rule[:120]}` (line {trouble.line} of the style sheet) {trouble.message}.",
                        trouble.remedy,
                    )
