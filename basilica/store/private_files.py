"""Files for their owner alone."""

from __future__ import annotations

from contextlib import suppress
from pathlib import Path


def make_private(path: Path) -> None:
    """The folder of ``path``, and an empty file there if there is none, for their owner alone. A folder in which there
    is something else stays as open as it is."""
    folder = path.parent
    folder.mkdir(parents=True, exist_ok=True)
    if not any(folder.iterdir()):
        folder.chmod(0o700)
    if not path.exists():
        path.touch(mode=0o600)
    with suppress(OSError):  # it may be somebody else's, and then it is theirs to say who reads it
        path.chmod(0o600)
