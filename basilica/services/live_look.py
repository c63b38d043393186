"""The live site, fetched as a browser fetches it, and held against what was built."""

from __future__ import annotations

import http.client
import re
import secrets
import ssl
import zlib
from collections.abc import Callable, Iterable, Iterator, Mapping
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path
from urllib.parse import quote, urljoin, urlsplit

from basilica.core.diff.line_differences import differences
from basilica.core.outputs.static_site.redirect_lists import redirect_target
from basilica.core.pipeline import verify
from basilica.core.plan import Plan
from basilica.core.plan.content_links import Contents
from basilica.core.rules.rule import Level
from basilica.core.shared.output_file import File
from basilica.core.shared.page_encoding import as_text
from basilica.store.errors import UsageError

OTHERS = 20
"""So many files that did not change are fetched as well, spread over the site."""
_REDIRECTS = 60
_MOST = 64_000_000
"""Bytes of an answer that are read."""
_PATIENCE = 20
"""Seconds in which a server must answer."""
_DAYS = 14
"""A certificate that ends within so many is said."""
_HASHED = re.compile(r"\.[0-9a-f]{8,}\.[a-z0-9]+$")
_WEEK = 7 * 24 * 3600
_PACKED = 1_400
"""Bytes from which compression saves a packet (common practice, no source)."""
_OK = None


@dataclass(frozen=True, slots=True)
class LiveAnswer:
    """What the live site answers: ``what`` was asked, its ``address``, how grave it is (None: it is right), and what
    there is to say."""

    what: str
    address: str
    level: Level | None
    words: str


@dataclass(frozen=True, slots=True)
class Fetched:
    """An answer over HTTP: its status, its headers by lower-case name, its body unpacked, and whether it was packed."""

    status: int
    headers: Mapping[str, str]
    body: bytes
    packed: bool


@dataclass(frozen=True, slots=True)
class LiveLook:
    """What was seen of a live site."""

    answers: tuple[LiveAnswer, ...]
    fetched: int

    @property
    def wrong(self) -> tuple[LiveAnswer, ...]:
        """What is not as it should be, the gravest first."""
        grave = list(Level)
        return tuple(sorted((one for one in self.answers if one.level), key=lambda one: grave.index(one.level)))  # type: ignore[arg-type]

    @property
    def fails(self) -> bool:
        """Whether an error is among it."""
        return any(one.level is Level.ERROR for one in self.answers)


class LiveSite:
    """A site that is read at an address, over one connection. Redirects are not followed."""

    def __init__(self, address: str, authority: Path | None = None) -> None:
        """``authority`` is a file of certificates to trust beside those of the system. Raises ``UsageError``."""
        self.address = address.rstrip("/")
        parts = urlsplit(self.address)
        if parts.scheme not in ("http", "https") or not parts.hostname:
            raise UsageError(f"`{address[:200]}` is no address of a site. Write it as https://mill.example.")
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


