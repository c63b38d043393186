"""What a rule on pages as they are written is."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import NamedTuple

from basilica.core.rules.rule import Rule
from basilica.core.site_reader import Resolver
from basilica.core.site_reader.page_source import PageSource


class SourceFault(NamedTuple):
    """Something that is off: where it begins, in the bytes of the page, and what is said of it."""

    at: int
    message: str


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class SourceRule(Rule):
    """A rule with the function that finds what is off on a page; the resolver says where links of the site lead."""

    run: Callable[[PageSource, Resolver], Iterator[SourceFault]]
