"""What a header does, worked out: its table, the simulation, and everything that may be wrong with it."""

from __future__ import annotations

import gzip
from dataclasses import replace
from itertools import pairwise

import pytest
from coloraide import Color
from hypothesis import given
from hypothesis import strategies as st

from basilica.core.compile import compile_map
from basilica.core.header import Machine, ScrollFrame, Settings, Viewport, simulate, table_of
from basilica.core.header.header_script import script_of
from basilica.core.header.header_style import rules_of
from basilica.core.header.legibility import composite, reading
from basilica.core.header.scroll_traces import TRACES
from basilica.core.header.viewport_share import jump_room, shares
from basilica.core.language.sections.header_words import HEADER
from basilica.core.language.sections.theme_words import Theme
from basilica.core.plan import Plan

MAP = """site: {name: Mill, base: https://mill.example}
pages:
  home: {path: /, title: Home}
  landing: {title: Landing, header: static, pages: {offer: Offer, back: {header: {behaviour: sticky}}}}
"""
BEHAVIOURS = HEADER[0].values


def planned(text: str) -> Plan:
    plan = compile_map(text).plan
    assert plan is not None
    return plan


def said(text: str) -> dict[str, tuple[int, int, str]]:
    """The findings about the header: where each stands, and its remedy."""
    found = compile_map(text).findings
    return {
        f.code: (f.line, f.column, f.remedy) for f in found if f.code.startswith("header-") or f.code == "bad-value"
    }


def states(settings: Settings, *depths: float, page: float = 5000) -> list[str]:
    return [moment.state for moment in steps(settings, *depths, page=page)]


def steps(settings: Settings, *depths: float, page: float = 5000, row: float = 0) -> tuple[ScrollFrame, ...]:
    return simulate(settings, Viewport(page, 800, row), [(i * 16.0, depth) for i, depth in enumerate(depths)])


# Common practice, no source: 100 px shrinks to 40 px past a depth of 100 px, in 300 ms; one that hides goes up by its
# own height on the way down and comes back on the way up; the room above the content never changes.
def test_the_facts_of_the_trade() -> None:
    shrink = steps(Settings(behaviour="shrink"), 0, 100, 101, 2000, 93, 92, 0)
    assert [moment.height for moment in shrink] == [100, 100, 40, 40, 40, 100, 100]
    assert Settings().duration == 300 and Settings().easing == "ease-in-out"
    retreat = steps(Settings(behaviour="hide"), 0, 90, 500, 495, 480, 0)
    assert [moment.top for moment in retreat] == [0, 0, -100, -100, 0, 0]
    both = steps(Settings(behaviour="shrink-hide"), 0, 101, 400, 380, 90)
    assert [(moment.state, moment.height) for moment in both] == [
        ("rest", 100),
        ("hidden", 40),
        ("hidden", 40),
        ("small", 40),
        ("rest", 100),
    ]
    assert states(Settings(behaviour="sticky"), 0, 700) == ["rest", "rest"]
    assert states(Settings(behaviour="sticky", shadow="scrolled"), 0, 1, 0) == ["rest", "over", "rest"]
    assert steps(Settings(), 0, 60, 300)[2].top == -300


# CSS Positioned Layout 3, 3: a sticky box moves only within the box that contains it.
def test_a_header_ends_with_the_box_in_which_it_sticks() -> None:
    viewport = Viewport(3000, 800, reach=1500)
    tops = [m.top for m in simulate(Settings(behaviour="sticky"), viewport, [(0, 1400), (1, 1450), (2, 1600)])]
    assert tops == [0, -50, -200]
    fixed = simulate(Settings(behaviour="sticky", layout="fixed"), viewport, [(0, 1600)])
    assert fixed[0].top == 0


def test_a_row_above_scrolls_away_stays_or_leaves() -> None:
    for row, bar, covers in (("scrolls", 0, 40), ("stays", 44, 84), ("leaves", 0, 40)):
        moment = steps(Settings(behaviour="shrink", top_row=row), 0, 600, row=44)[1]
        assert (moment.top, moment.covers) == (bar, covers), row
    assert steps(Settings(behaviour="hide", top_row="stays"), 0, 600, row=44)[1].covers == 44


