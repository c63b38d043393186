"""Words stand out from what is behind them."""

from __future__ import annotations

import re
from collections.abc import Iterator

from basilica.core.findings.check import Check, Violation
from basilica.core.rules.rule import Level, Stage
from basilica.core.shared.theme import ENOUGH, contrast, hex_of
from basilica.core.site_reader import BuiltSite

_COLOUR = re.compile(r"(?:^|;)\s*color\s*:\s*([^;!]+)", re.IGNORECASE)
_GROUND = re.compile(r"(?:^|;)\s*background(?:-color)?\s*:\s*([^;!]+)", re.IGNORECASE)
_SHEET = re.compile(r"assets/navigation\.(?:\w+\.)?css")
_TOKEN = re.compile(r"--b-([a-z-]+)\s*:\s*(#[0-9a-f]{6})\b", re.IGNORECASE)
_PAIRS = tuple((name, "ground") for name in ("ink", "quiet", "link", "hover", "current"))


def run(built: BuiltSite) -> Iterator[Violation]:
    """The colours that elements have of their own, and those of the shared parts, as they stand in the built files."""
    for page in built.pages:
        for tag, style, spot in page.styled():
            pair = _pair(style)
            if pair and contrast(*pair) < ENOUGH:
                yield Violation(
                    page,
                    f"A `{tag}` on {page.file} has `{pair[0]}` on `{pair[1]}`, a contrast of"
                    f" {int(contrast(*pair) * 100) / 100} to 1; {ENOUGH} is needed.",
                    spot=spot,
                    written=style,
                )
    for name, data in built.texts.items():
        if _SHEET.fullmatch(name):
            tokens = dict(_TOKEN.findall(data.decode("utf-8", "replace")))
            for ink, ground in _PAIRS:
                if ink in tokens and ground in tokens and contrast(tokens[ink], tokens[ground]) < ENOUGH:
                    ratio = int(contrast(tokens[ink], tokens[ground]) * 100) / 100
                    yield Violation(
                        None,
                        f"In {name}, `{ink}` on `{ground}` has a contrast of {ratio} to 1; {ENOUGH} is needed.",
                        "Write another colour under `theme:`.",
                    )


def _pair(style: str) -> tuple[str, str] | None:
    colour, ground = _COLOUR.search(style), _GROUND.search(style)
    if not colour or not ground:
        return None
    both = hex_of(colour[1].strip()), hex_of(ground[1].strip())
    return both if both[0] and both[1] else None  # type: ignore[return-value]


CHECK = Check(
    code="unreadable-style",
    level=Level.WARNING,
    title="Words that are hard to read",
    why="Who sees less well, or stands in the sun, cannot read them.",
    standard="WCAG 2.2, 1.4.3 Contrast (Minimum)",
    remedy="Choose a darker or a lighter colour.",
    good='<p style="color: #767676; background: #ffffff">Closed in winter</p>',
    bad='<p style="color: #777777; background: #ffffff">Closed in winter</p>',
    stage=Stage.ANY,
    run=run,
)
