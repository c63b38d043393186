"""What stands beside a map: the files that pages show and load, what goes out as it is, parts, layouts, tables, other
pieces of the map; and what the texts of pages say of them."""

from __future__ import annotations

import copy
import hashlib
import io
import re
from collections.abc import Iterator, Mapping
from functools import lru_cache

import imagesize

from basilica.core.map.content_heads import Head, Heads, heads_of
from basilica.core.rules import limits
from basilica.core.shared.markdown import Contents

LAYOUTS = "page-layouts"
OLD_LAYOUTS = "layouts"
"""What that folder was called before."""
PUBLIC = "public"
"""The folder whose files keep their names: they go out as they are."""
FOLDERS = ("files", PUBLIC, "parts", LAYOUTS, "templates", "tables", "maps")
"""The folders beside a map from which files are read."""

_PIECE = re.compile(r"[A-Za-z0-9_][A-Za-z0-9._-]{0,99}")
_MOST_PIECES = 6
_PUBLIC_PIECE = re.compile(r'[^\x00-\x1f\x7f-\x9f\ud800-\udfff\\/<>:"|?*]+(?<![. ])')
"""What every usual file system can name, in a folder whose names are kept."""
_MOST_PUBLIC_PIECES = 12
NEVER_PUBLIC = frozenset([".git", ".hg", ".svn", ".DS_Store"])
"""Left by version control and by desktops; never meant to be published."""


HIDDEN_PUBLIC = frozenset([".well-known", ".htaccess", ".nojekyll"])
"""The hidden names that are published: RFC 8615's folder, and what servers of static files read."""


def is_hidden(name: str) -> bool:
    """Whether a file of `public` is not published, because its name, or that of its folder, begins with a dot, as
    those of files with passwords do."""
    return any(piece.startswith(".") and piece not in HIDDEN_PUBLIC for piece in name.split("/"))


def is_file_name(name: str) -> bool:
    """Whether a name can be that of a file beside a map: one of the folders, then plain pieces, none hidden. Below
    `public` pieces may be hidden, and hold whatever a file system can."""
    folder, *pieces = name.split("/")
    if folder == PUBLIC:
        return 0 < len(pieces) <= _MOST_PUBLIC_PIECES and all(map(_is_public, pieces))
    return folder in FOLDERS and 0 < len(pieces) <= _MOST_PIECES and all(map(_PIECE.fullmatch, pieces))


def _is_public(piece: str) -> bool:
    fits = _PUBLIC_PIECE.fullmatch(piece) is not None and len(piece.encode()) <= limits.SEGMENT_BYTES
    return fits and piece not in NEVER_PUBLIC


class Files(Mapping[str, bytes]):
    """Files by name, such as ``files/mill.jpg``, with the ``heads`` of the texts beside them; frozen. Two are equal
    where all names and bytes are."""

    def __init__(self, data: Mapping[str, bytes] | None = None) -> None:
        self._data = dict(sorted((data or {}).items()))
        self._sums = {name: hashlib.sha256(text).hexdigest() for name, text in self._data.items()}
        self.mark = hashlib.sha256(repr(list(self._sums.items())).encode()).hexdigest() if self._data else ""
        """One text that stands for all of them; empty where there are none."""
        self.heads: Heads = {}

    def with_heads(self, contents: Contents) -> Files:
        """The same files beside these texts."""
        return self._beside(heads_of(contents))

    def replaced(self, data: Mapping[str, bytes | None]) -> Files:
        """The same with other bytes for some files; None removes one."""
        now = {**self._data, **data}
        kept = {name: each for name, each in now.items() if each is not None}
        return Files(kept)._beside(self.heads) if data else self

    def changed_since(self, before: Files) -> dict[str, bytes]:
        """The files that are new, or have other bytes than ``before``."""
        return {name: data for name, data in self._data.items() if before.get(name) != data} if self != before else {}

    def moved(self, keys: Mapping[str, str]) -> Files:
        """The same beside texts whose pages have other keys: ``keys`` has the new one of each that is there still."""
        found = {}
        for key, head in self.heads.items():
            page, dot, rest = key.partition(".")  # behind it stands a language
            if page in keys:
                found[f"{keys[page]}{dot}{rest}"] = head
        return self._beside(found)

    def in_language(self, language: str) -> Files:
        """The same beside the texts of a language: `visit/hours.cy` is that of `visit/hours` in `cy`."""
        ending = f".{language}"
        return self._beside(
            {key.removesuffix(ending): head for key, head in self.heads.items() if key.endswith(ending)}
        )

    def _beside(self, heads: Heads) -> Files:
        if heads == self.heads:
            return self
        other = copy.copy(self)
        other.heads = heads
        return other

    @property
    def read_mark(self) -> tuple[str, tuple[tuple[str, Head], ...]]:
        """What stands for all that a map is read with: equal where it says the same."""
        return self.mark, tuple(self.heads.items())

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

    @property
    def public(self) -> tuple[str, ...]:
        """The names of the files that go out as they are: those of `public` without its name, and no hidden ones."""
        return tuple(name for name in self.under(PUBLIC) if not is_hidden(name))

    def under(self, folder: str) -> tuple[str, ...]:
        """The names of the files in a folder, without the folder."""
        return tuple(name[len(folder) + 1 :] for name in self._data if name.startswith(folder + "/"))


def problem_with(name: str, data: bytes, files: Files) -> str:
    """Why a file cannot be put among others; empty where it can."""
    if not is_file_name(name):
        known = "what file systems can name" if name.startswith(PUBLIC + "/") else "letters, digits, `.`, `_` and `-`"
        return f"`{name[:80]}` cannot be the name of a file here: use {known}."
    if len(data) > limits.FILE_BYTES:
        return f"{name} has more than {limits.FILE_BYTES:,} bytes."
    others = sum(len(files[other]) for other in files if other != name)
    if others + len(data) > limits.ALL_FILES_BYTES or (name not in files and len(files) >= limits.FILES):
        return f"With {name} there would be more than {limits.FILES:,} files, or {limits.ALL_FILES_BYTES:,} bytes."
    return ""


NO_FILES = Files()


def linked_file(written: str, files: Files) -> str | None:
    """The file that a link means, by its whole name: one of `files`, or else of `public`, with or without the name of
    the folder; None where there is none."""
    for name in (written, f"files/{written}", f"{PUBLIC}/{written}"):
        if name.startswith(("files/", f"{PUBLIC}/")) and name in files:
            return name
    return None


def linkable(files: Files) -> tuple[str, ...]:
    """What links can call the files to which they can lead."""
    return files.under("files") + files.public


@lru_cache(maxsize=256)
def picture_size(files: Files, name: str) -> tuple[int, int] | None:
    """Width and height of a picture, CSS px; None where it does not say."""
    try:
        width, height = imagesize.get(io.BytesIO(files[name]))
    except (ValueError, KeyError, OSError, TypeError, IndexError):
        return None
    return (round(width), round(height)) if width > 0 and height > 0 else None
