"""A file of a build, as a value."""

from __future__ import annotations

from typing import NamedTuple


class File(NamedTuple):
    """A file of a build: its path below the output folder, with ``/`` between names, and its bytes."""

    path: str
    data: bytes
