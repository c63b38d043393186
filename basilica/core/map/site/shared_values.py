"""Values that many pages share: parts, what fills slots, and what every head loads."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from basilica.core.language.sections.head_words import Social

Slots = tuple[tuple[str, tuple[str, ...]], ...]
"""By name of a slot, the names of the parts that fill it."""


@dataclass(frozen=True, slots=True)
class Part:
    """A named piece of pages. ``text`` is Markdown, or HTML where ``markup`` says so; ``values`` are the words of its
    kind. ``file`` is the file it is written in; empty for the map, with the place of its text in ``text_at``."""

    name: str
    kind: str = "text"
    text: str = ""
    markup: str = "markdown"
    values: tuple[tuple[str, str], ...] = ()
    file: str = ""
    at: int = field(compare=False, default=0)
    text_at: int = field(compare=False, default=0)

    def value(self, word: str) -> str:
        """One of its words; empty where it does not say."""
        return dict(self.values).get(word, "")


@dataclass(frozen=True, slots=True)
class EntryMarkup:
    """How the entries of a menu are written into pages that exist: patterns in HTML with `{address}`, `{label}`,
    `{below}`, and `{entries}` in ``below``; empty where the usual one holds."""

    entry: str = ""
    current: str = ""
    section: str = ""
    holds: str = ""
    group: str = ""
    between: str = "\n"
    below: str = ""


@dataclass(frozen=True)
class InlaySettings:
    """How shared regions are set into pages that exist: the folder of these, what of their heads is replaced, and how
    menus, by name, and breadcrumbs are written there."""

    replace: frozenset[str] = frozenset()
    menus: Mapping[str, EntryMarkup] = field(default_factory=dict)
    breadcrumbs: EntryMarkup | None = None
    folder: str = ""


NO_INLAY = InlaySettings()


@dataclass(frozen=True, slots=True)
class PageExtras:
    """What a page has of its own beside its text. ``layout``, ``slots`` and ``without`` hold for those under it too,
    where these do not say otherwise; the rest is the page's alone."""

    layout: str = ""
    slots: Slots = ()
    without: tuple[str, ...] = ()
    keywords: str = ""
    date: str = ""
    """When it came out, and was last changed (``updated``): `2026-03-01`."""
    updated: str = ""
    social: Social | None = None
    styles: tuple[str, ...] = ()
    scripts: tuple[str, ...] = ()
    css: str = ""
    js: str = ""
    css_class: str = ""
    noindex: bool = False
    ignored: tuple[tuple[str, str], ...] = ()
    """Checks that say nothing of this page and of those under it, each with the reason."""