@st.composite
def settings(draw: st.DrawFn) -> Settings:
    height = draw(st.integers(30, 160))
    return Settings(
        behaviour=draw(st.sampled_from(BEHAVIOURS)),
        height=height,
        small_height=draw(st.integers(24, height)),
        threshold=draw(st.integers(0, 300)),
        threshold_margin=draw(st.none() | st.integers(0, 300)),
        hides_after=draw(st.integers(0, 60)),
        returns_after=draw(st.integers(0, 60)),
        shadow=draw(st.sampled_from(["none", "scrolled"])),
        layout=draw(st.sampled_from(["sticky", "fixed"])),
        space=draw(st.sampled_from(["kept", "follows"])),
        top_row=draw(st.sampled_from(["scrolls", "stays", "leaves"])),
    )


DEPTHS = st.lists(st.floats(-200, 4000, allow_nan=False), max_size=40)


@given(settings(), DEPTHS, st.floats(0, 3000), st.sampled_from([0, 44]))
def test_a_header_flickers_only_where_a_finding_says_so(
    made: Settings, depths: list[float], page: float, row: int
) -> None:
    moments = steps(made, *depths, page=page, row=row)
    if made.threshold - made.back >= made.least_margin and made.back >= 0:
        assert not any(moment.flickers for moment in moments)
    for moment in moments:
        assert 0 <= moment.covers <= jump_room(made, row if made.top_row != "scrolls" else 0) + 1e-6
        assert moment.state == "rest" or made.behaviour != "static"


@given(st.integers(30, 160), st.integers(0, 300), st.data())
def test_the_least_margin_is_the_least(height: int, depth: int, data: st.DataObject) -> None:
    made = Settings(behaviour="shrink", height=height, small_height=24, threshold=depth, space="follows")
    short = data.draw(st.integers(0, made.least_margin - 1))
    just = [0.0, depth + 0.25]
    undone = steps(replace(made, threshold_margin=short), *just, page=9000)[1]
    assert undone.flickers or (depth < made.taken and undone.scrolled == 0)  # nobody gets past that depth
    assert not steps(replace(made, threshold_margin=made.least_margin), *just, page=9000)[1].flickers


@given(settings(), DEPTHS, st.floats(800, 5000))
def test_pulling_past_the_ends_is_standing_at_them(made: Settings, depths: list[float], page: float) -> None:
    end = max(page - 800, 0)
    pulled, held = Machine(table_of(made)), Machine(table_of(made))
    for depth in depths:
        assert pulled.look(depth, end) == held.look(min(max(depth, 0), end), end)
    if made.back >= 0:  # at the top it is whole, whatever came before
        assert held.look(0, end) == "rest"


@pytest.mark.parametrize("name", TRACES)
@pytest.mark.parametrize("behaviour", BEHAVIOURS)
def test_no_ready_made_trace_makes_a_header_change_its_mind(name: str, behaviour: str) -> None:
    made = Settings(behaviour=behaviour)
    trace = TRACES[name][1](made, 2000)
    assert [time for time, _ in trace] == sorted({time for time, _ in trace})
    moments = simulate(made, Viewport(2800, 800), trace)
    turns = [after.state for before, after in pairwise(moments) if after.state != before.state]
    assert len(turns) <= 12  # four times hidden, back, and at rest; no more than that


# WCAG 2.2, 1.4.3: 21:1 for black on white; #767676 on white is 4.54, #777777 is 4.48 (published worked values).
def test_contrast_over_the_worst_that_can_pass_under_it() -> None:
    def lowest(ink: str, **own: object) -> float:
        theme = Theme(colours=tuple((name, ink) for name in ("ink", "link", "hover", "current")))
        return min(read.ratio for read in reading(Settings(behaviour="sticky", ground="#ffffff", **own), theme))  # type: ignore[arg-type]

    assert lowest("#000000") == pytest.approx(21)
    assert lowest("#767676") == pytest.approx(4.54, abs=0.005)
    assert lowest("#777777") == pytest.approx(4.48, abs=0.005)
    assert lowest("#000000", opacity=0) == 1
    # Half white over black is a middle grey; black on that has the ratio of a general-purpose colour library.
    assert lowest("#000000", opacity=50) == pytest.approx(Color("#808080").contrast("black"), rel=0.01)


