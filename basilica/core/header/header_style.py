"""The style of a header, rule by rule: each line with the reason for it and the word of the map it comes from."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from itertools import groupby
from typing import NamedTuple

from basilica.core.header.header_plan import BreakpointVariant, HeaderPlan
from basilica.core.header.header_settings import EM, Settings
from basilica.core.header.viewport_share import jump_room

REDUCED_MOTION = "(prefers-reduced-motion: reduce)"
AIR = 16
"""Between the header and what a jump leads to, CSS px."""
_LEAST = 44
"""A control that is easy to hit, CSS px (WCAG 2.2, 2.5.5)."""
_MARGINS = {"end": "auto 0", "center": "auto", "start": "0 auto"}
_UNUSED = ':not(:focus-within, :has([aria-expanded="true"]))'
"""Nothing in it has the focus or is open; only then may it go."""
_OVER = "over-picture"
_AT_TOP = 'html:not([data-b-state="over"], [data-b-state="small"], [data-b-state="hidden"])'
_SCRIM = "rgb(0 0 0 / 75%), rgb(0 0 0 / 56%)"
"""Over white it leaves a grey on which white has 4.5:1 (WCAG 2.2, 1.4.3)."""
_SHADOWS = {
    "soft": "0 1px 4px rgb(0 0 0 / 14%)",
    "medium": "0 2px 10px rgb(0 0 0 / 25%)",
    "strong": "0 4px 18px rgb(0 0 0 / 40%)",
}


def rem(px: float) -> str:
    """A length in the reader's own letter size: what stands in a header grows with it, and so the header does."""
    return f"{px / EM:g}rem" if px else "0"


class StyleLine(NamedTuple):
    """A declaration; ``why`` it is there, and the ``word`` under `header:` that it comes from (empty for none)."""

    name: str
    value: str
    why: str
    word: str = ""


class StyleRule(NamedTuple):
    """A rule; ``media`` is empty where it holds in every window."""

    media: str
    selector: str
    lines: tuple[StyleLine, ...]


def rules_of(headers: tuple[HeaderPlan, ...], only: HeaderPlan | None = None) -> tuple[StyleRule, ...]:
    """The rules of all headers of a site, or of one of them. They weigh nothing (`:where`), and those of two headers,
    or of two kinds of windows, never hold at once. What is the same in all of them is said once."""
    written = [
        (header, cell, _Writer(cell).written()) for header in headers if only in (None, header) for cell in header.cells
    ]
    roots = {header.name: _root(header) if len(headers) > 1 else "" for header in headers}
    found: list[StyleRule] = []
    for in_states in (False, True):
        lines: dict[tuple[str, str, _Part, str], StyleLine] = {}
        for part, name in dict.fromkeys((part, name) for *_, parts in written for part, name in parts):
            if any(part.states) is in_states:
                lines.update(_placed(part, name, written, roots))
        scopes = dict.fromkeys((root, media) for root, media, *_ in lines)
        for root, media in sorted(scopes, key=lambda scope: (scope[0] != "", bool(scope[1]))):
            for part in dict.fromkeys(key[2] for key in lines if key[:2] == (root, media)):
                inside = tuple(line for key, line in lines.items() if key[:3] == (root, media, part))
                found.append(StyleRule(media, part.selector(root), inside))
    if any(header.scripted for header in headers):
        moved = ".b-header-space, .b-header, .b-bar, .b-name, .b-tagline, .b-utility"
        still = StyleLine("transition", "none", "With reduced motion it switches at once.")
        found.append(StyleRule(REDUCED_MOTION, f":where({moved})", (still,)))
    return tuple(found)


def _root(header: HeaderPlan) -> str:
    return f'html[data-b-header="{header.name}"]' if header.name else "html:not([data-b-header])"


class _Part(NamedTuple):
    """What some lines are said of: elements, in some states (an empty one is any; one that is no word is a selector of
    the page)."""

    targets: tuple[str, ...]
    states: tuple[str, ...]

    def is_in(self, cell: BreakpointVariant) -> bool:
        """Whether a header in such windows can be in one of these states."""
        reached = {"", *(state for row in cell.table for state in (row.state, row.next))}
        return any(state in reached or state.startswith("html") for state in self.states)

    def selector(self, root: str) -> str:
        heads = [_head(root, state) for state in self.states]
        whole = ", ".join(f"{head} {target}".strip() or "html" for head in heads for target in self.targets)
        return f":where({whole})"


