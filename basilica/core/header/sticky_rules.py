"""Why a header will not stick: what a site's own style sheet says against it.

A sticky box needs an inset, moves only within the box that contains it, and is held by the nearest ancestor that
scrolls (CSS Positioned Layout 3, 3); a fixed one is held by an ancestor that is transformed (CSS Transforms 1). Here
its ancestors are the page's body and, where it sticks to the end of the content, the box around that.
"""

from __future__ import annotations

from typing import NamedTuple

from basilica.core.header.header_settings import Settings
from basilica.core.shared.own_style import Declaration, declarations

_SCROLLS = ("hidden", "auto", "scroll", "overlay")
_HOLDS_FIXED = ("transform", "filter", "perspective", "backdrop-filter", "translate", "scale", "rotate")
_HEIGHTS = ("height", "block-size", "max-height", "max-block-size")
_NO_HEIGHT = ("auto", "none", "initial", "unset", "fit-content", "max-content", "min-content")
_INSETS = ("top", "inset", "inset-block", "inset-block-start")


class StickyProblem(NamedTuple):
    """What keeps the header from sticking: the ``rule`` and its ``line`` in the style sheet, from 1; what it does, and
    what to do about it."""

    line: int
    rule: str
    message: str
    remedy: str


def sticky_problems(css: str, settings: Settings) -> tuple[StickyProblem, ...]:
    """Everything in a style sheet that keeps a header from doing what its settings say."""
    if not settings.sticks or not css.strip():
        return ()
    said = [(one, _subject(one.selector)) for one in declarations(css)]
    page_scrolls = any(_is_scrolling(one) for one, subject in said if subject in ("html", ":root", "*"))
    found = []
    for one, subject in said:
        trouble = _trouble(one, subject, settings, page_scrolls)
        if trouble:
            found.append(StickyProblem(one.line, str(one), *trouble))
    return tuple(found)


def _trouble(one: Declaration, subject: str, settings: Settings, page_scrolls: bool) -> tuple[str, str] | None:
    fixed = settings.layout == "fixed"
    body, own = subject in ("body", "*"), subject in (".b-header-space", ".b-header")
    reach = settings.until == "content" and subject in (".b-header-range", "*")
    if not fixed and _is_scrolling(one) and (reach or (body and page_scrolls)):
        return (
            "makes a box around the header scroll, and the header sticks to that box instead of the window",
            "Remove it, or use `overflow: clip`, which does not scroll.",
        )
    if not fixed and one.name in _HEIGHTS and one.value not in _NO_HEIGHT and (body or reach):
        return (
            "ends the box around the header before the page ends, and the header leaves with it",
            f"Write `min-{one.name.removeprefix('max-')}` instead.",
        )
    if own and one.name == "position" and one.value not in ("sticky", "fixed"):
        return "takes the header's own position away", "Remove it; the header is set up under `header:`."
    if not fixed and subject == ".b-header-space" and one.name in _INSETS and one.value.startswith("auto"):
        return "takes away the inset at which the header sticks", "Remove it, or write `0`."
    if fixed and subject in ("html", ":root", "body", ".b-header-space", "*") and _holds_fixed(one):
        return (
            "contains a fixed header, which then scrolls with that box",
            "Remove it, or write `layout: sticky` under `header:`.",
        )
    above = one.name == "z-index" and one.value.isdecimal() and int(one.value) > settings.layer
    if above and not own and subject not in (".b-skip", ".b-utility"):
        return (
            f"is stacked above the header, whose layer is {settings.layer}",
            "Give it a lower one, or write a higher `layer:`.",
        )
    return None


def _holds_fixed(one: Declaration) -> bool:
    if one.name in ("contain", "will-change"):
        return any(word in one.value for word in ("paint", "layout", "strict", "content", "transform", "filter"))
    return one.name in _HOLDS_FIXED and one.value != "none"


def _is_scrolling(one: Declaration) -> bool:
    return one.name in ("overflow", "overflow-x", "overflow-y", "overflow-block", "overflow-inline") and any(
        word in _SCROLLS for word in one.value.split()
    )


def _subject(selector: str) -> str:
    """What a selector is about, without what it asks for beside: ``main body.home`` → ``body``."""
    compound = (selector.replace(">", " ").replace("+", " ").replace("~", " ").split() or [""])[-1]
    for known in (".b-header-space", ".b-header-range", ".b-header", ".b-skip", ".b-utility", ":root"):
        if known in compound:
            return known
    for end in (".", "[", ":", "#"):
        if not compound.startswith(end):
            compound = compound.partition(end)[0]
    return compound