@given(st.tuples(*[st.integers(0, 255)] * 6), st.integers(0, 100))
def test_compositing_is_that_of_the_standard(channels: tuple[int, ...], opacity: int) -> None:
    # Compositing and Blending 1, 5.1: co = cs × αs + cb × (1 - αs) over an opaque backdrop.
    above, below = channels[:3], channels[3:]
    mixed = composite("#" + bytes(above).hex(), "#" + bytes(below).hex(), opacity)
    for at, (one, other) in enumerate(zip(above, below, strict=True)):
        wanted = one * opacity / 100 + other * (1 - opacity / 100)
        assert abs(int(mixed[1 + 2 * at : 3 + 2 * at], 16) - wanted) <= 1


def test_other_settings_on_some_pages_and_below_a_width() -> None:
    plan = planned(MAP + "header: {behaviour: shrink, min-window: 300, mobile: {below: 600, height: 60}}\n")
    wide, mobile, low = (plan.header.cell(*window).settings for window in ((1280, 800), (599, 800), (1280, 299)))
    assert (wide.height, mobile.height, low.behaviour) == (100, 60, "static")
    behaviours = {key: plan.header_of(key).plain.behaviour for key in plan.site.pages}
    assert list(behaviours.values()) == ["shrink", "static", "static", "sticky"]
    assert plan.header_of("landing").cell(500, 800).settings.height == 60
    assert len(plan.headers) == 3 and plan.header_of("landing/offer") is plan.header_of("landing")


@pytest.mark.parametrize(
    ("words", "code", "remedy"),
    [
        ("{behaviour: shrink, space: follows, band: §20}", "header-flickers", "`threshold-margin: 60` or more"),
        ("{behaviour: shrink, threshold: 50, band: §60, small-height: 60}", "header-never-rests", "at most 50"),
        ("{behaviour: shrink, small: §140}", "header-grows", "below 100"),
        ("{behaviour: hide, depth: §40}", "header-gap", "`threshold: 100` or more"),
        ("{behaviour: sticky, layout: fixed, until: §content}", "header-cannot-end", "`layout: sticky`"),
        ("{behaviour: sticky, opacity: §0, height: 60}", "header-without-ground", "`opacity:"),
        ("{behaviour: sticky, opacity: §40, height: 60}", "header-unreadable", "`opacity:"),
        ("{behaviour: §sticky, min-window: 0}", "header-takes-much", "`min-window: 500`"),
        ("{ground: §see-through}", "bad-value", "as CSS does"),
        ("{mobile: {behaviour: sticky, opacity: §0, height: 60}}", "header-without-ground", "`opacity:"),
    ],
)
def test_what_is_wrong_is_said_with_the_values_that_would_be_right(words: str, code: str, remedy: str) -> None:
    line = f"header: {words}"
    found = said(MAP.replace(", header: static", "") + line.replace("§", "") + "\n")
    assert code in found, found
    assert found[code][:2] == (5, line.index("§") + 1) and remedy in found[code][2]


def test_the_values_that_are_said_to_be_right_are_right() -> None:
    for words_of_it in ("behaviour: sticky, opacity: {}", "behaviour: shrink, ground: '#203050', opacity: {}"):
        text = MAP + "theme: {preset: lantern}\nheader: {" + words_of_it + ", height: 60}\n"
        wanted = said(text.replace("{}", "30"))["header-unreadable"][2]
        least = int("".join(c for c in wanted if c.isdigit()))
        assert "header-unreadable" not in said(text.replace("{}", str(least)))
        assert "header-unreadable" in said(text.replace("{}", str(least - 1)))


