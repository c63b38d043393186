"""Precompressed copies, for servers that hand them out as they are: gzip (RFC 1952) and Brotli (RFC 7932)."""

from __future__ import annotations

import gzip
from collections.abc import Iterable, Iterator

import brotli

from basilica.core.shared.output_file import File

SUFFIXES = (".html", ".css", ".js", ".mjs", ".svg", ".xml", ".txt", ".json", ".csv", ".webmanifest")
"""Files that become smaller. Pictures and letters are compressed already."""


def with_copies(files: Iterable[File]) -> Iterator[File]:
    """Every file, each text followed by its compressed copies; the same bytes for the same files."""
    for file in files:
        yield file
        if file.path.endswith(SUFFIXES):
            yield File(f"{file.path}.gz", gzip.compress(file.data, 9, mtime=0))
            yield File(f"{file.path}.br", brotli.compress(file.data))
