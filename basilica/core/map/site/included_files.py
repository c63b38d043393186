"""A piece of the map in a file of its own, read where it is included."""

from __future__ import annotations

from dataclasses import replace

from basilica.core.map.document import Mapping, Node, Scalar, Sequence, read
from basilica.core.map.site import site_rules
from basilica.core.map.site.field_reader import Context, kind_of, text_of
from basilica.core.rules.finding import Finding

_APART = 1 << 40
"""Offsets between one file and the next: more than a map can have characters."""


def included_file(said: str) -> str:
    """Return the name of the file that a page includes, from its `include`."""
    return f"maps/{said.strip().removeprefix('maps/')}"


def included(node: Node, where: str, above: tuple[str, ...], context: Context) -> tuple[Mapping | None, str]:
    """What the file that ``node`` names says of a page, and its name. The offsets in it are its own from here on, so
    that findings name the file. ``above`` are the files in which this one is included."""
    text = text_of(node, f"`include` of {where}", context)
    if text is None:
        return None, ""
    known = context.files.under("maps")
    file = included_file(text)
    name = file.removeprefix("maps/")
    if name not in known:
        near = context.nearest(name, known)
        context.say(
            site_rules.UNKNOWN_FILE,
            node.start,
            f"There is no file `{name[:80]}` in the folder `maps`.",
            f"Did you mean `{near}`?" if near else "Put the piece of the map there, and name it here.",
        )
        return None, ""
    if file in above:
        ring = " → ".join((*above[above.index(file) :], file))
        context.say(site_rules.INCLUDE_RING, node.start, f"The file includes itself: {ring}.")
        return None, ""
    document, findings = read(context.files[file])
    context.findings.extend(_in_file(finding, file) for finding in findings)
    begins = _APART * (len(context.lines.others) + 1)
    context.lines = replace(context.lines, others=(*context.lines.others, (begins, file, document.lines)))
    root = document.root
    if root is None or (isinstance(root, Scalar) and root.is_nothing):
        return None, file
    root = _moved(root, begins)
    if not isinstance(root, Mapping):
        message = f"{file} is {kind_of(root)} where the words of a page are expected."
        context.say(site_rules.WRONG_SHAPE, root.start, message, "Write `pages:` in it, and the pages below that.")
        return None, file
    return root, file


def _in_file(finding: Finding, file: str) -> Finding:
    return replace(finding, file=file, fix=None)


def _moved(node: Node, by: int) -> Node:
    """The same node with every offset further on."""
    end = node.end + by if node.end >= 0 else node.end
    if isinstance(node, Scalar):
        return node._replace(start=node.start + by, end=end)
    if isinstance(node, Sequence):
        return Sequence(tuple(_moved(item, by) for item in node.items), node.start + by, end)
    pairs = tuple(
        (key._replace(start=key.start + by, end=key.end + by), _moved(value, by)) for key, value in node.pairs
    )
    return Mapping(pairs, node.start + by, end)
