"""Words stand out from what is behind them."""

from __future__ import annotations

import re
from collections.abc import Iterator

from basilica.core.findings.check import Check, Violation
from basilica.core.rules.rule import Level, Stage
from basilica.core.shared.theme import ENOUGH, PAIRS, contrast, hex_of
from basilica.core.site_reader import BuiltSite

_COLOUR = re.compile(r"(?:^|;)\s*color\s*:\s*([^;!]+)", re.IGNORECASE)
_GROUND = re.compile(r"(?:^|;)\s*background(?:-color)?\s*:\s*([^;!]+)", re.IGNORECASE)
_SHEET = re.compile(r"assets/navigation\.(?:\w+\.)?css")
_DARK = "(prefers-color-scheme: dark)"
_TOKEN = re.compile(r"--b-([a-z-]+)\s*:\s*(#[0-9a-f]{6})\b", re.IGNORECASE)


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
    met: list[list[tuple[str, str]]] = []  # each language has a sheet, and all of them the same colours
    for name, data in built.texts.items():
        if _SHEET.fullmatch(name):
            light, _, dark = data.decode("utf-8", "replace").partition(_DARK)
            if (told := _TOKEN.findall(light) + _TOKEN.findall(dark)) in met:
                continue
            met.append(told)
            tokens = dict(_TOKEN.findall(light))
            for said, colours in (("", tokens), (", as it is for readers who ask for dark", _TOKEN.findall(dark))):
                yield from _poor(name, said, {**tokens, **dict(colours)})


def _poor(name: str, said: str, tokens: dict[str, str]) -> Iterator[Violation]:
    for ink, ground in PAIRS:
        if ink in tokens and ground in tokens and contrast(tokens[ink], tokens[ground]) < ENOUGH:
            ratio = int(contrast(tokens[ink], tokens[ground]) * 100) / 100
            yield Violation(
                None,
                f"In {name}{said}, `{ink}` on `{ground}` has a contrast of {ratio} to 1; {ENOUGH} is needed.",
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
    title="Text that is hard to read",
    why="People with low vision, or in bright light, cannot read it.",
    standard="WCAG 2.2, 1.4.3 Contrast (Minimum)",
    remedy="Choose a darker or a lighter colour.",
    good='<p style="color: #767676; background: #ffffff">Closed in winter</p>',
    bad='<p style="color: #777777; background: #ffffff">Closed in winter</p>',
    stage=Stage.ANY,
    run=run,
)