def _head(root: str, state: str) -> str:
    if not state.startswith("html"):
        return root + (f'[data-b-state="{state}"]' if state else "")
    return root + state.removeprefix("html") if root else state


Written = dict[tuple[_Part, str], StyleLine]
"""The lines of one kind of windows: by what they are said of, and the property."""


def _placed(
    part: _Part, name: str, written: list[tuple[HeaderPlan, BreakpointVariant, Written]], roots: dict[str, str]
) -> Iterator[tuple[tuple[str, str, _Part, str], StyleLine]]:
    """Where a property of a part is said: of all headers, of one header, or in one kind of windows."""

    def same(cells: Iterable[tuple[BreakpointVariant, Written]]) -> StyleLine | None:
        # A state that a header never has, and a change that never comes, may be said of it all the same.
        lines = [said.get((part, name)) for cell, said in cells if name == "transition" or part.is_in(cell)]
        there = [line for line in lines if line]
        alike = len({line.value for line in there}) == 1 and (name == "transition" or len(there) == len(lines))
        return there[0] if alike else None

    if line := same((cell, said) for _, cell, said in written):
        yield ("", "", part, name), line
        return
    for header in dict.fromkeys(header.name for header, *_ in written):
        own = [(cell, said) for one, cell, said in written if one.name == header]
        if line := same(own):
            yield (roots[header], "", part, name), line
            continue
        for cell, said in own:
            if line := said.get((part, name)):
                yield (roots[header], cell.windows.media, part, name), line


def text_of(rules: Iterable[StyleRule]) -> str:
    """Rules as they stand in a style sheet."""
    written = []
    for media, inside in groupby(rules, lambda rule: rule.media):
        step = "  " if media else ""
        lines = [
            f"{step}{rule.selector} {{ " + " ".join(f"{line.name}: {line.value};" for line in rule.lines) + " }"
            for rule in inside
        ]
        written += [f"@media {media} {{", *lines, "}"] if media else lines
    return "\n".join(written)


