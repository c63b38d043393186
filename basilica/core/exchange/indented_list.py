"""An indented list ↔ items. Depth is in spaces, tabs, dashes or numbers; bullets are only for the eye."""

from __future__ import annotations

import re
from collections.abc import Iterable

from basilica.core.exchange.list_items import Item, ItemKind, ListLine, with_depth
from basilica.core.exchange.list_reader import BOLD, FOOTER, OUTSIDE, is_capitals, items_of
from basilica.core.map.document import document_rules
from basilica.core.map.site import site_rules
from basilica.core.rules import limits
from basilica.core.rules.finding import Finding, Findings
from basilica.core.rules.place import START, Place

_DASHES = re.compile(r"([-–—*+]{1,12})\s+(?=\S)")
_BULLET = re.compile(r"[•▪◦‣·●○■]\s*")
_NUMBER = re.compile(r"\(?(\d{1,3}(?:\.\d{1,3})*)(?:[.)]\)?|(?<=\.\d)|(?<=\.\d\d))\s+(?=\S)")
_ADDRESS = re.compile(r"(?P<label>.*)(?:(?<=\s)|^)(?:\||->|→)\s+(?P<address>\S.*)")
"""A label and an address; the last sign between the two counts."""
_RULE = re.compile(r"\s*|\s*(?:[-_=*~–—.]\s*){3,}")
"""An empty line, or one that only parts others."""
_TOO_MANY = f"There are more than {limits.PAGES:,} lines; those from here on are left out."


def read_list(text: str) -> tuple[tuple[Item, ...], tuple[Finding, ...]]:
    """The items of an indented list, and what could not be taken of it, by line.

    A line is ``Label``, ``Label | address`` or ``Label -> address``. In capitals, with lines under it, in bold as
    Markdown has it, or ending with a colon it is a group; in square brackets at the top it names a menu. Never raises
    for any input.
    """
    findings = Findings()
    if len(text) > limits.TEXT_BYTES:
        findings.add(
            document_rules.TOO_LARGE, START, f"The list has more than {limits.TEXT_BYTES:,} characters.", "Shorten it."
        )
        return (), findings.done()
    text = text.removeprefix("\ufeff")
    rows = [line for line in enumerate(re.split(r"\r\n|\r|\n", text), 1) if not _RULE.fullmatch(line[1])]
    if len(rows) > limits.PAGES:
        findings.add(
            site_rules.TOO_MANY_PAGES, Place(rows[limits.PAGES][0], 1), _TOO_MANY, "Split the list into several."
        )
        rows = rows[: limits.PAGES]
    indented = len({_indent(line) for _, line in rows}) > 1
    lines = [_line(number, line, indented) for number, line in rows]
    return items_of(lines, findings), findings.done()


def _indent(line: str) -> int:
    expanded = line.expandtabs(4)
    return len(expanded) - len(expanded.lstrip())


def _line(number: int, line: str, indented: bool) -> ListLine:
    """One line. Where no line is indented, dashes and numbers tell the depth."""
    rest, depth = line.strip(), 0
    dashes, bullet, numbered = _DASHES.match(rest), _BULLET.match(rest), _NUMBER.match(rest)
    if dashes:
        depth = len(dashes[1])
    elif numbered:
        depth = numbered[1].count(".") + 1
    elif bullet:
        depth = 1
    lead = dashes or numbered or bullet
    if lead:
        rest = rest[lead.end() :]
    address = _ADDRESS.fullmatch(rest)
    label = " ".join((address["label"] if address else rest).split())
    where = address["address"].strip() if address else None
    return ListLine(number, _indent(line) if indented else depth, label, where, None)


def write_list(items: Iterable[Item]) -> str:
    """Items as an indented list, two spaces a level. Reading it gives the same items."""
    rows = [(_written(item, depth), depth) for item, depth in with_depth(items)]
    # A label that begins like a bullet or a number is kept whole by a bullet before it, and then all lines have one.
    bullet = "- " if any(_starts_like_a_mark(text) for text, _ in rows) else ""
    text = "".join(f"{'  ' * depth}{bullet}{row}\n" for row, depth in rows)
    return f"\ufeff{text}" if text.startswith("\ufeff") else text  # the first is taken for a byte order mark


def _starts_like_a_mark(text: str) -> bool:
    return bool(_DASHES.match(text) or _BULLET.match(text) or _NUMBER.match(text))


def _written(item: Item, depth: int) -> str:
    label, address = item.label, item.address
    if item.kind is ItemKind.MENU:
        return f"[{label}]"
    if item.kind is ItemKind.APART:
        return "[in no menu]"
    if item.kind is ItemKind.GROUP:
        plain = depth > 0 or label.casefold() not in (*FOOTER, "in no menu", "not in a menu")
        return (
            f"{label}:" if plain and not _ADDRESS.fullmatch(label) and not label.endswith(":") else f"{label} | group"
        )
    return label if address is None else f"{label} | {address}"


def needs_address(item: Item, depth: int) -> bool:
    """Whether a page would be taken for something else, were it written by its label alone."""
    label = item.label
    return bool(
        label.endswith(":")
        or (label.startswith("[") and label.endswith("]"))
        or _ADDRESS.fullmatch(label)
        or OUTSIDE.match(label)
        or _RULE.fullmatch(label)
        or BOLD.fullmatch(label)
        or (is_capitals(label) and item.items)
    )
