"""Items of a list → pages to be added at a place."""

from __future__ import annotations

from collections.abc import Iterable

from basilica.core.edits.commands.add_pages import ListedPage
from basilica.core.exchange import list_rules
from basilica.core.exchange.list_items import Item, ItemKind
from basilica.core.rules.finding import Finding, Findings
from basilica.core.rules.place import Place


def listed_pages(items: Iterable[Item]) -> tuple[tuple[ListedPage, ...], tuple[Finding, ...]]:
    """The pages of a list. What only a menu can say, such as a group or a link, is left out, which a finding says; the
    pages under it come in its place."""
    findings = Findings()

    def pages(level: Iterable[Item]) -> tuple[ListedPage, ...]:
        found: list[ListedPage] = []
        for item in level:
            if item.kind is ItemKind.PAGE:
                found.append(ListedPage(item.label, item.address or "", pages(item.items)))
                continue
            message = f"“{item.label[:60]}” is not a page, so it is left out."
            findings.add(list_rules.LIST_NOTE, Place(item.line, 1), message, "Add it to a menu by hand.")
            found.extend(pages(item.items))
        return tuple(found)

    return pages(items), findings.done()
