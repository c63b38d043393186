"""Which page stands below which: by breadcrumbs, by menus that nest, and by folders."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence

from basilica.core.exchange.site_import.found_menus import FoundEntry
from basilica.core.site_reader.link_resolver import INDEXES


def parents_of(
    files: Sequence[str],
    home: str | None,
    trails: Mapping[str, Sequence[str]],
    menus: Iterable[Iterable[FoundEntry]],
) -> dict[str, str | None]:
    """By file, the file of the page above it (None: it stands at the top). What breadcrumbs say counts more than a
    menu, and that more than folders. Nobody is below home, nor below themselves."""
    known = set(files)
    above: dict[str, str | None] = {file: _in_folder(file, known, home) for file in files}
    for menu in menus:
        for parent, child in _nested(menu, None):
            if child in known and (parent is None or parent in known) and parent not in (child, home):
                above[child] = parent or above[child]
    for file, trail in trails.items():
        way = [one for one in trail if one in known and one not in (home, file)]
        if file in known and trail:
            above[file] = way[-1] if way else None
    if home is not None:
        above[home] = None
    for file in files:
        met, at = {file}, above[file]
        while at is not None:
            if at in met:
                above[file] = None  # they would stand below each other
                break
            met.add(at)
            at = above[at]
    return above


def _nested(entries: Iterable[FoundEntry], parent: str | None) -> list[tuple[str | None, str]]:
    found = []
    for entry in entries:
        file = entry.target.file if entry.target is not None and not entry.target.fragment else None
        if file is not None:
            found.append((parent, file))
        found += _nested(entry.items, file or parent)
    return found


def _in_folder(file: str, known: set[str], home: str | None) -> str | None:
    """The front page of the folder in which a file stands, or of the nearest one above that has one."""
    folder, _, name = file.rpartition("/")
    if name.lower() in INDEXES:
        folder = folder.rpartition("/")[0]
    while folder:
        for index in INDEXES:
            front = f"{folder}/{index}"
            if front in known and front not in (file, home):
                return front
        for ending in (".html", ".htm"):
            if folder + ending in known and folder + ending not in (file, home):
                return folder + ending
        folder = folder.rpartition("/")[0]
    return None
