"""The templates of the generated pages, and what they can call."""

from __future__ import annotations

from collections.abc import Callable
from functools import lru_cache

from jinja2 import Environment, PackageLoader, StrictUndefined, select_autoescape
from markupsafe import Markup, escape

from basilica.core.navigation.menus import MenuPlan, PlannedEntry
from basilica.core.outputs.static_site.slots import (
    CurrentMark,
    EntryAddress,
    HomeAddress,
    NavigationFile,
    PathMark,
    RegionSlot,
    room_for,
)
from basilica.core.shared.css_text import css_string
from basilica.core.shared.facts import telephone
from basilica.core.shared.icons import drawn


def _children(menu: MenuPlan, entry: PlannedEntry | None = None) -> tuple[PlannedEntry, ...]:
    return tuple(menu.entries[number] for number in (entry.items if entry is not None else menu.top))


_ADAPTER: dict[str, Callable[..., object]] = {
    "entry_address": lambda menu, entry: room_for(EntryAddress(menu.name, entry.number)),
    "current": lambda menu, number: room_for(CurrentMark(menu, number)),
    "on_path": lambda menu, number: room_for(PathMark(menu, number)),
    "home_address": lambda: room_for(HomeAddress()),
    "navigation_file": lambda name: room_for(NavigationFile(name)),
    "region": lambda name: room_for(RegionSlot(name)),
    "children": _children,
}
"""What the templates of shared parts ask, as the static site answers it: with room for what differs from page to page.
The Flask kit has the same templates, and answers with the values of the page that is asked for."""


@lru_cache(maxsize=1)
def environment() -> Environment:
    """The templates of the generated pages."""
    env = Environment(
        loader=PackageLoader("basilica.core.outputs.static_site"),
        autoescape=select_autoescape(("html", "xml")),
        trim_blocks=True,
        lstrip_blocks=True,
        keep_trailing_newline=True,
        undefined=StrictUndefined,
    )
    env.globals.update(_ADAPTER)
    env.globals["icon"] = icon
    env.filters["css_string"] = css_string
    env.filters["naming"] = naming
    env.filters["lines"] = lines
    env.filters["telephone"] = telephone
    env.filters["unbroken"] = unbroken
    return env


def icon(name: str, drawing: str = "") -> Markup:
    """An icon of the set that ships, or a ``drawing`` of the site's own, as it stands in a page: what it says stands
    beside it in words."""
    return Markup(drawing or drawn(name))


def naming(phrase: str, label: str) -> str:
    """A phrase with a label in it."""
    return phrase.replace("{}", label)


def unbroken(text: str) -> str:
    """A number that stays on one line."""
    return text.replace(" ", "\N{NO-BREAK SPACE}").replace("-", "\N{NON-BREAKING HYPHEN}")


def lines(text: str) -> Markup:
    """Text whose line ends stay."""
    return Markup("<br>\n").join(escape(line.strip()) for line in text.splitlines() if line.strip())
