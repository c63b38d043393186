"""The HTTP side of the host that ships: files, redirects, the not-found page, and the usual headers."""

from __future__ import annotations

import csv
import gzip
import hashlib
import io
import mimetypes
import re
import ssl
import threading
import time
from functools import lru_cache
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path
from typing import Self
from urllib.parse import unquote, urlsplit

import trustme

from basilica.services.host.faults import Faults
from basilica.services.host.inside import is_inside
from basilica.services.host.sftp_host import USER, SftpHost
from basilica.store.targets.target import OWN, UNFINISHED

_HASHED = re.compile(r"\.[0-9a-f]{8,}\.[a-z0-9]+$")
"""Names that change with their bytes: they are fresh for ever (RFC 8246)."""
_TEXTS = ("text/", "application/javascript", "application/json", "application/xml", "image/svg+xml")


class Host:
    """A folder that is served on loopback: over HTTP, or HTTPS with a certificate of its own, and over SFTP. Used with
    ``with``, or closed in the end."""

    def __init__(
        self,
        folder: Path,
        port: int = 0,
        ssh_port: int = 0,
        tls: bool = False,
        password: str = "",
        keys: Path | None = None,
    ) -> None:
        """``keys`` is where the keys lie; a folder beside ``folder`` where none is given. Raises ``OSError`` where a
        port is taken."""
        folder.mkdir(parents=True, exist_ok=True)
        self.folder = folder = folder.resolve()  # paths that clients ask for are held against it
        self.keys = keys or folder.parent / f".{folder.name}-keys"
        self.faults = Faults()
        self.authority: Path | None = None
        self._web = ThreadingHTTPServer(("127.0.0.1", port), _handler(folder, self.faults))
        if tls:
            self.authority = self._secured()
        try:
            self.sftp = SftpHost(folder, self.keys, self.faults, ssh_port, password)
        except BaseException:
            self._web.server_close()
            raise
        threading.Thread(target=self._web.serve_forever, args=[0.1], daemon=True).start()

    @property
    def address(self) -> str:
        """Where the site is read."""
        return f"{'https' if self.authority else 'http'}://127.0.0.1:{self._web.server_address[1]}"

    def settings(self) -> dict[str, str]:
        """The settings of a target that sends there."""
        return {
            "kind": "sftp",
            "host": "127.0.0.1",
            "port": str(self.sftp.port),
            "user": USER,
            "folder": "/",
            "key": str(self.sftp.key_file),
            "host-key": self.sftp.fingerprint,
            "address": self.address,
        }

    def _secured(self) -> Path:
        authority = trustme.CA()
        context = ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER)
        authority.issue_cert("127.0.0.1", "localhost").configure_cert(context)
        self._web.socket = context.wrap_socket(self._web.socket, server_side=True)
        self.keys.mkdir(parents=True, exist_ok=True, mode=0o700)
        path = self.keys / "authority.pem"
        authority.cert_pem.write_to_path(str(path))
        return path

    def edit(self, name: str) -> None:
        """Edit a file as somebody would by hand, past Basilica."""
        path = self.folder / name
        path.write_bytes(re.sub(rb"( *)</main>", rb"<p>Closed this Sunday.</p>\n\1</main>", path.read_bytes()))

    def close(self) -> None:
        """Serve no more."""
        self._web.shutdown()
        self._web.server_close()
        self.sftp.close()

    def __enter__(self) -> Self:
        return self

    def __exit__(self, *_: object) -> None:
        self.close()


def _handler(folder: Path, faults: Faults) -> type[BaseHTTPRequestHandler]:
    class Handler(BaseHTTPRequestHandler):
        protocol_version = "HTTP/1.1"
        server_version = "BasilicaHost"

        def do_GET(self) -> None:
            time.sleep(faults.slow)
            path, query = urlsplit(self.path).path, urlsplit(self.path).query
            moved = _redirects(folder).get(path + ("?" + query if query else "")) or _redirects(folder).get(path)
            name = _file_of(folder, unquote(path))
            if moved is not None:
                self._answer(
                    int(moved[1]), b"", "text/plain; charset=utf-8", {"Location": moved[0]} if moved[0] else {}
                )
            elif name is not None and (folder / name).is_dir():
                self._answer(301, b"", "text/plain; charset=utf-8", {"Location": path + "/"})
            elif name is None:
                page = folder / "404.html"
                data = page.read_bytes() if page.is_file() and is_inside(folder, page) else b"Not found"
                self._answer(404, data, "text/html; charset=utf-8", {"Cache-Control": "no-cache"})
            else:
                self._file(name)

        do_HEAD = do_GET  # noqa: N815

        def _file(self, name: str) -> None:
            data = (folder / name).read_bytes()
            kind = mimetypes.guess_type(name)[0] or "application/octet-stream"
            kind += "; charset=utf-8" if kind.startswith("text/") and not name.endswith((".htm", ".txt")) else ""
            cached = "public, max-age=31536000, immutable" if _HASHED.search(name) else "no-cache"
            tag = f'"{hashlib.sha256(data).hexdigest()[:20]}"'
            if self.headers.get("If-None-Match") == tag:
                self._answer(304, b"", kind, {"ETag": tag, "Cache-Control": cached})
                return
            self._answer(200, data, kind, {"ETag": tag, "Cache-Control": cached})

        def _answer(self, status: int, data: bytes, kind: str, headers: dict[str, str]) -> None:
            packs = "gzip" in self.headers.get("Accept-Encoding", "") and kind.startswith(_TEXTS) and len(data) > 500
            if packs:
                data = gzip.compress(data, 6, mtime=0)
                headers = {**headers, "Content-Encoding": "gzip"}
            self.send_response(status)
            for header, value in {"Content-Type": kind, "Vary": "Accept-Encoding", **headers}.items():
                self.send_header(header, value)
            self.send_header("Content-Length", str(len(data)))
            self.end_headers()
            if self.command != "HEAD":
                self.wfile.write(data)

        def log_message(self, format: str, *args: object) -> None:
            return

    return Handler


def _file_of(folder: Path, path: str) -> str | None:
    """The file at an address: that itself, the index of a folder, or a folder without its slash."""
    pieces = path.strip("/").split("/") if path.strip("/") else []
    if any(piece in ("", ".", "..") or "\0" in piece for piece in pieces) or path.lstrip("/").startswith(OWN):
        return None
    name = "/".join(pieces)
    there = folder / name
    if path.endswith("/"):
        found = (
            one for one in ("index.html", "index.htm") if (there / one).is_file() and is_inside(folder, there / one)
        )
        return next((f"{name}/{one}".lstrip("/") for one in found), None)
    if name.endswith(UNFINISHED) or not there.exists() or not is_inside(folder, there):
        return None
    return name


def _redirects(folder: Path) -> dict[str, tuple[str, str]]:
    """Where old addresses lead, as the site's own list says it."""
    path = folder / "redirects.csv"
    if not is_inside(folder, path):
        return {}
    try:
        return _read_redirects(path.read_bytes())
    except OSError:
        return {}


@lru_cache(maxsize=8)
def _read_redirects(data: bytes) -> dict[str, tuple[str, str]]:
    rows = csv.reader(io.StringIO(data.decode("utf-8", "replace")))
    return {row[0]: (row[1], row[2]) for row in rows if len(row) == 3 and row[2].isdigit()}
