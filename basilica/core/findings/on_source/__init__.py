"""Rules on pages as they are written, whoever wrote them: each one module with a ``RULE``, and its line here."""

from __future__ import annotations

from collections.abc import Callable, Iterable

from basilica.core.findings.on_source import (
    canonical_elsewhere,
    declarations,
    left_over,
    no_words,
    tags_off,
    wrong_address,
)
from basilica.core.findings.on_source.source_rule import SourceRule
from basilica.core.rules.finding import Finding, printable
from basilica.core.shared.output_file import File
from basilica.core.site_reader import Resolver
from basilica.core.site_reader.page_source import PageSource

RULES: tuple[SourceRule, ...] = (
    declarations.RULE,
    no_words.RULE,
    tags_off.RULE,
    wrong_address.RULE,
    canonical_elsewhere.RULE,
    left_over.RULE,
)
"""In the order in which they are listed."""

_NAMED = 3


def source_findings(
    pages: Iterable[File], resolver: Resolver, step: Callable[[], None] = lambda: None
) -> tuple[Finding, ...]:
    """What is off on pages, at its line and column. The same words on several pages, as in a part that was copied into
    each, are said once, with those pages."""
    told: dict[tuple[str, str], list[tuple[SourceRule, str, str, tuple[int, int]]]] = {}
    for file in pages:
        page = PageSource(file)
        for rule in RULES:
            for fault in rule.run(page, resolver):
                said = fault.message.replace(page.file, "\0")
                told.setdefault((rule.code, said), []).append((rule, page.file, fault.message, page.place(fault.at)))
        step()
    found = []
    for same in told.values():
        rule, name, message, (line, column) = same[0]
        others = list(dict.fromkeys(one[1] for one in same if one[1] != name))
        if others:
            more = f" and {len(others) - _NAMED:,} more" if len(others) > _NAMED else ""
            message = f"{message} The same on {', '.join(others[:_NAMED])}{more}."
        found.append(Finding(rule, printable(message), rule.remedy, line, column, file=printable(name), built=name))
    return tuple(found)
