"""The files that pages load, under names stamped with a hash of what they hold, so that browsers never ask again."""

from __future__ import annotations

import hashlib
import posixpath
import re
from collections.abc import Iterator
from functools import lru_cache

from basilica.core.content.pictures import Picture, smaller_by_name
from basilica.core.map.map_files import PUBLIC, Files, picture_size
from basilica.core.shared.output_file import File

FOLDER = "assets"

_URL = re.compile(r"""(?P<before>url\(\s*|@import\s+)(?P<quote>["']?)(?P<name>[^"')\s]+)(?P=quote)""", re.IGNORECASE)
_DEEPEST = 20
"""Style sheets that load one another further than this are taken as they are."""


def stamped(name: str, data: bytes) -> str:
    """A name with a hash of the bytes before its suffix: ``mill.jpg`` → ``mill.3f9a1c2b04.jpg``."""
    stem, dot, suffix = name.rpartition(".")
    mark = hashlib.sha256(data).hexdigest()[:10]
    return f"{stem}.{mark}.{suffix}" if dot and "/" not in suffix else f"{name}.{mark}"


class Assets:
    """The files of the folder `files`, as pages load them. Frozen once made."""

    def __init__(self, files: Files) -> None:
        self._files = files
        self._names = frozenset(files.under("files"))
        self._made: dict[str, File] = {}
        self._pictures: dict[str, Picture | None] = {}
        self._smaller = smaller_by_name(self._names)

    def __contains__(self, name: object) -> bool:
        return name in self._names

    def path(self, name: str) -> str:
        """Where a file lies in a built site."""
        return self._file(name).path

    def all(self) -> Iterator[File]:
        """Every file."""
        for name in sorted(self._names):
            yield self._file(name)

    @property
    def count(self) -> int:
        """How many there are."""
        return len(self._names)

    def size(self, name: str) -> tuple[int, int] | None:
        """Width and height of a picture in CSS px; None where it does not say."""
        return picture_size(self._files, f"files/{name}")

    def picture(self, name: str) -> Picture | None:
        """A picture, its size and the smaller ones of it; None for what is none, or does not say its size."""
        if name not in self._pictures:
            size = self.size(name) if name in self._names else None
            self._pictures[name] = Picture(*size, tuple(self._smaller.get(name, ()))) if size else None
        return self._pictures[name]

    def _file(self, name: str, above: tuple[str, ...] = ()) -> File:
        if name not in self._made:
            data = self._files[f"files/{name}"]
            if name.endswith(".css") and len(above) < _DEEPEST:
                data = self._with_stamps(name, data, (*above, name))
            self._made[name] = File(f"{FOLDER}/{stamped(name, data)}", data)
        return self._made[name]

    def _with_stamps(self, name: str, data: bytes, above: tuple[str, ...]) -> bytes:
        """A style sheet in which files of the site are called by their stamped names."""
        folder = posixpath.dirname(name)

        def put(match: re.Match[str]) -> str:
            wanted = posixpath.normpath(posixpath.join(folder, match["name"].partition("#")[0]))
            if wanted not in self._names or wanted in above:
                return match[0]
            there = self._file(wanted, above).path
            anchor = match["name"][match["name"].find("#") :] if "#" in match["name"] else ""
            short = posixpath.relpath(there, posixpath.join(FOLDER, folder))
            return f"{match['before']}{match['quote']}{short}{anchor}{match['quote']}"

        try:
            text = data.decode("utf-8")
        except UnicodeDecodeError:
            return data
        return _URL.sub(put, text).encode()


def built_path(name: str, files: Files) -> str:
    """Where a file of `files` or `public`, given by its whole name, lies in a built site."""
    folder, _, plain = name.partition("/")
    return plain if folder == PUBLIC else assets_of(files).path(plain)


@lru_cache(maxsize=16)
def assets_of(files: Files) -> Assets:
    """The files that the pages of a site load."""
    return Assets(files)
