"""The fonts that generated pages may have: they ship with Basilica, so that no page asks another site for letters."""

from __future__ import annotations

from functools import cache
from importlib.resources import files
from typing import NamedTuple

_EXTENDED = frozenset(
    [
        "az",
        "bs",
        "cs",
        "cy",
        "eo",
        "et",
        "eu",
        "gl",
        "hr",
        "hu",
        "is",
        "kk",
        "lt",
        "lv",
        "mi",
        "mt",
        "pl",
        "ro",
        "sk",
        "sl",
        "sq",
        "sr",
        "tk",
        "tr",
        "uz",
        "vi",
        "wo",
        "yo",
    ]
)
"""Languages whose letters go beyond the first part of a font. From memory."""
_EXT = (
    "U+0100-02BA, U+02BD-02C5, U+02C7-02CC, U+02CE-02D7, U+02DD-02FF, U+1D00-1DBF, U+1E00-1E9F, U+1EF2-1EFF, U+2020,"
    " U+20A0-20AB, U+20AD-20C0, U+2113, U+2C60-2C7F, U+A720-A7FF"
)
"""The characters of the second part, as its makers cut it; a browser asks for it only where a page needs them."""


class Font(NamedTuple):
    """A font: its ``family``, what stands in for it, and the name its files begin with."""

    family: str
    instead: str
    file: str


FONTS = {
    "figtree": Font("Figtree", "system-ui, sans-serif", "figtree"),
    "source-serif": Font("Source Serif 4", "Georgia, serif", "source-serif-4"),
    "archivo": Font("Archivo", "system-ui, sans-serif", "archivo"),
    "atkinson": Font("Atkinson Hyperlegible Next", "system-ui, sans-serif", "atkinson-hyperlegible-next"),
}
"""By the name that the map has for it. Each has every weight from 300 to 800 in one file."""


def family_of(name: str) -> str:
    """The families of a font as CSS writes them."""
    font = FONTS.get(name)
    return f'"{font.family}", {font.instead}' if font else "system-ui, sans-serif"


class FontFile(NamedTuple):
    """One file of a font; ``characters`` are those it is for, as CSS writes them, empty for all it has."""

    name: str
    data: bytes
    characters: str = ""


def font_files(name: str, language: str) -> tuple[FontFile, ...]:
    """The files of a font that a site in a ``language`` needs. They are built beside the application's own."""
    if name not in FONTS:
        return ()
    first = FontFile(*_file(f"{FONTS[name].file}-latin.woff2"))
    if language.partition("-")[0].lower() not in _EXTENDED:
        return (first,)
    return FontFile(*_file(f"{FONTS[name].file}-latin-ext.woff2"), _EXT), first


@cache
def _file(name: str) -> tuple[str, bytes]:
    return name, files("basilica").joinpath("web", "static", "page-fonts", name).read_bytes()
