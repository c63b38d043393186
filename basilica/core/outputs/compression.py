"""Precompressed copies, for servers that hand them out as they are: gzip (RFC 1952) and Brotli (RFC 7932)."""

from __future__ import annotations

import gzip
from collections.abc import Container, Iterable, Iterator

import brotli

from basilica.core.shared.output_file import File

SUFFIXES = (".html", ".css", ".js", ".mjs", ".svg", ".xml", ".txt", ".json", ".csv", ".webmanifest")
"""Files that become smaller. Pictures and letters are compressed already."""


def with_copies(files: Iterable[File], public: Container[str] = ()) -> Iterator[File]:
    """Every file, each text followed by its compressed copies where these are smaller; the same bytes for the same
    files. ``public`` are files that come by themselves, so that no copy takes the name of one."""
    for file in files:
        yield file
        if file.path.endswith(SUFFIXES):
            copies = {".gz": gzip.compress(file.data, 9, mtime=0), ".br": brotli.compress(file.data)}
            for suffix, data in copies.items():
                if len(data) < len(file.data) and file.path + suffix not in public:
                    yield File(file.path + suffix, data)
