"""What a live site answers, held against what was built and what the map says."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from urllib.parse import urljoin, urlsplit

from basilica.core.build import verify
from basilica.core.diff.line_differences import differences
from basilica.core.outputs.static_site.redirect_lists import redirect_target
from basilica.core.plan import Plan, every_language
from basilica.core.plan.content_links import Contents
from basilica.core.plan.redirects import Redirect
from basilica.core.rules.rule import Level
from basilica.core.shared.output_file import File
from basilica.core.shared.page_encoding import as_text

OTHERS = 20
"""So many files that did not change are fetched as well, spread over the site."""
_DAYS = 14
"""A certificate that ends within so many is said."""
_HASHED = re.compile(r"\.[0-9a-f]{8,}\.[a-z0-9]+$")
_WEEK = 7 * 24 * 3600
_PACKED = 1_400
"""Bytes from which compression saves a packet (common practice, no source)."""


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


def files_to_fetch(built: Mapping[str, bytes], changed: Iterable[str], others: int = OTHERS) -> list[str]:
    """The files that are fetched: every changed one, and some of the others, spread over the site."""
    wanted = [path for path in built if path in set(changed)]
    rest = [path for path in built if path not in set(wanted)]
    return wanted + rest[:: max(1, -(-len(rest) // others))] if others else wanted


def same_answer(file: str, address: str, built: bytes, fetched: Fetched) -> LiveAnswer:
    """Whether a file is live as it was built."""
    what = "Page" if file.endswith((".html", ".htm")) else "File"
    if fetched.status != 200 and not (file == "404.html" and fetched.status == 404):
        return LiveAnswer(what, address, Level.ERROR, f"answers {fetched.status}{_led(fetched)}")
    if fetched.body == built:
        return LiveAnswer(what, address, None, "as it was built")
    rows = differences(as_text(built), as_text(fetched.body))
    first = next((row.new for row in rows if row.kind == "come" and row.new), None)
    where = f", first at line {first}" if first else ""
    return LiveAnswer(what, address, Level.ERROR, f"is not what was built{where}")


def _led(fetched: Fetched) -> str:
    where = fetched.headers.get("location", "")
    return f" and leads to {where[:200]}" if where else ""


def redirect_answer(plan: Plan, redirect: Redirect, address: str, fetched: Fetched) -> LiveAnswer:
    """Whether an old address, whole in ``address``, leads where the map says."""
    if redirect.is_gone:
        told = {
            410: (None, "is gone, as it should be"),
            404: (Level.ADVICE, "answers 404; the map says that it is gone: 410"),
        }
        level, words = told.get(fetched.status, (Level.ERROR, f"answers {fetched.status}, and should be gone"))
        return LiveAnswer("Redirect", address, level, words)
    wanted = redirect_target(plan, redirect)
    if fetched.status in (301, 308):
        led = fetched.headers.get("location", "")
        same = _path(urljoin(address, led)) == _path(urljoin(address, wanted))
        words = f"leads to {led[:200]}" + ("" if same else f", and should lead to {wanted}")
        return LiveAnswer("Redirect", address, None if same else Level.ERROR, words)
    if fetched.status == 200 and b'http-equiv="refresh"' in fetched.body:
        words = "leads on by a page; the host could answer 301 (redirects.nginx.conf, redirects.apache.conf)"
        return LiveAnswer("Redirect", address, Level.ADVICE, words)
    words = f"answers {fetched.status}{_led(fetched)}, and should lead to {wanted}"
    return LiveAnswer("Redirect", address, Level.ERROR, words)


def _path(address: str) -> tuple[str, str, str]:
    parts = urlsplit(address)
    return parts.path, parts.query, parts.fragment


def not_found_answer(address: str, fetched: Fetched, page: bytes | None) -> LiveAnswer:
    """Whether an address at which nothing is answers 404 with the ``page`` for it, if the site has one."""
    if fetched.status != 404:
        words = f"answers {fetched.status}{_led(fetched)} although there is no page: search engines will list it as one"
        return LiveAnswer("Not found", address, Level.ERROR, words)
    if page is not None and fetched.body != page:
        return LiveAnswer("Not found", address, Level.WARNING, "is another page than 404.html of the build")
    return LiveAnswer("Not found", address, None, "answers 404 with the page of the site")


def certificate_answer(address: str, days: float) -> LiveAnswer:
    """Whether a certificate that is trusted lasts; ``days`` are left of it."""
    level = Level.ERROR if days < 1 else Level.WARNING if days < _DAYS else None
    return LiveAnswer("Certificate", address, level, f"is trusted, and ends in {days:,.0f} days")


def header_answers(address: str, seen: Mapping[str, Fetched]) -> Iterator[LiveAnswer]:
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
        yield LiveAnswer("Compression", address, Level.ADVICE if bare else None, words)
    hashed = {file: one for file, one in good.items() if _HASHED.search(file)}
    if hashed:
        short = [file for file, one in hashed.items() if _freshness(one) < _WEEK]
        words = (
            f"{short[0]} changes its name with its bytes, and could stay fresh for a year"
            if short
            else "files with a digest in their name stay fresh"
        )
        yield LiveAnswer("Caching", address, Level.ADVICE if short else None, words)
    pages = {file: one for file, one in good.items() if file.endswith((".html", ".htm"))}
    stale = [file for file, one in pages.items() if _freshness(one) > _WEEK]
    if pages:
        words = (
            f"{stale[0]} stays fresh for more than a week: visitors see the old page"
            if stale
            else "pages are asked for again"
        )
        yield LiveAnswer("Caching", address, Level.WARNING if stale else None, words)


def _freshness(fetched: Fetched) -> int:
    """For how many seconds an answer is fresh, as it says itself (RFC 9111, 5.2.2.1)."""
    said = re.search(r"max-age=(\d{1,10})", fetched.headers.get("cache-control", ""))
    return int(said[1]) if said else 0


def check_answers(
    plan: Plan, contents: Contents, built: Mapping[str, bytes], other: Mapping[str, bytes]
) -> Iterator[LiveAnswer]:
    """What the checks find on the live site beside what they find on the build."""
    if not other:
        return

    def found(files: Mapping[str, bytes]) -> dict[tuple[str, str, str], Level]:
        read = [File(path, data) for path, data in files.items()]
        of_languages = (verify(read, each, contents) for each in every_language(plan))
        return {(one.code, one.message, one.built): one.level for each in of_languages for one in each.findings()}

    before = found(built)
    for (code, message, page), level in found({**built, **other}).items():
        if (code, message, page) not in before:
            yield LiveAnswer(f"Check {code}", page, level, message)
