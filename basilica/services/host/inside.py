"""What is inside the folder of a host: links in it may lead anywhere."""

from __future__ import annotations

import os
from pathlib import Path


def is_inside(folder: Path, path: Path) -> bool:
    """Whether a path is the folder or in it, once every symbolic link on the way is followed."""
    return Path(os.path.realpath(path)).is_relative_to(os.path.realpath(folder))
