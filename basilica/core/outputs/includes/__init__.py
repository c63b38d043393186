"""Includes: what pages share as files for servers that put pages together, in PHP and as server-side includes.

Every link is a root link (or a full address, where the map says so), so that the files serve a page at any depth.
"""

from __future__ import annotations

from collections.abc import Iterator
from functools import lru_cache
from importlib.resources import files as resources

from basilica.core.outputs.includes.php import php
from basilica.core.outputs.includes.ssi import ssi
from basilica.core.outputs.static_site import Renderer
from basilica.core.shared.output_file import File


def files(renderer: Renderer) -> Iterator[File]:
    """Every file of this output."""
    renderer = rooted(renderer)
    yield File("README.md", _shipped("README.md.in").encode())
    yield from php(renderer, _shipped)
    yield from ssi(renderer)
    yield from renderer.assets_files()
    yield from renderer.public_files()


def rooted(renderer: Renderer) -> Renderer:
    """The same site with links that are right at any depth, and with its menus by themselves."""
    site = renderer.plan.site
    plan = renderer.plan
    if site.links not in ("root", "absolute"):
        plan = plan.moved(links="root")
    return Renderer(plan, renderer.contents, menus_alone=tuple(plan.menus))


@lru_cache(maxsize=16)
def _shipped(name: str) -> str:
    """A file of this output that is the same for every site."""
    return resources("basilica.core.outputs.includes").joinpath("shipped").joinpath(name).read_text(encoding="utf-8")
