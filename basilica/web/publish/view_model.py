"""What the Publish workspace shows: files by what becomes of them, and as a field of tiles."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from basilica.core.diff.live_differences import TITLES, LiveFile, LiveState, why_more
from basilica.services.publish_work import PreparedPublish
from basilica.services.site_publishing import PublishRun

TILE_CLASSES = {
    LiveState.EDITED: "open",
    LiveState.FOREIGN: "open",
    LiveState.NEW: "come",
    LiveState.CHANGED: "change",
    LiveState.GONE: "go",
    LiveState.UNKNOWN: "other",
    LiveState.SAME: "same",
}
"""By state, the class of a tile."""
_TILES = 1_500


@dataclass(frozen=True, slots=True)
class Tiles:
    """The files of one folder, each as a tile."""

    folder: str
    tiles: tuple[tuple[LiveFile, str], ...]


def groups(prepared: PreparedPublish) -> list[tuple[LiveState, str, tuple[LiveFile, ...]]]:
    """The files that differ, by state; those of which there are none are left out."""
    found = ((state, title, prepared.found.files.of(state)) for state, title in TITLES.items())
    return [one for one in found if one[2]]


def tiles(prepared: PreparedPublish) -> tuple[list[Tiles], int]:
    """All files as tiles, folder by folder, those of the first one first; and how many are left out."""
    files = prepared.found.files.files
    by_folder: dict[str, list[tuple[LiveFile, str]]] = {}
    for file in files[:_TILES]:
        folder = file.path.partition("/")[0] if "/" in file.path else ""
        by_folder.setdefault(folder, []).append((file, TILE_CLASSES[file.state]))
    ordered = sorted(by_folder.items())
    return [Tiles(folder, tuple(found)) for folder, found in ordered], max(0, len(files) - _TILES)


def reasons(prepared: PreparedPublish) -> Iterator[tuple[str, str]]:
    """Why the number of files that differ is another than that which the change makes, file by file."""
    if prepared.expected is None:
        return
    yield from ((file.path, why_more(file)) for file in prepared.expected.more)
    yield from ((path, "is live already") for path in prepared.expected.less)


def first_shown(run: PublishRun) -> str:
    """The file that is shown where none was chosen: the one that needs a decision, else the first page that changes."""
    found = run.prepared.found.files
    for state in (LiveState.EDITED, LiveState.FOREIGN, LiveState.CHANGED, LiveState.NEW, LiveState.GONE):
        files = found.of(state)
        if files:
            return next((file.path for file in files if file.path.endswith((".html", ".htm"))), files[0].path)
    return ""
