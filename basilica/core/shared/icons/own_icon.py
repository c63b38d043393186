"""An icon of the site's own: an SVG file, of which only what draws is kept, so that it can stand in a page."""

from __future__ import annotations

import re

from lxml import etree
from markupsafe import escape

from basilica.core.shared.svg_file import NAMESPACE, read_svg

MOST_BYTES = 20_000
"""An icon stands in every page, so a large drawing is none."""

_SHAPES = frozenset(["g", "path", "circle", "ellipse", "rect", "line", "polyline", "polygon"])
_PLACES = ("x", "y", "x1", "y1", "x2", "y2", "cx", "cy", "r", "rx", "ry", "width", "height")
_PAINT = ("fill", "fill-rule", "stroke", "stroke-width", "stroke-linecap", "stroke-linejoin")
_MORE_PAINT = ("opacity", "fill-opacity", "clip-rule", "stroke-opacity", "stroke-miterlimit", "stroke-dasharray")
_ATTRIBUTES = frozenset(["d", "points", "transform", *_PLACES, *_PAINT, *_MORE_PAINT, "stroke-dashoffset"])
"""What shapes and their paint are said with (SVG 2, 9 to 13)."""
_VALUE = re.compile(r"[\w\s.,#%()+\-]{0,16000}")
_NUMBER = re.compile(r"\s*(\d{1,5}(?:\.\d+)?)(?:px)?\s*")
_BOX = re.compile(r"\s*-?[\d.]+(?:[\s,]+-?[\d.]+){3}\s*")


def own_icon(data: bytes) -> str:
    """An SVG file as an icon that stands in a page, 20 CSS px high, in the colour of the text where it says none.

    Of the file shapes and their paint are kept; scripts, styles, links, pictures and text are not (SVG 2, secure
    static mode). Raises ``ValueError`` with what is wrong, in words."""
    root = read_svg(data, MOST_BYTES)
    box = root.get("viewBox", "")
    if not _BOX.fullmatch(box):
        width, height = (_NUMBER.fullmatch(root.get(side, "")) for side in ("width", "height"))
        if not width or not height:
            raise ValueError("it has no `viewBox`, so its size is not known")
        box = f"0 0 {width[1]} {height[1]}"
    drawn = "".join(_shape(child, 0) for child in root)
    if not drawn:
        raise ValueError("it is empty")
    paint = {name: value for name, value in root.attrib.items() if name in _PAINT and _VALUE.fullmatch(value)}
    paint.setdefault("fill", "currentColor")
    said = "".join(f' {name}="{escape(value)}"' for name, value in paint.items())
    return (
        '<svg class="b-icon" aria-hidden="true" focusable="false" width="20" height="20"'
        f' viewBox="{" ".join(box.replace(",", " ").split())}"{said}>{drawn}</svg>'
    )


def _shape(element: etree._Element, depth: int) -> str:
    if not isinstance(element.tag, str) or element.tag.removeprefix(NAMESPACE) not in _SHAPES or depth > 20:
        return ""
    name = element.tag.removeprefix(NAMESPACE)
    said = "".join(
        f' {key}="{escape(value)}"'
        for key, value in element.attrib.items()
        if key in _ATTRIBUTES and _VALUE.fullmatch(value) and "url(" not in value.lower()
    )
    if name == "g":
        inside = "".join(_shape(child, depth + 1) for child in element)
        return f"<g{said}>{inside}</g>" if inside else ""
    return f"<{name}{said}/>"
