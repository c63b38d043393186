"""Markup with its lines indented by what they stand in, for those who read it."""

from __future__ import annotations

import re

from basilica.core.outputs.static_site.slots import NUL

STEP = "  "
_TAG = re.compile(r"<(/?)([a-z][a-z0-9-]*)((?:\"[^\"]*\"|'[^']*'|[^>\"'])*)>")
_VOID = frozenset(
    ["area", "base", "br", "col", "embed", "hr", "img", "input", "link", "meta", "source", "track", "wbr"]
)
_PREFORMATTED = frozenset(["pre", "textarea", "script", "style"])
"""Elements whose white space says something."""
_OWN = ' class="b-part '
"""What a person has written stays as it is."""
_SLOTS = re.compile(f"(?:{NUL}[^{NUL}]*{NUL})*")


def indented(markup: str, depth: int) -> str:
    """Markup that stands ``depth`` elements deep, each line by what is around it. Slots at the beginning of a line are
    filled with whole lines, which bring their own; what people have written, and what is preformatted, stays."""
    lines: list[str] = []
    verbatim: list[str] = []
    """The elements that are open in what stays as it is."""
    for line in markup.split("\n"):
        stays = bool(verbatim)
        closes, level = 0, depth
        begins = _SLOTS.match(line)
        slots = begins[0] if begins else ""
        leading = True
        for found in _TAG.finditer(line, len(slots)):
            close, name, rest = found.groups()
            if name in _VOID or rest.endswith("/"):
                leading = False
                continue
            if verbatim or (not close and (name in _PREFORMATTED or _OWN in rest)):
                _follow(verbatim, bool(close), name)
            if close:
                depth -= 1
                closes += leading
            else:
                depth += 1
                leading = False
        text = line[len(slots) :].lstrip(" ")
        lines.append(line if stays or not text else slots + STEP * max(0, level - closes) + text)
    return "\n".join(lines)


def _follow(verbatim: list[str], close: bool, name: str) -> None:
    if not close:
        verbatim.append(name)
    elif verbatim and verbatim[-1] == name:
        verbatim.pop()
