"""How the header looks and behaves: everywhere, below a width, and on some pages."""

from __future__ import annotations

from basilica.core.language.codecs import KEYS, LABEL, NO_OR_YES, Colour, Number, TextCodec, one_of
from basilica.core.language.word import Word
from basilica.core.rules import limits

_GROUND = Colour(remedy="Write it as CSS does, such as `#1f4fa3`; use `opacity:` to let the page shine through.")

MOBILE = (
    Word(
        "behaviour",
        one_of(
            "static",
            "sticky",
            "shrink",
            "hide",
            "shrink-hide",
            was={"stick": "sticky", "retreat": "hide", "shrink-retreat": "shrink-hide"},
        ),
        "`static` scrolls away. `sticky` stays at the top. `shrink` stays and becomes small. "
        "`hide` hides on the way down and returns on the way up. `shrink-hide` becomes small "
        "first and then does the same.",
        "static",
        synonyms=("behavior", "mode"),
    ),
    Word("height", Number(least=24, most=400), "The height before scrolling, in pixels.", "100"),
    Word("small-height", Number(least=24, most=400), "The height after shrinking, in pixels.", "40", old_name="small"),
    Word(
        "threshold",
        Number(least=0, most=10000),
        "How far the page is scrolled when the header changes, in pixels.",
        "100",
        old_name="depth",
    ),
    Word(
        "threshold-margin",
        Number(least=0, most=10000),
        "How far back above `threshold` the page must be scrolled before the header grows again, "
        "in pixels. It prevents flicker.",
        "8; with `space: follows` what shrinking takes",
        old_name="band",
    ),
    Word("hides-after", Number(least=0, most=2000), "How far to scroll down before the header hides, in pixels.", "8"),
    Word(
        "returns-after", Number(least=0, most=2000), "How far to scroll up before the header returns, in pixels.", "8"
    ),
    Word("duration", Number(least=0, most=2000), "How long a change takes, in milliseconds.", "300"),
    Word(
        "easing",
        one_of("linear", "ease", "ease-in", "ease-out", "ease-in-out"),
        "The timing function of a change.",
        "ease-in-out",
    ),
    Word("small-name", Number(least=30, most=150), "The size of the site's name after shrinking, in percent.", "75"),
    Word("small-tagline", one_of("hide", "keep"), "Whether the tagline stays after shrinking.", "hide"),
    Word(
        "ground",
        _GROUND,
        "The background colour of the bar.",
        "as in `theme`",
        called="The colour `ground`",
        synonyms=("background", "background-color"),
    ),
    Word("opacity", Number(least=0, most=100), "How opaque the background of the bar is, in percent.", "100"),
    Word("blur", Number(least=0, most=60), "How much the page behind the bar is blurred, in pixels.", "0"),
    Word(
        "shadow",
        one_of("none", "always", "scrolled"),
        "A shadow below the bar; `scrolled` shows it only once the page is scrolled.",
        "none",
    ),
    Word("shadow-strength", one_of("soft", "medium", "strong"), "How strong the shadow is.", "medium"),
    Word("border", one_of("line", "none"), "What ends the bar at the bottom.", "line"),
    Word("bar", one_of("full", "content"), "How wide the bar is: as wide as the window, or as the content.", "full"),
    Word("align", one_of("start", "center", "end"), "Where the main menu is placed in the bar.", "as in `theme`"),
    Word(
        "arrange",
        one_of("row", "centred", "two-rows"),
        "How the name and the main menu are arranged while the menu is not folded: in one `row`, "
        "`centred` one above the other, or in `two-rows`. After shrinking there is one row.",
        "row",
    ),
    Word(
        "over-picture",
        NO_OR_YES,
        "Whether the header lies over the beginning of the page, such as a picture as wide as the"
        " window, until the page is scrolled.",
        "no",
    ),
    Word("padding", Number(least=0, most=200), "The space at both ends of the bar, in pixels.", "20"),
    Word(
        "name-width",
        Number(least=40, most=1000),
        "The largest width of the site's name, in pixels.",
        "the space there is",
    ),
    Word("layer", Number(least=1, most=99999), "The stacking order (`z-index`).", "999"),
    Word(
        "layout",
        one_of("sticky", "fixed"),
        "`sticky` keeps the header in the flow of the page; `fixed` lays it over the page, which "
        "reserves space for it.",
        "sticky",
    ),
    Word(
        "space",
        one_of("kept", "follows"),
        "The space for the header in the page: `kept` at its full height, or `follows` the header"
        " as it shrinks, so that the page becomes shorter.",
        "kept",
        old_name="room",
    ),
    Word(
        "min-window",
        Number(least=0, most=2000),
        "In windows lower than this, in pixels, the header scrolls away; with 0 it never does.",
        "four times its height",
        old_name="short",
    ),
)
"""What the header can be below a width, on some pages, and everywhere."""

BELOW = Word(
    "below", Number(least=200, most=4000), "These settings apply in windows narrower than this, in pixels.", "720"
)

PAGE_HEADER = (
    *MOBILE,
    Word("mobile", KEYS, "Other settings for narrow windows.", old_name="narrow"),
)

HEADER = (
    *PAGE_HEADER,
    Word("tagline", LABEL, "A line of text below the site's name."),
    Word(
        "top-row",
        one_of("scrolls", "stays", "leaves"),
        "The row above the bar (menus with `place: utility`): it scrolls away, stays, or leaves "
        "when the header shrinks or hides.",
        "scrolls",
        old_name="row",
    ),
    Word(
        "until",
        TextCodec(most=limits.LABEL_CHARACTERS, is_prose=True, name="name"),
        "How far the header stays: to the end of the `page` or of its `content`; or until a slot,"
        " a part or a menu arrives, such as `aside`, `visit-us` or `menu-more`, which then pushes"
        " it out of the window.",
        "page",
    ),
    Word(
        "width",
        Number(least=320, most=4000),
        "The width of the content, in pixels. What is in the bar is as wide.",
        "1080",
    ),
)

RANGES = {word.name: word.range for word in (BELOW, *HEADER) if word.range is not None}
"""The least and the most that each number of the header can be."""

UNITS = {**dict.fromkeys(RANGES, "px"), "duration": "ms", "small-name": "%", "opacity": "%", "layer": ""}
"""The unit of each."""

HEADER_ELSEWHERE = {
    "sticky": "Write `behaviour: sticky`.",
    "fixed": "Write `behaviour: sticky`.",
    "shrink": "Write `behaviour: shrink`.",
    "logo": "Write the logo as `picture:` of the part `identity`, under `parts:`.",
}
"""What people write for the header who come from elsewhere, and how a map says it."""
