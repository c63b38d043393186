"""Files → one archive, the same bytes for the same files."""

from __future__ import annotations

import io
import zipfile
from collections.abc import Iterable

from basilica.core.shared.output_file import File

_EPOCH = (1980, 1, 1, 0, 0, 0)
"""The earliest time that a zip archive can hold; the files have no time of their own."""


def zip_of(files: Iterable[File], folder: str) -> bytes:
    """A zip archive with every file below ``folder``. Raises ``ValueError`` for a path that would lead out of it."""
    target = io.BytesIO()
    with zipfile.ZipFile(target, "w", zipfile.ZIP_DEFLATED) as archive:
        for file in files:
            if not {"", ".", ".."}.isdisjoint(file.path.split("/")):
                raise ValueError(f"{file.path!r} leads out of the archive's folder")
            info = zipfile.ZipInfo(f"{folder}/{file.path}", _EPOCH)
            info.compress_type = zipfile.ZIP_DEFLATED
            info.external_attr = 0o644 << 16
            archive.writestr(info, file.data)
    return target.getvalue()
