"""Pictures of pixels out of drawings: an SVG file as PNG, of a size that others ask for."""

from __future__ import annotations

import re
from functools import lru_cache

import resvg_py
from lxml import etree

from basilica.core.shared.svg_file import NAMESPACE, read_svg

MOST_BYTES = 400_000
_MOST_USES = 2_000
"""How often shapes may be drawn again, all together."""
_MOST_WORK = 10
"""How much filters may do, in blurs of the whole picture: each takes about a second."""
_WORK = {
    "feTurbulence": ("numOctaves", 1, 0.25),
    "feConvolveMatrix": ("order", 2, 0.012),
    "feMorphology": ("radius", 2, 0.7),
}
"""By step of a filter, what it takes longer with, to which power, and how much."""
_NUMBERS = re.compile(r"[0-9]+(?:\.[0-9]+)?(?:[eE][0-9]+)?")
_FUNCTIONS = re.compile(r"\b(?:blur|drop-shadow)\(")
_XLINK = "{http://www.w3.org/1999/xlink}"
_NEVER = frozenset(["script", "foreignObject", "image", "feImage", "iframe", "audio", "video"])
"""What reaches out of a drawing, or is none."""
_TEXT = frozenset(["text", "tspan", "textPath"])
_URL = re.compile(r"url\(\s*[\"']?#([^)\"']+)")
_NUMBER = re.compile(r"\s*(\d{1,5}(?:\.\d+)?)(?:px)?\s*")


@lru_cache(maxsize=64)
def as_png(data: bytes, width: int, height: int, ground: str = "", room: float = 0.0) -> bytes:
    """An SVG file as PNG of ``width`` by ``height`` pixels, as large as fits, in the middle, on a ``ground`` (a CSS
    colour; empty: none) with some ``room`` around it, as a share of the smaller side.

    What leads out of the file is left out, and nothing of it is run (SVG 2, secure static mode). Raises ``ValueError``
    with what is wrong, in words."""
    root = _read(data)
    edge = min(width, height) * room
    root.attrib.update(
        {
            "x": f"{edge:g}",
            "y": f"{edge:g}",
            "width": f"{width - 2 * edge:g}",
            "height": f"{height - 2 * edge:g}",
            "preserveAspectRatio": "xMidYMid meet",
        }
    )
    whole = etree.Element(f"{NAMESPACE}svg", {"viewBox": f"0 0 {width} {height}"}, nsmap={None: NAMESPACE[1:-1]})
    if ground:
        etree.SubElement(whole, f"{NAMESPACE}rect", {"width": str(width), "height": str(height), "fill": ground})
    whole.append(root)
    text = etree.tostring(whole, encoding="unicode")
    try:
        return bytes(resvg_py.svg_to_bytes(svg_string=text, width=width, height=height, skip_system_fonts=True))
    except ValueError:
        raise ValueError("it cannot be drawn") from None


def problem_with_svg(data: bytes) -> str:
    """Why a drawing cannot become a picture; empty where it can."""
    try:
        _read(data)
    except ValueError as problem:
        return str(problem)
    return ""


def _read(data: bytes) -> etree._Element:
    """The drawing, without what leads out of it. Raises ``ValueError``."""
    root = read_svg(data, MOST_BYTES)
    for node in [*root.iter()]:
        name = str(node.tag).rpartition("}")[2]
        if name in _TEXT:
            raise ValueError("it has text, for which there is no font: convert it to paths")
        if name in _NEVER and (parent := node.getparent()) is not None:
            parent.remove(node)
        for attribute in [*node.attrib]:
            link = attribute in ("href", f"{_XLINK}href")
            if str(attribute).startswith("on") or (link and not node.attrib[attribute].startswith("#")):
                del node.attrib[attribute]
    _count_uses(root)
    if "viewBox" not in root.attrib:
        sides = [_NUMBER.fullmatch(root.attrib.get(side, "")) for side in ("width", "height")]
        if not all(sides):
            raise ValueError("it does not say how large it is: give it a `viewBox`")
        root.attrib["viewBox"] = "0 0 " + " ".join(side[1] for side in sides if side)
    return root


def _referred(node: etree._Element) -> list[str]:
    """The ids of what a piece of a drawing draws again, or is painted with."""
    found = []
    for each in node.iter():
        if each.tag == f"{NAMESPACE}use":
            found.append((each.attrib.get("href") or each.attrib.get(f"{_XLINK}href") or "#")[1:])
        found += [name for value in each.attrib.values() for name in _URL.findall(value)]
    return found


def _count_uses(root: etree._Element) -> None:
    """Refuse a drawing that draws the same again without bound, or has filters that take long. Raises
    ``ValueError``."""
    by_id = {node.attrib["id"]: node for node in root.iter() if "id" in node.attrib}
    known: dict[str, tuple[int, int]] = {}

    def uses(node: etree._Element, above: tuple[str, ...]) -> tuple[int, int]:
        """How often it draws something again, and how much its filters do."""
        total = 0
        work = sum(len(_FUNCTIONS.findall(value)) for each in node.iter() for value in each.attrib.values())
        for name in _referred(node):
            if name in above or len(above) > 50:
                raise ValueError("it draws itself again without end")
            if name not in known and name in by_id:
                inner = uses(by_id[name], (*above, name))
                known[name] = inner[0], inner[1] + _filter_work(by_id[name])
            again, more = known.get(name, (0, 0))
            total, work = total + 1 + again, work + more
            if total > _MOST_USES:
                raise ValueError(f"it draws shapes again more than {_MOST_USES:,} times")
        if work > _MOST_WORK:
            raise ValueError("its filters take too long to draw: use fewer, or simpler ones")
        return total, work

    uses(root, ())


def _filter_work(node: etree._Element) -> int:
    """How much a filter does, in blurs of the whole picture; 0 for anything else."""
    if node.tag != f"{NAMESPACE}filter":
        return 0
    work = 0
    for step in node.iter():
        name = str(step.tag).rpartition("}")[2]
        if name in _WORK:
            attribute, power, each = _WORK[name]
            numbers = [min(float(text), 1e6) for text in _NUMBERS.findall(step.attrib.get(attribute, ""))]
            work += 1 + int(max(numbers, default=1.0) ** power * each)
        else:
            work += name.startswith("fe")
    return work
