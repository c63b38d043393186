"""What changes in a page, byte for byte, in the form that `patch` and version control read: a unified diff."""

from __future__ import annotations

import difflib


def patch(name: str, before: bytes, after: bytes) -> bytes:
    """The unified diff of a file (POSIX.1-2017, diff, `-u`), which `patch -p1` takes, and `patch -p1 -R` takes back.
    Nothing where there is no difference; a file that was not there comes from ``/dev/null``."""
    if before == after:
        return b""
    tab = "\t" if " " in name else ""  # so that readers know where a name with spaces ends
    source = f"a/{name}{tab}".encode() if before else b"/dev/null"
    target = f"b/{name}{tab}".encode()
    lines = difflib.diff_bytes(difflib.unified_diff, _lines(before), _lines(after), source, target, lineterm=b"\n")
    return b"".join(line if line.endswith(b"\n") else line + b"\n\\ No newline at end of file\n" for line in lines)


def _lines(data: bytes) -> list[bytes]:
    """Lines with their ends; only a line feed ends one, as for `patch`."""
    *whole, last = data.split(b"\n")
    return [line + b"\n" for line in whole] + ([last] if last else [])
