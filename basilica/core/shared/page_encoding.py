"""In which encoding the bytes of a page are: what they say, and else what they can be."""

from __future__ import annotations

import codecs
import re

_MARKS = ((codecs.BOM_UTF8, "utf-8"), (codecs.BOM_UTF16_LE, "utf-16-le"), (codecs.BOM_UTF16_BE, "utf-16-be"))
_META = re.compile(rb"""<meta\s[^>]*?charset\s*=\s*["']?\s*([A-Za-z0-9_:.-]+)""", re.IGNORECASE)
_LOOKED_AT = 1024
"""Bytes in which a page may say its encoding (HTML, determining the character encoding)."""
_LABELS = {
    "iso-8859-1": "windows-1252",
    "latin1": "windows-1252",
    "us-ascii": "windows-1252",
    "ascii": "windows-1252",
    "utf-16": "utf-8",
    "utf-16le": "utf-8",
    "utf-16be": "utf-8",
    "x-sjis": "shift_jis",
}
"""Names that mean another encoding on pages (WHATWG Encoding, names and labels; what a page says in `meta` cannot be
UTF-16)."""


def encoding_of(data: bytes) -> tuple[str, bool]:
    """The encoding of a page, and whether it says so itself. A mark of byte order comes before a `meta`, and that
    before a guess: UTF-8 where all bytes fit, else windows-1252."""
    for mark, name in _MARKS:
        if data.startswith(mark):
            return name, True
    said = _META.search(data[:_LOOKED_AT])
    if said:
        label = said[1].decode("ascii").lower()
        name = _LABELS.get(label, label)
        try:
            return codecs.lookup(name).name, True
        except LookupError:
            pass
    try:
        data.decode("utf-8")
    except UnicodeDecodeError:
        return "cp1252", False
    return "utf-8", False


def label_of_encoding(name: str) -> str:
    """An encoding by the name that pages give it."""
    return {"cp1252": "windows-1252"}.get(name, name)


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
