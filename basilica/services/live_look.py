"""The live site, fetched as a browser fetches it, and held against what was built."""

from __future__ import annotations

import http.client
import secrets
import ssl
import zlib
from collections.abc import Callable, Iterable, Mapping
from datetime import UTC, datetime
from pathlib import Path
from urllib.parse import quote, urlsplit

from basilica.core.diff.live_answers import (
    Fetched,
    LiveAnswer,
    LiveLook,
    certificate_answer,
    check_answers,
    files_to_fetch,
    header_answers,
    not_found_answer,
    redirect_answer,
    same_answer,
)
from basilica.core.plan import Plan, every_redirect
from basilica.core.plan.content_links import Contents
from basilica.store.errors import UsageError

_REDIRECTS = 60
_MOST = 64_000_000
"""Bytes of an answer that are read."""
_PATIENCE = 20
"""Seconds in which a server must answer."""


class LiveSite:
    """A site that is read at an address, over one connection. Redirects are not followed."""

    def __init__(self, address: str, authority: Path | None = None) -> None:
        """``authority`` is a file of certificates to trust beside those of the system. Raises ``UsageError``."""
        self.address = address.rstrip("/")
        parts = urlsplit(self.address)
        if parts.scheme not in ("http", "https") or not parts.hostname:
            raise UsageError(f"`{address[:200]}` is not an address of a site. Write it as https://mill.example.")
        self._host, self._port, self._base = parts.hostname, parts.port, parts.path
        self._context: ssl.SSLContext | None = None
        if parts.scheme == "https":
            try:
                self._context = ssl.create_default_context()
                if authority is not None:
                    self._context.load_verify_locations(authority)
            except OSError as error:
                raise UsageError(f"{authority} has no certificates that can be read: {error}.") from error
        self._connection: http.client.HTTPConnection | None = None

    def get(self, path: str, packed: bool = True) -> Fetched:
        """Fetch a path, which begins with a slash. Raises ``UsageError`` where the site cannot be reached."""
        headers = {"User-Agent": "Basilica", "Accept-Encoding": "gzip" if packed else "identity"}
        for again in (True, False):
            try:
                connection = self._open()
                connection.request("GET", self._base + path, headers=headers)
                answer = connection.getresponse()
                body = answer.read(_MOST)
                found = {name.lower(): value for name, value in answer.getheaders()}
                if answer.will_close or not answer.isclosed():
                    self.close()
                is_packed = found.get("content-encoding", "") == "gzip"
                return Fetched(answer.status, found, _unpacked(body) if is_packed else body, is_packed)
            except ssl.SSLCertVerificationError as error:
                self.close()
                raise UsageError(f"The certificate of {self._host} is not trusted: {error.verify_message}.") from error
            except (http.client.HTTPException, OSError, zlib.error) as error:
                self.close()
                if not again:
                    raise UsageError(
                        f"{self.address}{path} cannot be fetched: {error or type(error).__name__}."
                    ) from error
        raise AssertionError("unreachable")

    def _open(self) -> http.client.HTTPConnection:
        if self._connection is None:
            self._connection = (
                http.client.HTTPSConnection(self._host, self._port, timeout=_PATIENCE, context=self._context)
                if self._context is not None
                else http.client.HTTPConnection(self._host, self._port, timeout=_PATIENCE)
            )
        return self._connection

    def days_left(self) -> float | None:
        """Days until the certificate ends; None for a site without one."""
        if self._context is None:
            return None
        connection = self._open()
        if connection.sock is None:
            connection.connect()
        assert isinstance(connection.sock, ssl.SSLSocket)
        until = connection.sock.getpeercert() or {}
        ends = datetime.fromtimestamp(ssl.cert_time_to_seconds(str(until["notAfter"])), UTC)
        return (ends - datetime.now(UTC)).total_seconds() / 86_400

    def close(self) -> None:
        """End the connection."""
        if self._connection is not None:
            self._connection.close()
            self._connection = None


def _unpacked(body: bytes) -> bytes:
    """A body that came compressed, as far as it is no larger than a page can be (RFC 1952)."""
    return zlib.decompressobj(16 + zlib.MAX_WBITS).decompress(body, _MOST)


def look_at(
    live: LiveSite,
    plan: Plan,
    contents: Contents,
    built: Mapping[str, bytes],
    changed: Iterable[str],
    step: Callable[[], None] = lambda: None,
) -> LiveLook:
    """Fetch every changed file and some of the others, and hold them against what was ``built``; ask for redirects, and
    for a page that is not there; look at the certificate, compression and caching; and run all checks on what was
    fetched. Raises ``UsageError`` where the site cannot be reached."""
    led_on = {redirect.file for _, redirect in every_redirect(plan)}  # asked for as redirects
    wanted = [file for file in files_to_fetch(built, changed) if file not in led_on]
    paths = {route.file: route.path for route in plan.routes.values()}
    answers: list[LiveAnswer] = []
    other: dict[str, bytes] = {}
    seen: dict[str, Fetched] = {}
    for file in wanted:
        path = paths.get(file) or "/" + quote(file)
        fetched = seen[file] = live.get(path)
        answers.append(same_answer(file, live.address + path, built[file], fetched))
        if fetched.status == 200 and fetched.body != built[file]:
            other[file] = fetched.body
        step()
    for own, redirect in every_redirect(plan)[:_REDIRECTS]:
        answers.append(redirect_answer(own, redirect, live.address + redirect.address, live.get(redirect.address)))
    nowhere = f"/not-there-{secrets.token_hex(6)}/"
    answers.append(not_found_answer(live.address + nowhere, live.get(nowhere), built.get("404.html")))
    days = live.days_left()
    if days is not None:
        answers.append(certificate_answer(live.address, days))
    answers += header_answers(live.address, seen)
    answers += check_answers(plan, contents, built, other)
    return LiveLook(tuple(answers), len(wanted))
