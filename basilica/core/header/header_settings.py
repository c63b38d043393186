"""What the map says of a header, settled: every value is there, for each size of the window that has its own."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, fields, replace
from typing import Any

from basilica.core.map.site.model import Header, Site, Value

BELOW = 720
"""Below which width of the window, CSS px, `mobile` holds where the map does not say. Common practice, no source."""
JITTER = 8
"""How far a finger at rest may move a page, CSS px; below it a header should do nothing. Common practice, no source."""


EM = 16
"""CSS px of the browsers' own letter size."""

NAME = 20
"""The size of the name's letters, CSS px."""
NAME_LINE = NAME * 1.15
_NAME_LINES = 6
_TAGLINE_LINE = 18
_MENU_LINE = 36


@dataclass(frozen=True, slots=True)
class Settings:
    """Every setting of a header. Lengths are CSS px, times ms, sizes and opacity percent. The heights, the depth and
    the duration are common practice, no source."""

    behaviour: str = "static"
    height: int = 100
    small_height: int = 40
    threshold: int = 100
    threshold_margin: int | None = None
    hides_after: int = JITTER
    returns_after: int = JITTER
    duration: int = 300
    easing: str = "ease-in-out"
    small_name: int = 75
    small_tagline: str = "hide"
    ground: str = ""
    opacity: int = 100
    blur: int = 0
    shadow: str = "none"
    shadow_strength: str = "medium"
    border: str = "line"
    bar: str = "full"
    align: str = "end"
    padding: int = 20
    name_width: int = 0
    layer: int = 999
    layout: str = "sticky"
    space: str = "kept"
    min_window: int | None = None
    arrange: str = "row"
    over_picture: str = "no"
    tagline: str = ""
    top_row: str = "scrolls"
    until: str = "page"
    width: int = 1080

    @property
    def sticks(self) -> bool:
        """Whether the header stays in the window."""
        return self.behaviour != "static"

    def lets_go_below(self, row: int) -> int:
        """In windows lower than that, CSS px, it scrolls away: where the map does not say, where it would take more
        than a quarter at rest. ``row`` is the height of the row above it, which counts where that stays."""
        if self.min_window is not None:
            return self.min_window
        return 4 * (self.height + (row if self.top_row != "scrolls" else 0))

    @property
    def shrinks(self) -> bool:
        """Whether it becomes small."""
        return self.behaviour in ("shrink", "shrink-hide")

    @property
    def arranged(self) -> bool:
        """Whether the name and the menu stand below each other; what becomes small has no room for that."""
        return self.arrange != "row" and not self.shrinks

    @property
    def over(self) -> bool:
        """Whether it looks otherwise over content than at the top of the page."""
        return self.sticks and (self.shadow == "scrolled" or self.over_picture == "yes")

    @property
    def hides(self) -> bool:
        """Whether it hides on the way down."""
        return self.behaviour in ("hide", "shrink-hide")

    @property
    def follows(self) -> bool:
        """Whether the room in the page changes with what is drawn in it.

        Not for one that hides: the move of the page would look like scrolling up, and unarchive it."""
        return self.space == "follows" and self.behaviour == "shrink" and self.layout == "sticky"

    @property
    def taken(self) -> int:
        """By how much it is lower when small, CSS px."""
        return self.height - self.small_height if self.shrinks else 0

    @property
    def margin(self) -> int:
        """How far below the threshold the header is at rest again, px."""
        return self.threshold - self.back

    @property
    def least_margin(self) -> int:
        """The least margin at which the header cannot undo its own change.

        With its space kept nothing that the header does moves the page, so any margin is safe. Where the space follows,
        becoming small takes ``taken`` px out of the page above what one reads, and the browser moves the scroll
        position up by as much: from just past ``threshold`` to just past ``threshold - taken``. That is past
        ``threshold - threshold_margin`` only where the margin is at least ``taken``."""
        return self.taken if self.follows else 0

    @property
    def back(self) -> int:
        """The depth at or above which it is at rest again, CSS px; below 0 it never is."""
        wanted = self.threshold_margin
        if wanted is None:
            wanted = min(max(self.least_margin, JITTER), max(self.threshold, self.least_margin))
        return self.threshold - wanted

    @property
    def name_lines(self) -> int:
        """In how many lines the name stands at most: as many as the height has room for, and some by which the header
        grows where it must."""
        other = (_TAGLINE_LINE if self.tagline else 0) + (_MENU_LINE if self.arranged else 0)
        return max(_NAME_LINES, int((self.height - other) / NAME_LINE))

    @property
    def small_name_height(self) -> int:
        """How high the name can be, CSS px at rest, to have room in the small header."""
        kept = _TAGLINE_LINE if self.tagline and self.small_tagline == "keep" else 0
        return round(100 * (self.small_height - 0.9 * kept) / self.small_name)

    def height_in(self, state: str) -> int:
        """The height that is drawn in a state, CSS px."""
        return self.small_height if self.shrinks and state in ("small", "hidden") else self.height