CSS = """theme:
  css: |
    html { overflow-x: hidden }
    .wide { color: red }
    @media (min-width: 1px) {
      body { margin: 0;
        HERE }
    }
header: {behaviour: sticky, height: 60, layout: LAYOUT, until: content}
"""


# CSS Positioned Layout 3, 3, and CSS Transforms 1: what holds a sticky or a fixed box.
@pytest.mark.parametrize(
    ("rule", "layout", "held"),
    [
        ("overflow: hidden auto", "sticky", True),
        ("overflow: clip", "sticky", False),
        ("height: 100%", "sticky", True),
        ("min-height: 100%", "sticky", False),
        ("} .b-header-space { position: relative", "sticky", True),
        ("} header.b-header { position: static", "sticky", True),
        ("} .b-header-space { top: auto", "sticky", True),
        ("} .b-header-range { overflow: auto", "sticky", True),
        ("} .dialog { z-index: 1000", "sticky", True),
        ("} .dialog { z-index: 900", "sticky", False),
        ("transform: scale(1)", "fixed", True),
        ("transform: scale(1)", "sticky", False),
    ],
)
def test_why_it_will_not_stick(rule: str, layout: str, held: bool) -> None:
    found = said(MAP + CSS.replace("HERE", rule).replace("LAYOUT", layout))
    assert ("header-held" in found) == held
    if held:
        assert found["header-held"][0] == 11  # the line of the map


# Common practice, no source: over a fifth is much.
def test_what_it_takes_of_a_screen() -> None:
    plan = planned(MAP + "header: {behaviour: shrink, min-window: 0}\n")
    side = next(share for share in shares(plan.header.settled, 0) if share.height == 375)
    assert (round(side.rest, 1), round(side.stays, 1)) == (26.7, 10.7)


@pytest.mark.parametrize(
    ("header", "bytes_at_most"),
    [
        ("{behaviour: sticky}", 0),
        ("{behaviour: shrink}", 1000),
        ("{behaviour: shrink-hide, shadow: scrolled, min-window: 400, mobile: {threshold: 60}}", 1000),
    ],
)
def test_the_script_is_small_and_there_is_none_for_what_sticks(header: str, bytes_at_most: int) -> None:
    script = "\n".join(line.code for line in script_of(planned(f"{MAP}header: {header}\n").headers[:1]))
    assert (len(gzip.compress(script.encode())) if script else 0) <= bytes_at_most
    assert (script == "") == (bytes_at_most == 0)


def test_each_declaration_has_a_reason_and_each_word_is_read() -> None:
    known = {word.name for word in HEADER}
    for behaviour in BEHAVIOURS:
        plan = planned(f"{MAP}header: {{behaviour: {behaviour}, opacity: 90, blur: 4, shadow: scrolled, tagline: T}}\n")
        lines = [line for rule in rules_of(plan.headers) for line in rule.lines]
        assert all(line.why.endswith((".", ")")) and line.word in known | {""} for line in lines)


def test_what_one_header_does_in_a_state_is_said_of_no_other() -> None:
    own = "home: {path: /, header: {over-picture: yes}}, a: {header: {shadow: none, over-picture: yes}}, b: B"
    text = f"site: {{name: Mill, base: 'https://mill.example'}}\npages: {{{own}}}\nmenus: {{utility: [b]}}\n"
    text += "header: {behaviour: shrink, shadow: scrolled, top-row: leaves, mobile: {behaviour: hide}}\n"
    rules = rules_of(planned(text).headers)
    clear = [rule.selector for rule in rules if any("linear-gradient" in line.value for line in rule.lines)]
    assert clear and all('data-b-header="home"' in one or 'data-b-header="a"' in one for one in clear)
    shadows = [rule.selector for rule in rules if any(line.value.startswith("0 2px") for line in rule.lines)]
    # The header of `a` is over content as well, and has no shadow there.
    assert shadows and all('="home"' in one or "html:not([data-b-header])" in one for one in shadows)