def files_to_fetch(built: Mapping[str, bytes], changed: Iterable[str], others: int = OTHERS) -> list[str]:
    """The files that are fetched: every changed one, and some of the others, spread over the site."""
    wanted = [path for path in built if path in set(changed)]
    rest = [path for path in built if path not in set(wanted)]
    return wanted + rest[:: max(1, -(-len(rest) // others))] if others else wanted


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
    led_on = {redirect.file for redirect in plan.redirects}  # asked for as redirects
    wanted = [file for file in files_to_fetch(built, changed) if file not in led_on]
    paths = {route.file: route.path for route in plan.routes.values()}
    answers: list[LiveAnswer] = []
    other: dict[str, bytes] = {}
    seen: dict[str, Fetched] = {}
    for file in wanted:
        path = paths.get(file) or "/" + quote(file)
        fetched = seen[file] = live.get(path)
        answers.append(_same(file, live.address + path, built[file], fetched))
        if fetched.status == 200 and fetched.body != built[file]:
            other[file] = fetched.body
        step()
    answers += _redirects(live, plan)
    answers.append(_not_found(live, built.get("404.html")))
    answers += _certificate(live)
    answers += _headers(live, seen)
    answers += _checks(plan, contents, built, other)
    return LiveLook(tuple(answers), len(wanted))


def _same(file: str, address: str, built: bytes, fetched: Fetched) -> LiveAnswer:
    what = "Page" if file.endswith((".html", ".htm")) else "File"
    if fetched.status != 200 and not (file == "404.html" and fetched.status == 404):
        return LiveAnswer(what, address, Level.ERROR, f"answers {fetched.status}{_led(fetched)}")
    if fetched.body == built:
        return LiveAnswer(what, address, _OK, "as it was built")
    rows = differences(as_text(built), as_text(fetched.body))
    first = next((row.new for row in rows if row.kind == "come" and row.new), None)
    where = f", first at line {first}" if first else ""
    return LiveAnswer(what, address, Level.ERROR, f"is not what was built{where}")


def _led(fetched: Fetched) -> str:
    where = fetched.headers.get("location", "")
    return f" and leads to {where[:200]}" if where else ""


def _redirects(live: LiveSite, plan: Plan) -> Iterator[LiveAnswer]:
    for redirect in plan.redirects[:_REDIRECTS]:
        address = live.address + redirect.address
        fetched = live.get(redirect.address)
        if redirect.is_gone:
            told = {
                410: (None, "is gone, as it should be"),
                404: (Level.ADVICE, "answers 404; the map says that it is gone: 410"),
            }
            level, words = told.get(fetched.status, (Level.ERROR, f"answers {fetched.status}, and should be gone"))
            yield LiveAnswer("Redirect", address, level, words)
            continue
        wanted = redirect_target(plan, redirect)
        if fetched.status in (301, 308):
            led = fetched.headers.get("location", "")
            same = _path(urljoin(address, led)) == _path(urljoin(address, wanted))
            words = f"leads to {led[:200]}" + ("" if same else f", and should lead to {wanted}")
            yield LiveAnswer("Redirect", address, _OK if same else Level.ERROR, words)
        elif fetched.status == 200 and b'http-equiv="refresh"' in fetched.body:
            words = "leads on by a page; the host could answer 301 (redirects.nginx.conf, redirects.apache.conf)"
            yield LiveAnswer("Redirect", address, Level.ADVICE, words)
        else:
            words = f"answers {fetched.status}{_led(fetched)}, and should lead to {wanted}"
            yield LiveAnswer("Redirect", address, Level.ERROR, words)


def _path(address: str) -> tuple[str, str, str]:
    parts = urlsplit(address)
    return parts.path, parts.query, parts.fragment


def _not_found(live: LiveSite, page: bytes | None) -> LiveAnswer:
    path = f"/not-there-{secrets.token_hex(6)}/"
    fetched = live.get(path)
    if fetched.status != 404:
        words = f"answers {fetched.status}{_led(fetched)} where nothing is: search engines take it for a page"
        return LiveAnswer("Not found", live.address + path, Level.ERROR, words)
    if page is not None and fetched.body != page:
        return LiveAnswer("Not found", live.address + path, Level.WARNING, "is another page than 404.html of the build")
    return LiveAnswer("Not found", live.address + path, _OK, "answers 404 with the page of the site")


def _certificate(live: LiveSite) -> Iterator[LiveAnswer]:
    days = live.days_left()
    if days is not None:
        level = Level.ERROR if days < 1 else Level.WARNING if days < _DAYS else _OK
        yield LiveAnswer("Certificate", live.address, level, f"is trusted, and ends in {days:,.0f} days")


def _headers(live: LiveSite, seen: Mapping[str, Fetched]) -> Iterator[LiveAnswer]:
    """How pages and files are packed and how long they stay fresh, each told once."""
    good = {file: one for file, one in seen.items() if one.status == 200}
    texts = {file: one for file, one in good.items() if file.endswith((".html", ".css", ".js", ".svg", ".xml"))}
    large = {file: one for file, one in texts.items() if len(one.body) >= _PACKED}
    if large:
        bare = [file for file, one in large.items() if not one.packed and "content-encoding" not in one.headers]
        words = (
            f"{len(bare)} of {len(large)} texts come without compression, such as {bare[0]}"
            if bare
            else "texts come packed"
        )
        yield LiveAnswer("Compression", live.address, Level.ADVICE if bare else _OK, words)
    hashed = {file: one for file, one in good.items() if _HASHED.search(file)}
    if hashed:
        short = [file for file, one in hashed.items() if _freshness(one) < _WEEK]
        words = (
            f"{short[0]} changes its name with its bytes, and could stay fresh for a year"
            if short
            else "files with a digest in their name stay fresh"
        )
        yield LiveAnswer("Caching", live.address, Level.ADVICE if short else _OK, words)
    pages = {file: one for file, one in good.items() if file.endswith((".html", ".htm"))}
    stale = [file for file, one in pages.items() if _freshness(one) > _WEEK]
    if pages:
        words = (
            f"{stale[0]} stays fresh for more than a week: visitors see the old page"
            if stale
            else "pages are asked for again"
        )
        yield LiveAnswer("Caching", live.address, Level.WARNING if stale else _OK, words)


def _freshness(fetched: Fetched) -> int:
    """For how many seconds an answer is fresh, as it says itself (RFC 9111, 5.2.2.1)."""
    said = re.search(r"max-age=(\d{1,10})", fetched.headers.get("cache-control", ""))
    return int(said[1]) if said else 0


def _checks(
    plan: Plan, contents: Contents, built: Mapping[str, bytes], other: Mapping[str, bytes]
) -> Iterator[LiveAnswer]:
    """What the checks find on the live site beside what they find on the build."""
    if not other:
        return

    def found(files: Mapping[str, bytes]) -> dict[tuple[str, str, str], Level]:
        results = verify((File(path, data) for path, data in files.items()), plan, contents)
        return {(one.code, one.message, one.built): one.level for one in results.findings()}

    before = found(built)
    for (code, message, page), level in found({**built, **other}).items():
        if (code, message, page) not in before:
            yield LiveAnswer(f"Check {code}", page, level, message)
