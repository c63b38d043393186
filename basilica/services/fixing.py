"""Old words of the map language, replaced in the files of a site."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from pathlib import Path

from basilica.core.edits.fixes import fixes_by_file, with_fixes
from basilica.core.map.map_files import LAYOUTS, OLD_LAYOUTS
from basilica.core.rules.finding import Finding
from basilica.store.errors import UsageError
from basilica.store.folders import Source, read_source, write_atomically

_ROUNDS = 4
"""A word below another old word is seen once that one is replaced."""


def fix_old_words(map_path: Path, compiled: Callable[[Source], Iterable[Finding]]) -> dict[str, int]:
    """Replace the old words in a map and in the files that it includes, and rename the folder of layouts. Each file is
    written whole or not at all. Gives how many were replaced, by file; ``compiled`` gives the findings of a source.
    Raises ``UsageError`` where a file cannot be read or written."""
    counts: dict[str, int] = {}
    for _ in range(_ROUNDS):
        source = read_source(map_path)
        folder = map_path.parent
        try:
            if (folder / OLD_LAYOUTS).is_dir() and not (folder / LAYOUTS).exists():
                (folder / OLD_LAYOUTS).rename(folder / LAYOUTS)
                counts[str(folder / LAYOUTS)] = 1
                continue
            fixes = fixes_by_file(compiled(source))
            if not fixes:
                break
            for name, each in fixes.items():
                path = folder / name if name else map_path
                data = path.read_bytes()
                mark = b"\xef\xbb\xbf" if data.startswith(b"\xef\xbb\xbf") else b""
                text = data[len(mark) :].decode("utf-8")
                write_atomically(path, mark + with_fixes(text, each).encode("utf-8"))
                counts[str(path)] = counts.get(str(path), 0) + len(each)
        except OSError as error:
            raise UsageError(f"{error.filename} cannot be written: {error.strerror}.") from error
    return counts
