"""Basilica's own navigation, from a page map of itself."""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path

from markupsafe import Markup

from basilica.core.compile import compile_map
from basilica.core.outputs.static_site import Renderer
from basilica.core.plan import Route

_MAP = (Path(__file__).parent / "application.yaml").read_text(encoding="utf-8")
_NO_SITE = ("none", "No site")


@dataclass(frozen=True, slots=True)
class Bar:
    """What the bar of one page of the application shows, made by the core."""

    title: str
    menu: Markup
    breadcrumbs: Markup
    behaviour: str


@lru_cache(maxsize=64)
def _renderer(slug: str, name: str) -> Renderer:
    printable = "".join(character for character in name if character.isprintable())
    text = _MAP.replace("{slug}", slug).replace("{name}", json.dumps(printable, ensure_ascii=False))
    compiled = compile_map(text)
    if compiled.plan is None or compiled.stops:
        raise ValueError(f"Basilica's own page map is broken: {compiled.findings}")
    return Renderer(compiled.plan, {}, menus_alone=("main", "workspaces"))


def bar(key: str, slug: str | None = None, name: str | None = None) -> Bar:
    """The bar on the application's page ``key``, while the site ``slug`` is open or none is."""
    renderer = _renderer(slug, name or slug) if slug else _renderer(*_NO_SITE)
    plan = renderer.plan
    return Bar(
        plan.site.pages[key].title,
        renderer.menu("workspaces" if slug else "main", key),
        renderer.breadcrumbs(key),
        plan.header.plain.behaviour,
    )


def routes(slug: str) -> Mapping[str, Route]:
    """Where each page of the application is while the site ``slug`` is open, by key, as its own page map says."""
    return _renderer(slug, slug).plan.routes
