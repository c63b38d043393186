"""Pages that exist in a folder, and the shared regions set into them. A page is written whole or not at all."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path

from basilica.core.outputs.inlay import CannotInlay, inlay, marked_regions_of
from basilica.core.outputs.static_site import Renderer
from basilica.store.errors import UsageError
from basilica.store.folders import place_in, write_atomically


@dataclass(frozen=True, slots=True)
class InlayResult:
    """A file of the folder: the regions that are other now, those that it has no marks for, and why it was left as it
    is (empty where it was not)."""

    file: str
    changed: tuple[str, ...] = ()
    without: tuple[str, ...] = ()
    problem: str = ""
    dead_skip: bool = False
    """Whether the skip link leads nowhere, since nothing in the page has the id ``content``."""


_CONTENT = re.compile(rb"""\sid\s*=\s*["']?content["'\s>]""")


def inlay_folder(
    renderer: Renderer, folder: Path, place: bool, write: bool, step: Callable[[], None] = lambda: None
) -> tuple[InlayResult, ...]:
    """Set the shared regions into every page of the map that is in ``folder``, and put the style and script there
    that they need. With ``write`` False nothing is written. Raises ``UsageError`` for a folder that is none."""
    if not folder.is_dir():
        raise UsageError(f"{folder} is no folder. Name the one that has the pages.")
    # The files first: no page asks for one that is not there.
    files = [made for file in renderer.assets_files() for made in _asset(folder, file.path, file.data, write)]
    pages = []
    for key in renderer.pages:
        pages.append(_page(renderer, folder, key, place, write))
        step()
    return (*pages, *files)


def _asset(folder: Path, name: str, data: bytes, write: bool) -> list[InlayResult]:
    """A file that the pages need; nothing where it is there already."""
    try:
        path = place_in(folder, name)
        if path.is_file() and path.read_bytes() == data:
            return []
        if write:
            write_atomically(path, data)
    except OSError as error:
        return [InlayResult(name, problem=f"It cannot be read: {error.strerror}.")]
    except UsageError as error:
        return [InlayResult(name, problem=str(error))]
    return [InlayResult(name, ("the whole file",))]


def _page(renderer: Renderer, folder: Path, key: str, place: bool, write: bool) -> InlayResult:
    file = renderer.plan.routes[key].file
    if not (folder / file).is_file():
        return InlayResult(file, problem="It is not there.")
    try:
        path = place_in(folder, file)
        data = path.read_bytes()
        done = inlay(data, marked_regions_of(renderer, key), place)
    except (CannotInlay, UsageError) as error:
        return InlayResult(file, problem=str(error))
    except OSError as error:
        return InlayResult(file, problem=f"It cannot be read: {error.strerror}.")
    if write and done.data != data:
        try:
            write_atomically(path, done.data)
        except UsageError as error:
            return InlayResult(file, problem=str(error))
    dead = b'href="#content"' in done.data and not _CONTENT.search(done.data)
    return InlayResult(file, done.changed, done.without, dead_skip=dead)
