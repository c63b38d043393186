"""What a check is, and what it brings back."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from itertools import chain

from basilica.core.map.document import Lines
from basilica.core.plan import Plan
from basilica.core.plan.content_links import Content, Contents
from basilica.core.rules.place import START, Place
from basilica.core.rules.rule import Level, Rule
from basilica.core.site_reader import BuiltPage, BuiltSite


@dataclass(frozen=True, slots=True)
class Violation:
    """Something that is off. ``page`` is None where it is true of the whole site.

    ``written`` is the text, such as an address, that a person may have typed; it is looked for in the page's content to
    say where. ``at`` is the offset in the map that it comes from, where that is known and is not the page's own line.
    ``spot`` says where it stands in the page: a CSS selector, and the how-manieth that it meets, from 0. ``part`` is
    the shared part in which it stands: the name of a menu (`menu-main`), `breadcrumbs`, `header` or `footer`."""

    page: BuiltPage | None
    message: str
    remedy: str = ""
    spot: tuple[str, int] | None = None
    written: str = ""
    at: int | None = None
    part: str = ""
    key: str | None = None
    """The page of the map, where it is about one that was not built."""

    @property
    def about(self) -> str | None:
        """The key of the page that it is about."""
        return self.page.key if self.page is not None and self.page.key is not None else self.key

    def place(self, plan: Plan, contents: Contents) -> Place:
        """Where a person mends it."""
        if self.at is not None:
            return plan.site.lines.place(self.at)
        key = self.about
        if key is None or key not in plan.site.pages:
            return START
        if self.written:
            own = (content for name, content in _texts_of(key, contents))
            parts = ((part.text, part.file, part.text_at or part.at) for part in plan.site.parts.values())
            for text, name, at in chain(((content.text, content.name, 0) for content in own), parts):
                found = _find(self.written, text)
                if found is not None:
                    # A part that is written in the map is there as it stands, but its lines are not.
                    return Lines.of(text).place(found)._replace(file=name) if name else plan.site.lines.place(at)
        return plan.site.lines.place(plan.site.pages[key].at)


def _texts_of(key: str, contents: Contents) -> Iterator[tuple[str, Content]]:
    """The text of a page, and those that it has for slots."""
    if key in contents:
        yield key, contents[key]
    yield from ((name, content) for name, content in contents.items() if name.startswith(key + "."))


def _find(written: str, text: str) -> int | None:
    """Where something stands in a text: as the whole of a link's words or of an address if it can be found so."""
    for before, after in ((">", "<"), ("[", "]"), ('"', '"'), ("(", ")"), ("", "")):
        found = text.find(before + written + after)
        if found >= 0:
            return found + len(before)
    return None


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Check(Rule):
    """A rule that is looked at on the whole map or on built pages, with the function that finds it."""

    run: Callable[[BuiltSite], Iterator[Violation]]
    applies: Callable[[BuiltSite, BuiltPage], bool] = lambda built, page: True
    """Whether a page is asked at all; where it is not, that is on purpose."""
    of_redirects: bool = False
    """Whether what stands at old and further addresses is asked too."""
    without_map: str = ""
    """The remedy on pages of which no map is known, where that is another."""
    level_without_map: Level | None = None
    """The level there, where that is another: rules that are younger than the pages do not fail them."""

    def remedy_on(self, built: BuiltSite) -> str:
        """The remedy for a site."""
        return self.without_map if built.plan is None and self.without_map else self.remedy


def nav_named(name: str) -> tuple[str, int]:
    """Where the navigation of a name stands in a page: a CSS selector, and the first that it meets."""
    escaped = name.replace("\\", "\\\\").replace('"', '\\"')
    return f'nav[aria-label="{escaped}"]', 0
