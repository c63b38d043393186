"""What is wrong with the headers of a site, as findings with the values that would be right."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from difflib import get_close_matches

from basilica.core.header.breakpoints import least_name_room, picture_box, shown_name
from basilica.core.header.header_end import PLAIN, names_of_ends
from basilica.core.header.header_plan import BreakpointVariant, HeaderPlan
from basilica.core.header.header_settings import NAME, Settings
from basilica.core.header.legibility import least_opacity, reading
from basilica.core.header.sticky_rules import sticky_problems
from basilica.core.header.viewport_share import shares
from basilica.core.language.sections.part_words import IDENTITY
from basilica.core.map.site.model import Site
from basilica.core.plan import Plan
from basilica.core.plan.layout_assignment import width_in_row
from basilica.core.rules.examples import TWO_PAGES
from basilica.core.rules.finding import Findings
from basilica.core.rules.rule import COMMON, Level, Rule
from basilica.core.shared.text_metrics import wrap
from basilica.core.shared.theme import ENOUGH

HEADER_FLICKERS = Rule(
    code="header-flickers",
    level=Level.WARNING,
    title="The header undoes its own change",
    why="The page jumps to and fro and cannot be read.",
    standard=COMMON,
    remedy="Use the suggested `threshold-margin:`, or `space: kept`.",
    good=TWO_PAGES + "header: {behaviour: shrink}\n",
    bad=TWO_PAGES + "header: {behaviour: shrink, space: follows, threshold-margin: 4}\n",
)

HEADER_NEVER_RESTS = Rule(
    code="header-never-rests",
    level=Level.WARNING,
    title="The header never grows again",
    why="What it loses when scrolling down never comes back.",
    remedy="Use a smaller `threshold-margin:`, or a larger `threshold:`.",
    good=TWO_PAGES + "header: {behaviour: shrink}\n",
    bad=TWO_PAGES + "header: {behaviour: shrink, threshold: 20, threshold-margin: 60}\n",
)

HEADER_ROOM_KEPT = Rule(
    code="header-room-kept",
    level=Level.WARNING,
    title="The space cannot follow the header",
    why="The setting has no effect.",
    remedy="Remove `space:`; it works only for `shrink` with `layout: sticky`.",
    good=TWO_PAGES + "header: {behaviour: sticky}\n",
    bad=TWO_PAGES + "header: {behaviour: sticky, space: follows}\n",
)

HEADER_GROWS = Rule(
    code="header-grows",
    level=Level.WARNING,
    title="The header is higher after shrinking",
    why="Shrinking should give room to the text.",
    remedy="Use a smaller `small-height:`.",
    good=TWO_PAGES + "header: {behaviour: shrink, height: 80, small-height: 60}\n",
    bad=TWO_PAGES + "header: {behaviour: shrink, height: 80, small-height: 90}\n",
)

HEADER_GAP = Rule(
    code="header-gap",
    level=Level.ADVICE,
    title="The header leaves a gap",
    why="Its space on the page is visible while it is empty.",
    remedy="Use a larger `threshold:`.",
    good=TWO_PAGES + "header: {behaviour: hide}\n",
    bad=TWO_PAGES + "header: {behaviour: hide, threshold: 20, threshold-margin: 10}\n",
)

HEADER_CANNOT_END = Rule(
    code="header-cannot-end",
    level=Level.WARNING,
    title="A fixed header does not end",
    why="The footer stays hidden under it.",
    standard="CSS Positioned Layout 3, 2.1",
    remedy="Use `layout: sticky`, or `until: page`.",
    good=TWO_PAGES + "header: {behaviour: sticky, until: content}\n",
    bad=TWO_PAGES + "header: {behaviour: sticky, layout: fixed, until: content}\n",
)

_PICTURE = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 8 8"><path d="M0 0h8v8z"/></svg>'
_TOP_ROW = TWO_PAGES + "menus: {more: {label: More, place: utility, entries: [tides]}}\n"

HEADER_OVER_ROW = Rule(
    code="header-over-row",
    level=Level.WARNING,
    title="The header lies over the row above it",
    why="The row cannot be read or used.",
    remedy="Use `layout: sticky`, or `top-row: stays` or `top-row: leaves`.",
    good=_TOP_ROW + "header: {behaviour: sticky, top-row: scrolls}\n",
    bad=_TOP_ROW + "header: {behaviour: sticky, layout: fixed, top-row: scrolls}\n",
)

HEADER_WITHOUT_GROUND = Rule(
    code="header-without-ground",
    level=Level.WARNING,
    title="The header has no background",
    why="Text over text cannot be read.",
    standard="WCAG 2.2, 1.4.3 Contrast (Minimum)",
    remedy="Use a larger `opacity:`.",
    good=TWO_PAGES + "header: {behaviour: sticky}\n",
    bad=TWO_PAGES + "header: {behaviour: sticky, opacity: 0}\n",
)

HEADER_UNREADABLE = Rule(
    code="header-unreadable",
    level=Level.WARNING,
    title="The header is hard to read over the page",
    why="Any content may scroll under it.",
    standard="WCAG 2.2, 1.4.3 Contrast (Minimum)",
    remedy="Use a larger `opacity:`.",
    good=TWO_PAGES + "header: {behaviour: sticky, opacity: 100}\n",
    bad=TWO_PAGES + "header: {behaviour: sticky, opacity: 40}\n",
)

HEADER_TAKES_MUCH = Rule(
    code="header-takes-much",
    level=Level.WARNING,
    title="The header takes much of the screen",
    why="It leaves too little room for the page.",
    standard="WCAG 2.2, 1.4.10 Reflow; common practice",
    remedy="Use a smaller height, or `min-window:`.",
    good=TWO_PAGES + "header: {behaviour: sticky, height: 60}\n",
    bad=TWO_PAGES + "header: {behaviour: sticky, height: 300, min-window: 0}\n",
)

HEADER_HELD = Rule(
    code="header-held",
    level=Level.WARNING,
    title="A CSS rule keeps the header from sticking",
    why="The setting has no effect.",
    standard="CSS Positioned Layout 3, 3.4",
    remedy="Remove the rule, or use what the message suggests.",
    good=TWO_PAGES + "header: {behaviour: sticky}\ntheme: {css: 'body { min-height: 100% }'}\n",
    bad=TWO_PAGES + "header: {behaviour: sticky}\ntheme: {css: 'body { height: 100% }'}\n",
)

HEADER_ENDS_NOWHERE = Rule(
    code="header-ends-nowhere",
    level=Level.WARNING,
    title="The header should stick until something that does not exist",
    why="It sticks to the end of the page instead.",
    remedy="Use `page`, `content`, or the name of a slot, a part or a menu.",
    good=TWO_PAGES + "header: {behaviour: sticky, until: footer}\n",
    bad=TWO_PAGES + "header: {behaviour: sticky, until: foter}\n",
)

HEADER_NAME_CUT = Rule(
    code="header-name-cut",
    level=Level.WARNING,
    title="The site's name is cut off in the header",
    why="Readers see only a part of the name.",
    remedy="Use a larger `name-width:` or a higher header, or give the part `identity` a shorter `name:`.",
    good=TWO_PAGES.replace("name: Mill", "name: Saltern Reach Boatyard Trust"),
    bad=TWO_PAGES.replace("name: Mill", f"name: {'The Society for Old Mills and Boatyards ' * 3}at Saltern Reach"),
)

HEADER_PICTURE_CUT = Rule(
    code="header-picture-cut",
    level=Level.WARNING,
    title="The logo is higher than the header",
    why="Its edges are cut off.",
    remedy="Use a smaller `height:` for the logo, or a higher header.",
    good={
        "site.yaml": TWO_PAGES + "parts: {identity: {kind: identity, picture: mill.svg, height: 60}}\n",
        "files/mill.svg": _PICTURE,
    },
    bad={
        "site.yaml": TWO_PAGES + "parts: {identity: {kind: identity, picture: mill.svg, height: 160}}\n",
        "files/mill.svg": _PICTURE,
    },
)

HEADER_ONE_ROW = Rule(
    code="header-one-row",
    level=Level.WARNING,
    title="A header that shrinks has one row",
    why="There is no room in it for the name above the menu, so `arrange` has no effect.",
    remedy="Remove `arrange:`, or use `behaviour: sticky` or `hide`.",
    good=TWO_PAGES + "header: {behaviour: sticky, arrange: centred}\n",
    bad=TWO_PAGES + "header: {behaviour: shrink, arrange: centred}\n",
)

HEADER_OVER_BREADCRUMBS = Rule(
    code="header-over-breadcrumbs",
    level=Level.WARNING,
    title="The header lies over the breadcrumbs",
    why="The page begins with them, and they cannot be read under the header.",
    remedy="Use it only on pages that begin with a picture, such as the home page, or set "
    "`breadcrumbs: {place: bottom}`.",
    good=TWO_PAGES.replace("home: {", "home: {header: {over-picture: yes}, "),
    bad=TWO_PAGES + "header: {over-picture: yes}\n",
)

RULES = (
    HEADER_ONE_ROW,
    HEADER_OVER_BREADCRUMBS,
    HEADER_FLICKERS,
    HEADER_NEVER_RESTS,
    HEADER_ROOM_KEPT,
    HEADER_GROWS,
    HEADER_GAP,
    HEADER_CANNOT_END,
    HEADER_OVER_ROW,
    HEADER_WITHOUT_GROUND,
    HEADER_UNREADABLE,
    HEADER_TAKES_MUCH,
    HEADER_HELD,
    HEADER_ENDS_NOWHERE,
    HEADER_NAME_CUT,
    HEADER_PICTURE_CUT,
)

Said = tuple[Rule, tuple[str, ...], str, str]
"""A rule, the words that it is about, what is wrong, and what to do."""


def find(plan: Plan, findings: Findings) -> None:
    """Add the findings about every header of a plan."""
    site = plan.site
    utility = any(menu.place == "utility" and menu.entries for menu in plan.menus.values())
    has_row = utility or width_in_row(site, plan.assignments) > 0
    for header in plan.headers:
        said: dict[tuple[Rule, str], Said] = {}
        for cell in header.cells:
            for one in _of_cell(site, cell, has_row):
                said.setdefault((one[0], one[2]), one)
        names = _of_name(plan, header)
        for rule, words, message, remedy in [*said.values(), *_of_screens(header), *names]:
            findings.add(rule, site.lines.place(header.place(*words)), message, remedy)
        _over(plan, header, findings)
    _held(site, plan.headers, findings)
    until = plan.header.plain.until
    if until not in PLAIN and not plan.header.ends_at:
        known = names_of_ends(site)
        near = next(iter(get_close_matches(until, known, 1)), None)
        message = f"`until: {until[:60]}` names no slot, no part and no menu below the header."
        remedy = f"Did you mean `{near}`?" if near else ""
        findings.add(HEADER_ENDS_NOWHERE, site.lines.place(plan.header.place("until")), message, remedy)


def _of_cell(site: Site, cell: BreakpointVariant, has_row: bool) -> Iterator[Said]:
    settings = cell.settings
    if not settings.sticks:
        return

    def words(*names: str) -> tuple[str, ...]:
        return tuple(
            part for name in names for part in (f"mobile.{name}", name) if cell.windows.width_below or part == name
        )

    yield from (
        (rule, words(*names), message, remedy)
        for rule, names, message, remedy in (
            *_steadiness(settings),
            *_layout(settings, has_row),
            *_legibility(settings, site),
        )
    )


def _over(plan: Plan, header: HeaderPlan, findings: Findings) -> None:
    """Pages that begin with breadcrumbs under a header that lies over what a page begins with."""
    if not any(cell.settings.over_picture == "yes" for cell in header.cells) or plan.site.crumbs.place != "top":
        return
    under = [key for key in plan.builds() if plan.header_of(key) is header and plan.breadcrumbs(key)]
    if under:
        findings.add(
            HEADER_OVER_BREADCRUMBS,
            plan.site.lines.place(header.place("over-picture")),
            f"On {len(under)} {'page' if len(under) == 1 else 'pages'}, such as `{under[0]}`, the header lies over the"
            " breadcrumbs.",
        )


def _steadiness(settings: Settings) -> Iterator[Said]:
    least = settings.least_margin
    if settings.space == "follows" and not settings.follows:
        yield (
            HEADER_ROOM_KEPT,
            ("space",),
            f"`space: follows` has no effect with `behaviour: {settings.behaviour}` with `layout: {settings.layout}`;"
            " the space is kept.",
            "Remove it; it works only for `shrink` with `layout: sticky`.",
        )
    if settings.shrinks and settings.arrange != "row":
        yield (
            HEADER_ONE_ROW,
            ("arrange", "behaviour"),
            f"`arrange: {settings.arrange}` has no effect with `behaviour: {settings.behaviour}`.",
            "",
        )
    if settings.shrinks and settings.small_height >= settings.height:
        yield (
            HEADER_GROWS,
            ("small-height", "height"),
            f"When small the header is {settings.small_height} px high, and at rest {settings.height} px.",
            f"Write a `small-height:` below {settings.height}.",
        )
        return
    if settings.shrinks or settings.hides:
        if settings.threshold - settings.back < least:
            yield (
                HEADER_FLICKERS,
                ("threshold-margin", "space"),
                f"Becoming small takes {least} px out of the page, which moves the page back past `threshold-margin: "
                f"{settings.threshold - settings.back}`, and the header at once grows again.",
                f"Write `threshold-margin: {least}` or more, or `space: kept`.",
            )
        if settings.back < 0:
            yield (
                HEADER_NEVER_RESTS,
                ("threshold-margin", "threshold"),
                f"The header returns to rest {settings.threshold - settings.back} px above the threshold of"
                f" {settings.threshold} px, and no page can be scrolled there.",
                f"Write a `threshold-margin:` of at most {settings.threshold}."
                if least <= settings.threshold
                else f"Write `threshold: {least}` or more, or `space: kept`.",
            )
        free = settings.height if settings.hides else settings.taken
        if settings.threshold < free and not settings.follows:
            yield (
                HEADER_GAP,
                ("threshold",),
                f"Scrolled down {settings.threshold} px, the header leaves {free - settings.threshold} px of its space"
                " in view, with nothing in it.",
                f"Write `threshold: {free}` or more.",
            )


def _layout(settings: Settings, has_row: bool) -> Iterator[Said]:
    if settings.layout == "fixed" and settings.until != "page":
        yield (
            HEADER_CANNOT_END,
            ("until", "layout"),
            "A fixed header is outside the flow of the page, so it cannot end with anything in it.",
            "Write `layout: sticky`, or `until: page`.",
        )
    if settings.layout == "fixed" and has_row and settings.top_row == "scrolls":
        yield (
            HEADER_OVER_ROW,
            ("layout", "top-row"),
            "A fixed header covers the row above it until that has scrolled away.",
            "Write `layout: sticky`, or `top-row: stays` or `top-row: leaves`.",
        )


def _legibility(settings: Settings, site: Site) -> Iterator[Said]:
    if settings.opacity == 100 and not settings.ground:
        return  # the pairs of the theme say it
    worst = min(reading(settings, site.theme), key=lambda read: read.ratio)
    if worst.enough:
        return
    least = least_opacity(settings, site.theme)
    remedy = (
        f"Write `opacity: {least}` or more." if least is not None else "Choose another `ground:`, or other colours."
    )
    if settings.opacity == 0:
        yield (
            HEADER_WITHOUT_GROUND,
            ("opacity",),
            "The header has no background, and covers the text of the page once it sticks.",
            remedy,
        )
        return
    yield (
        HEADER_UNREADABLE,
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
            HEADER_TAKES_MUCH,
            ("height", "behaviour"),
            f"On {worst.screen} ({worst.width} × {worst.height}) the header takes {round(worst.stays)} percent of the"
            " screen; more than a fifth is a lot.",
            f"Write `min-window: {lowest}`: in windows lower than that it scrolls away. Or write a smaller height.",
        )


def _of_name(plan: Plan, header: HeaderPlan) -> Iterator[Said]:
    """What of the name and of the picture beside it has no room."""
    site, in_bar = plan.site, plan.assignments.all[0].in_slot("bar")
    identity = site.parts.get(IDENTITY)
    pictured = bool(identity and identity.value("picture"))
    low = min(header.cells, key=lambda cell: cell.settings.height).settings
    if pictured and picture_box(site)[1] > low.height:
        high = picture_box(site)[1]
        yield (
            HEADER_PICTURE_CUT,
            ("height",),
            f"The picture beside the name is {high} px high, and the header {low.height} px.",
            f"Write `height: {low.height - 8}` for the picture, or `height: {high + 8}` for the header.",
        )
    for cell in header.cells:
        settings = cell.settings
        lines, name = settings.name_lines, shown_name(site)
        room = least_name_room(site, plan.menus["main"], settings, cell.windows.width_from, in_bar)
        # Widths of text are estimated, and too large rather than too small.
        if name and "".join(wrap(name, room, NAME * 0.9, lines)).endswith("…") and not name.endswith("…"):
            yield (
                HEADER_NAME_CUT,
                ("name-width", "height"),
                f"“{name[:80]}” does not fit into {lines} {'line' if lines == 1 else 'lines'} of {round(room)} px.",
                "",
            )
            return


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
                    place = site.place_in_style(trouble.line)
                    findings.add(
                        HEADER_HELD,
                        place,
                        f"`{trouble.rule[:120]}` (line {trouble.line} of the style sheet) {trouble.message}.",
                        trouble.remedy,
                    )
