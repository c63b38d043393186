"""In which encoding the bytes of a page are: what they say, and else what they can be."""

from __future__ import annotations

import codecs
import re

import webencodings
from webencodings.labels import LABELS

_MARKS = ((codecs.BOM_UTF8, "utf-8"), (codecs.BOM_UTF16_LE, "utf-16-le"), (codecs.BOM_UTF16_BE, "utf-16-be"))
_META = re.compile(rb"""<meta\s[^>]*?charset\s*=\s*["']?\s*([A-Za-z0-9_:.-]+)""", re.IGNORECASE)
_LOOKED_AT = 1024
"""Bytes in which a page may say its encoding (HTML, determining the character encoding)."""
_MEANT = {"utf-16le": "utf-8", "utf-16be": "utf-8", "x-user-defined": "windows-1252", "replacement": ""}
"""Encodings that a `meta` cannot mean, and what it means where it names them (HTML, prescan a byte stream to determine
its encoding); nothing for those that no page may be in."""
_STANDARD_NAMES: dict[str, str] = {
    known.codec_info.name: known.name.removesuffix("-i")
    for known in map(webencodings.lookup, LABELS)
    if known.codec_info
}
"""The names that the Encoding Standard has for the encodings that Python knows by others."""


def encoding_of(data: bytes) -> tuple[str, bool]:
    """The encoding of a page, and whether it says so itself. A mark of byte order comes before a `meta`, and that
    before a guess: UTF-8 where all bytes fit, else windows-1252. What a page says counts where it is a label of the
    WHATWG Encoding Standard, which has no codecs that read anything but text."""
    for mark, name in _MARKS:
        if data.startswith(mark):
            return name, True
    said = _META.search(data[:_LOOKED_AT])
    known = webencodings.lookup(said[1].decode("ascii")) if said else None
    name = _MEANT.get(known.name, known.name) if known else ""
    if name:
        codec: str = webencodings.lookup(name).codec_info.name
        return codec, True
    try:
        data.decode("utf-8")
    except UnicodeDecodeError:
        return "cp1252", False
    return "utf-8", False


def label_of_encoding(name: str) -> str:
    """An encoding by the name that pages give it."""
    return _STANDARD_NAMES.get(name, name)


def ascii_like(data: bytes) -> tuple[bytes, str, str]:
    """The bytes of a page in an encoding whose markup is ASCII, that encoding, and the one that it had. A mark of byte
    order is left out."""
    name, _ = encoding_of(data)
    if name.startswith("utf-16"):
        return data[2:].decode(name, "replace").encode("utf-8"), "utf-8", name
    return data.removeprefix(codecs.BOM_UTF8), name, label_of_encoding(name)


def as_text(data: bytes) -> str:
    """A page as text, in the encoding that it says."""
    return data.decode(encoding_of(data)[0], "replace")