_FIELDS = frozenset(field.name for field in fields(Settings))


def word_of(name: str) -> str:
    """The map's word for a field: ``hides_after`` → ``hides-after``."""
    return name.replace("_", "-")


def _with(settings: Settings, own: tuple[tuple[str, Value], ...]) -> Settings:
    values: dict[str, Any] = {name.replace("-", "_"): value for name, value in own}
    return replace(settings, **{name: value for name, value in values.items() if name in _FIELDS})


@dataclass(frozen=True, slots=True)
class Windows:
    """A range of windows: from so many CSS px on, and below so many; 0 is no limit."""

    width_from: int = 0
    width_below: int = 0
    height_from: int = 0
    height_below: int = 0

    @property
    def media(self) -> str:
        """The range as a media query, in the reader's own letter size, with which a header grows; empty for all
        windows."""
        limits = (
            ("min-width", self.width_from, 0.0),
            ("max-width", self.width_below, 0.02),
            ("min-height", self.height_from, 0.0),
            ("max-height", self.height_below, 0.02),
        )
        return " and ".join(f"({name}: {round((px - less) / EM, 4):g}em)" for name, px, less in limits if px)

    @property
    def told(self) -> str:
        """The range in words, CSS px at the usual size of letters; empty for all windows."""
        limits = (
            ("at least {} px wide", self.width_from),
            ("narrower than {} px", self.width_below),
            ("at least {} px high", self.height_from),
            ("lower than {} px", self.height_below),
        )
        return " and ".join(words.format(px) for words, px in limits if px)

    def has(self, width: float, height: float) -> bool:
        """Whether a window of this size is in the range."""
        return (
            self.width_from <= width
            and (not self.width_below or width < self.width_below)
            and self.height_from <= height
            and (not self.height_below or height < self.height_below)
        )


def settle(layers: tuple[Header, ...], align: str = "end", row: int = 0) -> tuple[tuple[Windows, Settings], ...]:
    """The settings for each range of windows, which together are all windows; ``align`` holds where they do not say,
    and ``row`` is the height of the row above the bar, 0 where there is none.

    ``layers`` are the site's, and those of the pages from the outside in. In each layer what holds below a width
    comes after the rest; an inner layer comes after all of an outer one."""
    wide = mobile = Settings(align=align)
    below = 0
    for layer in layers:
        wide, mobile = _with(wide, layer.own), _with(_with(mobile, layer.own), layer.mobile)
        if layer.mobile:
            below = int(dict(layer.mobile).get("below", below or BELOW))
    if wide == mobile:
        return _split(Windows(), wide, row)
    return _split(Windows(width_below=below), mobile, row) + _split(Windows(width_from=below), wide, row)


def _split(windows: Windows, settings: Settings, row: int) -> tuple[tuple[Windows, Settings], ...]:
    low = settings.lets_go_below(row)
    if not low or not settings.sticks:
        return ((windows, settings),)
    away = replace(settings, behaviour="static")
    return (
        (replace(windows, height_below=low), away),
        (replace(windows, height_from=low), settings),
    )


def layers_of(site: Site) -> Mapping[str, tuple[Header, ...]]:
    """For each page on which the header is another than the site's: the layers of its settings."""
    own: dict[str, tuple[Header, ...]] = {}
    for key, page in site.pages.items():
        above = own.get(page.parent) if page.parent is not None else None
        if page.options.header is not None:
            own[key] = (*(above or (site.header,)), page.options.header)
        elif above:
            own[key] = above
    return own
