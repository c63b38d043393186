"""The programs of kits, which are the same for every site."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from functools import lru_cache
from importlib.resources import files as resources

from basilica.core.shared.output_file import File


def shipped_files(programs: Mapping[str, str]) -> Iterator[File]:
    """Programs, by where they lie in a kit and what they are called in the folder `shipped`."""
    for name, shipped in programs.items():
        yield File(name, shipped_text(shipped).encode())


@lru_cache(maxsize=64)
def shipped_text(name: str) -> str:
    """One of the files in the folder `shipped`."""
    return resources("basilica.core.outputs.kits").joinpath("shipped").joinpath(name).read_text(encoding="utf-8")
