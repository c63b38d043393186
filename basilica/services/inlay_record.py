"""What was last written between the marks of the pages in a folder: so that what somebody changed there is not lost."""

from __future__ import annotations

from collections.abc import Mapping
from pathlib import Path

import msgspec

from basilica.core.outputs.inlay.inlay_marks import CannotInlay, inside_digests
from basilica.store.folders import place_in, remove, write_atomically

RECORD = ".basilica/inlay.json"
"""In the folder of the pages; it has digests alone."""


class InlayRecord:
    """The digests of regions, by file and region, as they were last written there."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder
        self._before = self._read()
        self._now: dict[str, dict[str, str]] = dict(self._before)

    def _read(self) -> dict[str, dict[str, str]]:
        try:
            return msgspec.json.decode(place_in(self._folder, RECORD).read_bytes(), type=dict[str, dict[str, str]])
        except (OSError, msgspec.DecodeError):
            return {}

    def of(self, file: str) -> Mapping[str, str]:
        """By region, the digest of what was last written into a page."""
        return self._before.get(file, {})

    def wrote(self, file: str, data: bytes) -> None:
        """Remember the regions of a page as written from the map."""
        try:
            self._now[file] = inside_digests(data)
        except CannotInlay:
            self._now.pop(file, None)

    def forget(self) -> None:
        """Remove the record: nothing there is written from here any more."""
        remove(place_in(self._folder, RECORD), self._folder)

    def keep(self) -> None:
        """Write the record. Raises ``UsageError``."""
        if self._now != self._before:
            write_atomically(place_in(self._folder, RECORD), msgspec.json.format(msgspec.json.encode(self._now)))
