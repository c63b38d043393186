"""SVG files that come from outside, read without following what they name."""

from __future__ import annotations

from lxml import etree

NAMESPACE = "{http://www.w3.org/2000/svg}"


def read_svg(data: bytes, most_bytes: int) -> etree._Element:
    """The outermost element of an SVG file of at most ``most_bytes``. Nothing outside the file is read, and no name
    that it declares is filled in. Raises ``ValueError`` with what is wrong, in words."""
    if len(data) > most_bytes:
        raise ValueError(f"it has more than {most_bytes:,} bytes")
    if b"<!ENTITY" in data:
        raise ValueError("it declares names of its own (entities)")
    parser = etree.XMLParser(
        resolve_entities=False, no_network=True, load_dtd=False, remove_comments=True, remove_pis=True
    )
    try:
        root = etree.fromstring(data, parser)
    except (etree.XMLSyntaxError, ValueError):
        raise ValueError("it cannot be read as SVG") from None
    if root.tag != f"{NAMESPACE}svg":
        raise ValueError("it is not an SVG file")
    return root
