"""The shape of a menu: what makes two menus the same, wherever they stand."""

from __future__ import annotations

Shape = tuple[tuple[str, tuple[str, str] | None, int], ...]
"""Label, target (file or address, and fragment) and depth of each entry, as one reads."""


def difference(found: Shape, wanted: Shape) -> str:
    """What sets one shape apart from another, in words."""
    if not found:
        return "is missing"
    if not wanted:
        return "is in the wrong place"
    for here, there in zip(found, wanted, strict=False):
        if here != there:
            return f"has `{here[0][:60]}` where `{there[0][:60]}` is expected, or it leads elsewhere"
    return f"has {len(found)} entries where {len(wanted)} are expected"
