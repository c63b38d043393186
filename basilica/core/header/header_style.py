"""The style of a header, rule by rule: each line with the reason for it and the word of the map it comes from."""

from __future__ import annotations

from collections.abc import Iterable
from itertools import groupby
from typing import NamedTuple

from basilica.core.header.header_plan import BreakpointVariant, HeaderPlan
from basilica.core.header.header_settings import Settings
from basilica.core.header.viewport_share import jump_room

REDUCED_MOTION = "(prefers-reduced-motion: reduce)"
AIR = 16
"""Between the header and what a jump leads to, CSS px."""
_MARGINS = {"end": "auto 0", "center": "auto", "start": "0 auto"}
_UNUSED = ':not(:focus-within, :has([aria-expanded="true"]))'
"""Nothing in it has the focus or is open; only then may it go."""
_SHADOW = "0 2px 10px rgb(0 0 0 / 25%)"


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
    or of two kinds of windows, never hold at once."""
    found: list[StyleRule] = []
    for header in headers if only is None else (only,):
        root = ""
        if len(headers) > 1:
            root = f'html[data-b-header="{header.name}"]' if header.name else "html:not([data-b-header])"
        for cell in header.cells:
            found += _Writer(root, cell).rules()
    if any(header.scripted for header in headers):
        moved = ".b-room, .b-header, .b-bar, .b-name, .b-tagline, .b-utility"
        still = StyleLine("transition", "none", "Those who ask for less motion see a switch.")
        found.append(StyleRule(REDUCED_MOTION, f":where({moved})", (still,)))
    return tuple(found)


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
    def __init__(self, root: str, cell: BreakpointVariant) -> None:
        self.root, self.cell, self.settings = root, cell, cell.settings
        self.found: list[StyleRule] = []

    def rules(self) -> list[StyleRule]:
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
        if settings.shadow == "scrolled" and settings.sticks:
            shadow = StyleLine("box-shadow", _SHADOW, "It lies over content now.", "shadow")
            self._add([".b-header"], shadow, states=("over", "small"))
        return self.found

    def _add(self, targets: list[str], *lines: StyleLine | None, states: tuple[str, ...] = ("",)) -> None:
        heads = [self.root + (f'[data-b-state="{state}"]' if state else "") for state in states]
        whole = ", ".join(f"{head} {target}".strip() or "html" for head in heads for target in targets)
        kept = tuple(line for line in lines if line)
        if kept:
            self.found.append(StyleRule(self.cell.windows.media, f":where({whole})", kept))

    def _moves(self, *names: str) -> StyleLine | None:
        settings = self.settings
        if not self.cell.table or not settings.duration:
            return None
        value = ", ".join(f"{name} {settings.duration}ms {settings.easing}" for name in names)
        return StyleLine("transition", value, "How long a change takes, and how it runs.", "duration")

    def _page(self, settings: Settings) -> None:
        whole = settings.height + self.cell.row
        room = jump_room(settings, self.cell.row)
        self._add(
            [""],
            StyleLine(
                "--b-rest", f"{whole}px", "What the header takes at rest; an open submenu ends within the window by it."
            ),
            StyleLine(
                "scroll-padding-block-start",
                f"{room + AIR}px",
                f"A jump ends so far below the edge: the most that is covered then ({room} px), and {AIR} px of air.",
                "height",
            )
            if settings.sticks
            else StyleLine("scroll-padding-block-start", "auto", "Nothing is covered, so a jump needs no room."),
        )

    def _room(self, settings: Settings) -> None:
        sticky = settings.sticks and settings.layout == "sticky"
        why = "The room in the page" + (", at rest." if settings.follows else "; it never changes, so nothing moves.")
        self._add(
            [".b-room"],
            StyleLine("block-size", f"{settings.height}px", why, "height"),
            StyleLine("position", "sticky" if sticky else "relative", "Whether it stays in the window.", "behaviour"),
            StyleLine(
                "inset-block-start",
                f"{self.cell.row}px" if sticky else "auto",
                "Where it stays; without it nothing does.",
            ),
            StyleLine("z-index", str(settings.layer), "Above all content.", "layer"),
            self._moves("block-size") if settings.follows else None,
        )

    def _bar(self, settings: Settings) -> None:
        fixed = settings.sticks and settings.layout == "fixed"
        within = settings.bar == "content"
        clear = settings.sticks and settings.opacity < 100
        self._add(
            [".b-header"],
            StyleLine("position", "fixed" if fixed else "relative", "Over the page, or in its room.", "layout"),
            StyleLine("inset", f"{self.cell.row}px 0 auto" if fixed else "auto", "Where it stands.", "layout")
            if fixed
            else None,
            StyleLine("block-size", f"{settings.height}px", "What is drawn at rest.", "height"),
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
                "box-shadow", _SHADOW if settings.shadow == "always" else "none", "It stands above the page.", "shadow"
            ),
            self._moves("block-size", "transform", "box-shadow"),
        )
        self._add(
            [".b-header .b-bar"],
            StyleLine(
                "block-size",
                f"{settings.height - (settings.border == 'line')}px",
                "Its middle is that of the bar.",
                "height",
            ),
            StyleLine("padding-inline", f"{settings.padding}px", "The space at both ends.", "padding"),
            StyleLine("pointer-events", "none", "The bar is higher than what is drawn when small; clicks go past it.")
            if settings.shrinks
            else None,
            StyleLine("transform", "translateY(var(--b-lift, 0px))", "Moved so, it shifts no layout.")
            if settings.shrinks
            else None,
            self._moves("transform") if settings.shrinks else None,
        )
        if settings.shrinks:
            self._add([".b-header .b-bar > *"], StyleLine("pointer-events", "auto", "What stands in it takes clicks."))
        self._add(
            [".b-name"],
            StyleLine("max-inline-size", f"{settings.name_width}px", "The most that the name takes.", "name-width"),
            self._moves("transform") if settings.shrinks else None,
        )
        self._add(
            [".b-main"], StyleLine("margin-inline", _MARGINS[settings.align], "Where the entries stand.", "align")
        )
        if settings.tagline and settings.shrinks:
            self._add([".b-tagline"], self._moves("transform", "opacity"))

    def _row(self, settings: Settings) -> None:
        self._add(
            [".b-utility"],
            StyleLine("position", "sticky", "The row stays as well.", "top-row"),
            StyleLine("inset-block-start", "0", "At the top of the window.", "top-row"),
            StyleLine("z-index", str(settings.layer + 1), "Its submenus lie over the bar.", "layer"),
            StyleLine("block-size", f"{self.cell.row}px", "So high that the bar knows where to stay.", "top-row"),
            StyleLine("background", "var(--b-ground)", "What it is read on."),
            self._moves("transform") if settings.top_row == "leaves" else None,
        )
        if settings.top_row == "leaves":
            states = tuple(state for state in ("small", "hidden") if settings.shrinks or state == "hidden")
            up = StyleLine("transform", f"translateY(-{self.cell.row}px)", "The row leaves.", "top-row")
            self._add([f".b-utility{_UNUSED}"], up, states=states)
            if settings.shrinks:
                follows = StyleLine(
                    "transform", f"translateY(-{self.cell.row}px)", "The bar takes the row's place.", "row"
                )
                self._add([".b-header"], follows, states=("small",))

    def _small(self, settings: Settings) -> None:
        states = ("small", "hidden") if settings.hides else ("small",)
        lift = (settings.small_height - settings.height) / 2
        if settings.follows:
            shorter = StyleLine("block-size", f"{settings.small_height}px", "The room follows what is drawn.", "space")
            self._add([".b-room"], shorter, states=states)
        self._add(
            [".b-header"],
            StyleLine("block-size", f"{settings.small_height}px", "What is drawn when small.", "small-height"),
            StyleLine(
                "--b-lift", f"{lift:g}px", "The middle of what is in it goes up with that of the bar.", "small-height"
            ),
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
        height = settings.height_in("hidden") + (self.cell.row if settings.top_row == "leaves" else 0)
        self._add(
            [f".b-header{_UNUSED}"],
            StyleLine(
                "transform",
                f"translateY(-{height}px)",
                "Up by its own height; never while something in it has the focus or is open.",
                "behaviour",
            ),
            StyleLine("box-shadow", "none", "Nothing of it is left in view.", "shadow"),
            states=("hidden",),
        )


def _ground(settings: Settings, clear: bool) -> str:
    ground = settings.ground or "var(--b-ground)"
    if not clear:
        return ground
    return f"color-mix(in srgb, {ground} {settings.opacity}%, transparent)"
