"""What is sent to be kept and not to be shown: it is never a page of this application."""

from __future__ import annotations

import io

from flask import Response, send_file


def download(data: bytes | str, name: str, kind: str = "application/octet-stream") -> Response:
    """An answer that a browser saves under ``name``, whatever script it is in (RFC 6266). ``kind`` is its media type;
    text is UTF-8."""
    name = "".join(character if character.isprintable() else "_" for character in name)
    if isinstance(data, str):
        data, kind = data.encode(), f"{kind}; charset=utf-8"
    return send_file(io.BytesIO(data), kind, as_attachment=True, download_name=name, max_age=0, etag=False)
