"""The files beside a map: what pages show and load, parts, layouts, tables, and other pieces of the map."""

from __future__ import annotations

import hashlib
import io
import re
from collections.abc import Iterator, Mapping
from functools import lru_cache

import imagesize

from basilica.core.rules import limits

LAYOUTS = "page-layouts"
OLD_LAYOUTS = "layouts"
"""What that folder was called before."""
FOLDERS = ("files", "parts", LAYOUTS, "tables", "maps")
"""The folders beside a map from which files are read."""

_PIECE = re.compile(r"[A-Za-z0-9_][A-Za-z0-9._-]{0,99}")
_MOST_PIECES = 6


def is_file_name(name: str) -> bool:
    """Whether a name can be that of a file beside a map: one of the folders, then plain pieces, none hidden."""
    folder, *pieces = name.split("/")
    return folder in FOLDERS and 0 < len(pieces) <= _MOST_PIECES and all(map(_PIECE.fullmatch, pieces))


class Files(Mapping[str, bytes]):
    """Files by name, such as ``files/mill.jpg``; frozen. Two are equal where all names and bytes are."""

    def __init__(self, data: Mapping[str, bytes] | None = None) -> None:
        self._data = dict(sorted((data or {}).items()))
        self._sums = {name: hashlib.sha256(text).hexdigest() for name, text in self._data.items()}
        self.mark = hashlib.sha256(repr(list(self._sums.items())).encode()).hexdigest() if self._data else ""
        """One text that stands for all of them; empty where there are none."""

    def __getitem__(self, name: str) -> bytes:
        return self._data[name]

    def __iter__(self) -> Iterator[str]:
        return iter(self._data)

    def __len__(self) -> int:
        return len(self._data)

    def __eq__(self, other: object) -> bool:
        return isinstance(other, Files) and self.mark == other.mark

    def __hash__(self) -> int:
        return hash(self.mark)

    def sum(self, name: str) -> str:
        """The SHA-256 of a file, in hexadecimal."""
        return self._sums[name]

    def text(self, name: str) -> str:
        """A file as text, with single line ends; what is not UTF-8, and NUL, become replacement characters."""
        return self._data[name].decode("utf-8-sig", "replace").replace("\r\n", "\n").replace("\0", "\ufffd")

    def is_text(self, name: str) -> bool:
        """Whether a file is UTF-8."""
        try:
            self._data[name].decode("utf-8-sig")
        except UnicodeDecodeError:
            return False
        return True

    def under(self, folder: str) -> tuple[str, ...]:
        """The names of the files in a folder, without the folder."""
        return tuple(name[len(folder) + 1 :] for name in self._data if name.startswith(folder + "/"))


def problem_with(name: str, data: bytes, files: Files) -> str:
    """Why a file cannot be put among others; empty where it can."""
    if not is_file_name(name):
        return f"`{name[:80]}` cannot be the name of a file here: use letters, digits, `.`, `_` and `-`."
    if len(data) > limits.FILE_BYTES:
        return f"{name} has more than {limits.FILE_BYTES:,} bytes."
    others = sum(len(files[other]) for other in files if other != name)
    if others + len(data) > limits.ALL_FILES_BYTES or (name not in files and len(files) >= limits.FILES):
        return f"With {name} there would be more than {limits.FILES:,} files, or {limits.ALL_FILES_BYTES:,} bytes."
    return ""


NO_FILES = Files()


@lru_cache(maxsize=256)
def picture_size(files: Files, name: str) -> tuple[int, int] | None:
    """Width and height of a picture, CSS px; None where it does not say."""
    try:
        width, height = imagesize.get(io.BytesIO(files[name]))
    except (ValueError, KeyError, OSError, TypeError, IndexError):
        return None
    return (round(width), round(height)) if width > 0 and height > 0 else None
