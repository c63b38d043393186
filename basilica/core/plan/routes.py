"""Routes: the path that a server answers, and the file that a build writes, for every page."""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Callable, Mapping
from enum import StrEnum
from typing import NamedTuple
from urllib.parse import quote, unquote_to_bytes

from basilica.core.map.site import Site
from basilica.core.map.site.page_reader import is_home
from basilica.core.plan import plan_rules
from basilica.core.rules import limits
from basilica.core.rules.finding import Findings
from basilica.core.rules.rule import Rule

MARKER = ".basilica-build"
"""The file by which a built folder is known again."""

GENERATED = (
    "404.html",
    "robots.txt",
    "sitemap.xml",
    "assets/navigation.css",
    "assets/navigation.js",
    "assets/site.css",
    "redirects.csv",
    MARKER,
)
"""Files that a build writes beside the pages. No page may stand where one of them does."""

_KEPT = "!$&'()*+,;=:@-._~"
"""Characters that stand in a path segment as they are (RFC 3986, 3.3)."""

GOOD_PATH = "Write folder names with `/` between them, such as `/visit/hours`."
"""The remedy for a path that cannot be an address."""

_PERCENT = re.compile(r"%(?![0-9A-Fa-f]{2})")


class RouteKind(StrEnum):
    """What answers at a route."""

    PAGE = "page"
    BACKEND = "backend"
    """Other code of the site."""
    REDIRECT = "redirect"
    """An old address."""


class Route(NamedTuple):
    """Where a page is: ``path`` as a server sees it (without the base's path), ``file`` as a build writes it. Where
    other code answers nothing is written, and ``file`` is the path again."""

    key: str
    path: str
    file: str
    kind: RouteKind = RouteKind.PAGE

    @property
    def is_backend(self) -> bool:
        """Whether other code of the site answers there."""
        return self.kind is RouteKind.BACKEND


def make_routes(site: Site, findings: Findings) -> dict[str, Route]:
    """The route of every page that has an address, by key: all but sections. Clashes and unusable paths become
    findings; the page keeps a route."""
    routes: dict[str, Route] = {}
    stems: dict[str | None, str] = {None: ""}
    for key, page in site.pages.items():
        above = stems[page.parent]
        stem = f"{above}/{page.id}"
        if page.path is not None:
            segments, reason = segments_of(page.path, tuple(above.split("/")[1:]))
            if not reason:
                stem = "".join([f"/{segment}" for segment in segments])
            else:
                findings.add(
                    plan_rules.BAD_PATH,
                    site.lines.place(page.path_at),
                    f"The path of the page `{key}` {reason}.",
                    GOOD_PATH,
                )
        stems[key] = stem
        kind = page.options.kind
        if kind == "page":
            routes[key] = _route(key, stem, site.urls)
        elif kind == "backend":
            path = stem + ("/" if (page.path or "").rstrip().endswith("/") or not stem else "")
            routes[key] = Route(key, path, path, RouteKind.BACKEND)
    _find_clashes(site, routes, findings)
    return routes


def segments_of(path: str, above: tuple[str, ...]) -> tuple[tuple[str, ...], str]:
    """The segments of an address, below ``above`` unless ``path`` begins with ``/``, written as addresses write them;
    and what is wrong with the path, in words (empty: nothing)."""
    text = path.strip()
    for bad, name in (("?", "`?`"), ("#", "`#`"), ("\\", "a backslash")):
        if bad in text:
            return (), f"holds {name}"
    segments = [] if text.startswith("/") else list(above)
    for piece in text.split("/"):
        raw = unquote_to_bytes(_PERCENT.sub("%25", piece))
        try:
            name = raw.decode("utf-8")
        except UnicodeDecodeError:
            return (), "holds percent signs that are not UTF-8"
        if name in ("", "."):
            continue
        if name == "..":
            segments[-1:] = []
        elif any(character in "/\\" or unicodedata.category(character) in ("Cc", "Cs") for character in name):
            return (), "holds a character that no file name can"
        else:
            segments.append(quote(unicodedata.normalize("NFC", name), safe=_KEPT))
    return tuple(segments), ""


