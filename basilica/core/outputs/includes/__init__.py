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
from basilica.core.plan import every_further, every_redirect
from basilica.core.shared.output_file import File


def files(renderer: Renderer) -> Iterator[File]:
    """Every file of this output; of a site in several languages each in its own folder."""
    renderer = rooted(renderer)
    yield File("README.md", _shipped("README.md.in").encode())
    there = set()
    for each in (renderer, *renderer.in_other_languages):
        yield from php(each, _shipped)
        yield from ssi(each)
        for file in (*each.assets_files(), *each.public_files()):
            if file.path not in there:
                there.add(file.path)
                yield file
    beside = (*every_redirect(renderer.plan), *every_further(renderer.plan))
    pages = {renderer.not_found, *(each.file for _, each in beside)}
    for name in renderer.generated:
        if name not in there | pages:
            yield File(name, renderer.generated_file(name))


def rooted(renderer: Renderer) -> Renderer:
    """The same site with links that are right at any depth, and with its menus by themselves."""
    plan = renderer.plan
    if plan.site.links not in ("root", "absolute"):
        plan = plan.moved(links="root")
    return Renderer(plan, renderer.all_contents, menus_alone=tuple(plan.menus))


@lru_cache(maxsize=16)
def _shipped(name: str) -> str:
    """A file of this output that is the same for every site."""
    return resources("basilica.core.outputs.includes").joinpath("shipped").joinpath(name).read_text(encoding="utf-8")
