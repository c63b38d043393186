"""Whether the header can be read over whatever passes under it."""

from __future__ import annotations

from functools import lru_cache
from typing import NamedTuple

from basilica.core.header.header_settings import Settings
from basilica.core.language.sections.theme_words import Theme
from basilica.core.shared.theme import ENOUGH, contrast

BLACK, WHITE = "#000000", "#ffffff"
TEXTS = ("ink", "link", "hover", "current")
"""The colours of what stands in the header: the name, the entries, one under the mouse, the current one. The lines and
arrows of its controls have the colour of their text; 3:1 would do for them (WCAG 2.2, 1.4.11)."""


class Read(NamedTuple):
    """How well one colour is read: the lowest ``ratio``, and ``over`` what it is that low."""

    name: str
    colour: str
    ratio: float
    over: str

    @property
    def enough(self) -> bool:
        """Whether it can be read there (WCAG 2.2, 1.4.3)."""
        return self.ratio >= ENOUGH

    @property
    def said(self) -> str:
        """The ratio to two places, never more than it is."""
        return f"{int(self.ratio * 100) / 100:.2f}"


def composite(colour: str, behind: str, opacity: int) -> str:
    """A colour of so many percent opacity over an opaque one, as ``#rrggbb``, as browsers mix them (Compositing and
    Blending 1, simple alpha compositing, in sRGB)."""
    from coloraide import Color

    mixed = Color.layer([Color(colour).set("alpha", opacity / 100), Color(behind)], space="srgb", out_space="srgb")
    return str(mixed.to_string(hex=True))


@lru_cache(maxsize=512)
def _lowest(text: str, ground: str, opacity: int, others: tuple[str, ...]) -> tuple[float, str]:
    if opacity == 100:
        return contrast(text, ground), ground
    dark, light = (composite(ground, behind, opacity) for behind in (BLACK, WHITE))
    # From black to white behind it the bar goes through every grey between; where the text is as light as one of them,
    # nothing is left of the contrast.
    if _luminance(dark) <= _luminance(text) <= _luminance(light):
        return 1.0, "a grey"
    tried = [(contrast(text, composite(ground, behind, opacity)), behind) for behind in (BLACK, WHITE, *others)]
    return min(tried)


def _luminance(colour: str) -> float:
    """Relative luminance (WCAG 2.2), by its contrast with black."""
    return contrast(colour, BLACK) * 0.05 - 0.05


def ground_of(settings: Settings, theme: Theme) -> str:
    """The colour of the bar."""
    return settings.ground or theme.all_colours()["ground"]


def reading(settings: Settings, theme: Theme) -> tuple[Read, ...]:
    """How well each colour in the header is read over the worst that can pass under it."""
    colours = theme.all_colours()
    ground = ground_of(settings, theme)
    opacity = settings.opacity if settings.sticks else 100
    others = tuple(sorted(set(colours.values())))
    return tuple(
        Read(name, colours[name], *_lowest(colours[name], ground, opacity, others if opacity < 100 else ()))
        for name in TEXTS
    )


def least_opacity(settings: Settings, theme: Theme) -> int | None:
    """The least opacity, percent, at which everything in the header can be read; None where none is enough."""

    def enough(opacity: int) -> bool:
        ground, colours = ground_of(settings, theme), theme.all_colours()
        return all(_lowest(colours[name], ground, opacity, ())[0] >= ENOUGH for name in TEXTS)

    if not enough(100):
        return None
    low, high = 0, 100  # the more it covers, the less what is behind it can take away
    while high - low > 1:
        middle = (low + high) // 2
        low, high = (low, middle) if enough(middle) else (middle, high)
    return high
