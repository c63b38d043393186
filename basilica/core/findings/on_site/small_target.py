"""What is pressed is large enough for a finger."""

from __future__ import annotations

import re
from collections.abc import Iterator

from basilica.core.findings.check import Check, Violation
from basilica.core.rules.rule import Level, Stage
from basilica.core.site_reader import BuiltSite
from basilica.core.site_reader.built_page import LINKS

LEAST = 24
"""CSS px (WCAG 2.2, 2.5.8)."""

_SIDE = re.compile(
    r"(?:^|;)\s*(?:max-)?(width|height|inline-size|block-size)\s*:\s*([0-9]+(?:\.[0-9]+)?)px", re.IGNORECASE
)
_PRESSED = frozenset(["a", "button", "summary", "input"])


def run(built: BuiltSite) -> Iterator[Violation]:
    """Links that are a picture alone, and controls with a size of their own; as far as the page itself says it."""
    for page, number, link in built.links_that(lambda link: link.size is not None and min(link.size) < LEAST):
        width, height = link.size or (0, 0)
        yield Violation(
            page,
            f"The link `{link.name[:40] or link.href[:40]}` on {page.file} is {width:g} by {height:g} px; {LEAST} by"
            f" {LEAST} can be hit.",
            spot=(LINKS, number),
            written=link.href,
        )
    for page in built.pages:
        for tag, style, spot in page.styled():
            sides = [float(size) for _, size in _SIDE.findall(style)] if tag in _PRESSED else []
            if sides and min(sides) < LEAST:
                message = f"A `{tag}` on {page.file} is {min(sides):g} px small; {LEAST} by {LEAST} can be hit."
                yield Violation(page, message, spot=spot, written=style)


CHECK = Check(
    code="small-target",
    level=Level.WARNING,
    title="A link or button that is too small",
    why="It is hard to hit, above all on touch screens.",
    standard="WCAG 2.2, 2.5.8 Target Size (Minimum)",
    remedy="Make it at least 24 by 24 px.",
    good='<a href="#a"><img src="data:," alt="Wheel" width="32" height="32"></a> <p id="a">',
    bad='<a href="#a"><img src="data:," alt="Wheel" width="16" height="16"></a> <p id="a">',
    stage=Stage.ANY,
    run=run,
)