def _route(key: str, path: str, urls: str) -> Route:
    if not path:
        return Route(key, "/", "index.html")
    if urls == "folders":
        path += "/"
        file = path + "index.html"
    elif path.endswith(".html") and urls == "files":
        file = path
    else:
        file = path + ".html"
        path = file if urls == "files" else path
    return Route(key, path, unquoted(file[1:]))


def unquoted(address: str) -> str:
    """A path without percent-encoding, as files are named."""
    return unquote_to_bytes(address).decode() if "%" in address else address


def _find_clashes(site: Site, routes: Mapping[str, Route], findings: Findings) -> None:
    """Record every page whose address or file is another's, or is taken for another's somewhere."""

    def say(rule: Rule, key: str, message: str, remedy: str = "Give `{}` another `path:`.") -> None:
        findings.add(rule, site.lines.place(site.pages[key].path_at), message, remedy.format(key))

    generated = {comparable(name): name for name in GENERATED}
    files: dict[str, str] = {}
    served = {key: route for key, route in routes.items() if route.is_backend}
    if served:
        _find_served_clashes(served, routes, say)
        routes = {key: route for key, route in routes.items() if not route.is_backend}
    for key, route in routes.items():
        if _too_long(route):
            say(plan_rules.PATH_TOO_LONG, key, f"The address of the page `{key}` is too long.")
        file = comparable(route.file)
        owner = files.setdefault(file, key)
        if owner == key and file not in generated:
            continue
        if is_home(site.pages[key]):
            continue  # a second home is a finding of its own
        first = routes[owner]
        if owner != key and first.path == route.path:
            say(plan_rules.ADDRESS_CLASH, key, f"The pages `{owner}` and `{key}` are both at {route.path}.")
        elif owner != key and comparable(unquoted(first.path)) == comparable(unquoted(route.path)):
            both = f"The pages `{owner}` ({first.path}) and `{key}` ({route.path})"
            say(plan_rules.ADDRESS_CLASH, key, f"{both} differ only in case, or in how they are written.")
        elif file in generated:
            say(
                plan_rules.FILE_CLASH,
                key,
                f"The page `{key}` would be written where Basilica writes {generated[file]}.",
            )
        elif owner != key:
            say(plan_rules.FILE_CLASH, key, f"The pages `{owner}` and `{key}` would both be written to {route.file}.")
    seen: set[str] = set()
    above = ""
    for file, key in files.items():
        if file.rpartition("/")[0] == above:
            continue  # its neighbour was looked at
        folder = above = file.rpartition("/")[0]
        while folder and folder not in seen:
            seen.add(folder)
            standing = files.get(folder)
            if standing or folder in generated:
                whose = f"the page `{standing}`" if standing else "Basilica"
                say(plan_rules.FILE_CLASH, key, f"The page `{key}` needs the folder {folder}, the file of {whose}.")
            folder = folder.rpartition("/")[0]


def _find_served_clashes(served: Mapping[str, Route], routes: Mapping[str, Route], say: Callable[..., None]) -> None:
    """Record everything that stands where other code answers."""
    owners: dict[str, str] = {}
    for key, route in (*served.items(), *((key, route) for key, route in routes.items() if key not in served)):
        owner = owners.setdefault(comparable(unquoted(route.path)), key)
        if owner != key:
            at = key if key in served else owner
            say(plan_rules.ADDRESS_CLASH, at, f"The pages `{owner}` and `{key}` are both at {route.path}.")
        if key in served and _too_long(route):
            say(plan_rules.PATH_TOO_LONG, key, f"The address of the page `{key}` is too long.")


def _too_long(route: Route) -> bool:
    """Whether an address, or a piece of it, is longer than can be written."""
    if len(route.path) > limits.ADDRESS_CHARACTERS:
        return True
    if len(route.file) <= limits.SEGMENT_BYTES // 4:  # four bytes at most for a character
        return False
    return any(len(piece.encode()) > limits.SEGMENT_BYTES for piece in route.file.split("/"))


def comparable(path: str) -> str:
    """A form that is equal for paths that some server or file system takes for one another."""
    if path.isascii():
        return path.lower().rstrip("/")
    return unicodedata.normalize("NFC", path).casefold().rstrip("/")
