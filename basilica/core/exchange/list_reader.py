"""What indented lists and tables have in common once their lines are read: from lines to items."""

from __future__ import annotations

import re
from collections.abc import Iterable
from dataclasses import replace

from basilica.core.exchange import list_rules
from basilica.core.exchange.list_items import Item, ItemKind, ListLine, nested
from basilica.core.map.site.entry_reader import outside_address
from basilica.core.map.site.field_reader import UNSEEN
from basilica.core.rules import limits
from basilica.core.rules.finding import Findings
from basilica.core.rules.place import Place
from basilica.core.rules.rule import Rule

OUTSIDE = re.compile(r"[A-Za-z][A-Za-z0-9+.-]*:(?!\s)")
"""How an address with a scheme begins (RFC 3986, 3.1)."""
BOLD = re.compile(r"(?P<mark>\*\*|__)(?P<label>\S.*?)(?P=mark):?")
"""A label in bold, as Markdown writes it (CommonMark 0.31, 6.2): it opens a group."""
FOOTER = frozenset({"footer", "footer menu"})
"""Groups at the top that are taken for the menu of the footer."""
APART = frozenset({"in no menu", "not in a menu"})


def items_of(lines: Iterable[ListLine], findings: Findings) -> tuple[Item, ...]:
    """The items that lines make. What a line cannot be becomes a finding, and the line is left out."""
    placed, _ = nested(lines)
    top: list[Item] = []
    stack: list[tuple[ListLine, list[Item]]] = []

    def close() -> None:
        line, below = stack.pop()
        item = _item(line, tuple(below), len(stack), findings)
        target = stack[-1][1] if stack else top
        if item is None:
            target.extend(below)  # what stands under a line that cannot be taken is not lost
        else:
            target.append(item)

    for line, depth in placed:
        while len(stack) > depth:
            close()
        if depth >= limits.LEVELS:
            _say(findings, line, f"This is on level {depth + 1}; a map has at most {limits.LEVELS}.", "Move it up.")
            continue
        stack.append((line, []))
    while stack:
        close()
    return tuple(top)


def _say(findings: Findings, line: ListLine, message: str, remedy: str, rule: Rule = list_rules.LIST_LINE) -> None:
    findings.add(rule, Place(line.number, 1), message, remedy)


def _item(line: ListLine, below: tuple[Item, ...], depth: int, findings: Findings) -> Item | None:
    """The item of a line, now that it is known what stands under it."""
    label, kind = UNSEEN.sub("", line.label).strip(), line.kind
    address = UNSEEN.sub("", line.address) if line.address is not None else None
    if (label, address) != (line.label.strip(), line.address):
        _say(findings, line, "There are invisible characters here, which no page can show.", "They were left out.")
    if len(label) > limits.LABEL_CHARACTERS:
        most = limits.LABEL_CHARACTERS
        _say(findings, line, f"This has {len(label):,} characters; a label has at most {most}.", "Shorten it.")
        label = label[:most]
    if kind is None:
        kind, label = _kind(label, address, below, depth)
    if kind is ItemKind.GROUP and not below:
        _say(
            findings,
            line,
            f"There is nothing under `{label[:60]}`, so it is a page.",
            "Indent what belongs under it.",
            list_rules.LIST_NOTE,
        )
        kind = ItemKind.PAGE
    if kind is ItemKind.LINK:
        url = outside_address(address or "")
        if url is None:
            message = f"`{(address or '')[:80]}` is not an outside address."
            _say(findings, line, message, "Begin it with https:, http:, mailto: or tel:.")
            return None
        address = url
    if kind in (ItemKind.LINK, ItemKind.ENTRY) and below:
        _say(
            findings,
            line,
            f"There are lines under `{label[:60]}`, which is a link.",
            "Move them out, or make it a page.",
        )
        return None
    if not label:
        _say(findings, line, "There is no label here.", "Write one, or delete the line.")
        return None
    return Item(
        kind,
        label,
        address if kind not in (ItemKind.GROUP, ItemKind.MENU, ItemKind.APART) else None,
        below,
        line.number,
    )


def _kind(label: str, address: str | None, below: tuple[Item, ...], depth: int) -> tuple[ItemKind, str]:
    """What a line is, by how it is written."""
    if address == "group":
        return ItemKind.GROUP, label
    if address is not None:
        if address.startswith(("page:", "file:")):
            return ItemKind.ENTRY, label
        return (ItemKind.LINK if OUTSIDE.match(address) else ItemKind.PAGE), label
    if depth == 0 and label.startswith("[") and label.endswith("]"):
        name = label[1:-1].strip()
        return (ItemKind.APART if name.casefold() in APART else ItemKind.MENU), name
    bold = BOLD.fullmatch(label)
    if bold or label.endswith(":"):
        label = bold["label"].strip() if bold else label[:-1].rstrip()
        kind = ItemKind.GROUP
    elif is_capitals(label) and below:
        kind = ItemKind.GROUP
    else:
        return ItemKind.PAGE, label
    if depth == 0 and label.casefold() in FOOTER:
        return ItemKind.MENU, "footer"
    return (ItemKind.APART if depth == 0 and label.casefold() in APART else kind), label


def is_capitals(label: str) -> bool:
    """Whether a label is in capitals all through."""
    return label == label.upper() and label != label.lower()


def with_home(items: tuple[Item, ...]) -> tuple[Item, ...]:
    """Items in which the first page called home, at the top and with nothing under it, has the address of home,
    unless another has it."""

    def is_home(item: Item) -> bool:
        return (
            item.kind is ItemKind.PAGE
            and item.address is not None
            and not item.address.strip("/.")
            and "/" in item.address
        )

    def anywhere(some: tuple[Item, ...]) -> bool:
        return any(is_home(item) or anywhere(item.items) for item in some)

    if anywhere(items):
        return items
    for index, item in enumerate(items):
        if item.kind is ItemKind.PAGE and item.label.casefold() == "home" and not item.items and item.address is None:
            return (*items[:index], replace(item, address="/"), *items[index + 1 :])
    return items