class _Writer:
    def __init__(self, cell: BreakpointVariant) -> None:
        self.cell, self.settings = cell, cell.settings
        self.found: Written = {}

    def written(self) -> Written:
        settings, cell = self.settings, self.cell
        self._page(settings)
        self._room(settings)
        self._bar(settings)
        if cell.row:
            self._row(settings)
        if settings.shrinks:
            self._small(settings)
        if settings.hides:
            self._hidden(settings)
        if settings.over_picture == "yes":
            self._over_picture(settings)
        if settings.shadow == "scrolled" and settings.sticks:
            shadow = StyleLine("box-shadow", _SHADOWS[settings.shadow_strength], "It lies over content now.", "shadow")
            self._add([".b-header"], shadow, states=("over", "small"))
        return self.found

    def _add(self, targets: list[str], *lines: StyleLine | None, states: tuple[str, ...] = ("",)) -> None:
        part = _Part(tuple(targets), states)
        self.found.update({(part, line.name): line for line in lines if line})

    def _moves(self, *names: str) -> StyleLine | None:
        settings = self.settings
        if not self.cell.table or not settings.duration:
            return None
        value = ", ".join(f"{name} var(--b-time) {settings.easing}" for name in names)
        return StyleLine("transition", value, "How long a change takes, and how it runs.", "duration")

    def _height(self) -> str:
        """The height at rest. What scrolls away takes no more than a quarter of a low window, but for a control's
        room."""
        height = rem(self.settings.height)
        return (
            height
            if self.settings.sticks or self.settings.height <= _LEAST
            else f"clamp({rem(_LEAST)}, 25vh, {height})"
        )

    def _page(self, settings: Settings) -> None:
        whole = settings.height + self.cell.row
        room = jump_room(settings, self.cell.row)
        self._add(
            [""],
            StyleLine(
                "--b-rest", rem(whole), "What the header takes at rest; an open submenu ends within the window by it."
            ),
            StyleLine(
                "--b-bar", settings.ground, "The colour of the bar; where dark is asked for, a dark one.", "ground"
            )
            if settings.ground
            else None,
            StyleLine("--b-height", self._height(), "Its height at rest.", "height"),
            StyleLine("--b-flow", "column", "The name is above the menu.", "arrange") if settings.arranged else None,
            StyleLine("--b-cross", "center" if settings.arrange == "centred" else "start", "Where they do.", "arrange")
            if settings.arranged
            else None,
            StyleLine("--b-small", rem(settings.small_height), "Its height when small.", "small-height")
            if settings.shrinks
            else None,
            StyleLine("--b-time", f"{settings.duration}ms", "How long a change takes.", "duration")
            if self.cell.table
            else None,
            StyleLine(
                "scroll-padding-block-start",
                rem(room + AIR),
                f"A jump ends so far below the edge: the most that is covered then ({room} px), and {AIR} px of air.",
                "height",
            )
            if settings.sticks
            else StyleLine(
                "scroll-padding-block-start", "auto", "Nothing is covered, so links to anchors need no room."
            ),
        )

    def _room(self, settings: Settings) -> None:
        sticky = settings.sticks and settings.layout == "sticky"
        why = "The room in the page" + (", at rest." if settings.follows else "; it never changes, so nothing moves.")
        self._add(
            [".b-header-space"],
            StyleLine("min-block-size", "var(--b-height)", why, "height"),
            StyleLine("position", "sticky" if sticky else "relative", "Whether it stays in the window.", "behaviour"),
            StyleLine(
                "inset-block-start",
                rem(self.cell.row) if sticky else "auto",
                "Where it stays; without it nothing does.",
            ),
            StyleLine("z-index", str(settings.layer), "Above all content.", "layer"),
            self._moves("min-block-size") if settings.follows else None,
        )

    def _bar(self, settings: Settings) -> None:
        fixed = settings.sticks and settings.layout == "fixed"
        within = settings.bar == "content"
        clear = settings.sticks and settings.opacity < 100
        self._add(
            [".b-header"],
            StyleLine("position", "fixed" if fixed else "relative", "Over the page, or in its room.", "layout"),
            StyleLine("inset", f"{rem(self.cell.row)} 0 auto" if fixed else "auto", "Where it is.", "layout")
            if fixed
            else None,
            StyleLine("max-inline-size", "var(--b-width)" if within else "none", "How wide the bar is.", "bar"),
            StyleLine("margin-inline", "auto", "In the middle.", "bar") if within else None,
            StyleLine("background", _ground(settings, clear), "What the entries are read on.", "ground"),
            StyleLine("backdrop-filter", f"blur({settings.blur}px)", "What passes under it is blurred.", "blur")
            if clear and settings.blur
            else None,
            StyleLine(
                "border-block-end",
                "1px solid var(--b-line)" if settings.border == "line" else "0",
                "What ends the bar.",
                "border",
            ),
            StyleLine(
                "box-shadow",
                _SHADOWS[settings.shadow_strength] if settings.shadow == "always" else "none",
                "It is in front of the page.",
                "shadow",
            ),
            self._moves("transform", "box-shadow"),
        )
        self._add(
            [".b-header .b-bar"],
            StyleLine(
                "min-block-size",
                "calc(var(--b-height) - 1px)" if settings.border == "line" else "var(--b-height)",
                "The height before scrolling; more if its content needs more.",
                "height",
            ),
            StyleLine("padding-inline", rem(settings.padding), "The space at both ends.", "padding"),
            StyleLine("pointer-events", "none", "The bar is higher than what is drawn when small; clicks go past it.")
            if settings.shrinks
            else None,
            StyleLine("transform", "translateY(var(--b-lift, 0px))", "Moved so, it shifts no layout.")
            if settings.shrinks
            else None,
            self._moves("transform", "margin") if settings.shrinks else None,
        )
        if settings.shrinks:
            self._add([".b-header .b-bar > *"], StyleLine("pointer-events", "auto", "Its content can be clicked."))
        self._add(
            [".b-name"],
            StyleLine(
                "max-inline-size", rem(settings.name_width), "The most that the name takes in width.", "name-width"
            )
            if settings.name_width
            else None,
            StyleLine("--b-lines", str(settings.name_lines), "In how many rows it is arranged.", "height"),
            self._moves("transform") if settings.shrinks else None,
        )
        self._add([".b-main"], StyleLine("margin-inline", _MARGINS[settings.align], "Where the entries are.", "align"))
        if settings.tagline and settings.shrinks:
            self._add([".b-tagline"], self._moves("transform", "opacity"))

    def _over_picture(self, settings: Settings) -> None:
        self._add(
            [".b-header-space"],
            StyleLine(
                "margin-block-end", "calc(-1 * var(--b-height))", "The beginning of the page is under it.", _OVER
            ),
        )
        self._add(
            [".b-header"],
            StyleLine("background", f"linear-gradient({_SCRIM})", "White is read on it over any picture.", _OVER),
            StyleLine("color", "#fff", "The colour of its text.", _OVER),
            StyleLine("--b-bar-current", "#fff", "The same of the current entry.", _OVER),
            StyleLine("--b-bar-hover", "#fff", "And of a link under the pointer.", _OVER),
            StyleLine("border-block-end-color", "transparent", "Nothing ends it.", _OVER),
            StyleLine("box-shadow", "none", "Nothing is below it.", _OVER),
            states=(_AT_TOP if settings.sticks else "",),
        )
        self._add(
            [".b-tagline"],
            StyleLine("color", "inherit", "Quiet colours are for quiet grounds.", _OVER),
            states=(_AT_TOP if settings.sticks else "",),
        )

    def _row(self, settings: Settings) -> None:
        self._add(
            [".b-utility"],
            StyleLine("position", "sticky", "The row stays as well.", "top-row"),
            StyleLine("inset-block-start", "0", "At the top of the window.", "top-row"),
            StyleLine("z-index", str(settings.layer + 1), "Its submenus lie over the bar.", "layer"),
            StyleLine("block-size", rem(self.cell.row), "So high that the bar knows where to stay.", "top-row"),
            StyleLine("background", "var(--b-ground)", "What it is read on."),
            self._moves("transform") if settings.top_row == "leaves" else None,
        )
        if settings.top_row == "leaves":
            states = tuple(state for state in ("small", "hidden") if settings.shrinks or state == "hidden")
            up = StyleLine("transform", f"translateY(-{rem(self.cell.row)})", "The row leaves.", "top-row")
            self._add([f".b-utility{_UNUSED}"], up, states=states)
            if settings.shrinks:
                follows = StyleLine(
                    "transform", f"translateY(-{rem(self.cell.row)})", "The bar takes the row's place.", "row"
                )
                self._add([".b-header"], follows, states=("small",))

    def _small(self, settings: Settings) -> None:
        states = ("small", "hidden") if settings.hides else ("small",)
        taken = "(var(--b-small) - var(--b-height))"
        if settings.follows:
            shorter = StyleLine("min-block-size", "var(--b-small)", "The room follows what is drawn.", "space")
            self._add([".b-header-space"], shorter, states=states)
        self._add(
            [".b-header"],
            StyleLine(
                "--b-lift", f"calc({taken} / 2)", "What is in it goes up with the middle of the bar.", "small-height"
            ),
            states=states,
        )
        self._add(
            [".b-header .b-bar"],
            StyleLine("margin-block-end", f"calc{taken}", "By so much less is drawn when small.", "small-height"),
            states=states,
        )
        drop = "translateY(0.55em) " if settings.tagline and settings.small_tagline == "hide" else ""
        self._add(
            [".b-name"],
            StyleLine(
                "transform", f"{drop}scale({settings.small_name / 100:g})", "The name becomes small too.", "small-name"
            ),
            states=states,
        )
        if settings.tagline:
            hidden = settings.small_tagline == "hide"
            self._add(
                [".b-tagline"],
                StyleLine("opacity", "0", "The line under the name goes.", "small-tagline") if hidden else None,
                StyleLine("transform", "translateY(-0.3em) scale(0.9)", "It comes closer to the name.", "small-tagline")
                if not hidden
                else None,
                states=states,
            )

    def _hidden(self, settings: Settings) -> None:
        row = f"calc(-100% - {rem(self.cell.row)})" if settings.top_row == "leaves" and self.cell.row else "-100%"
        self._add(
            [f".b-header{_UNUSED}"],
            StyleLine(
                "transform",
                f"translateY({row})",
                "Up by its own height; never while something in it has the focus or is open.",
                "behaviour",
            ),
            StyleLine("box-shadow", "none", "Nothing of it is left in view.", "shadow"),
            states=("hidden",),
        )


def _ground(settings: Settings, clear: bool) -> str:
    ground = "var(--b-bar, var(--b-ground))" if settings.ground else "var(--b-ground)"
    if not clear:
        return ground
    return f"color-mix(in srgb, {ground} {settings.opacity}%, transparent)"
