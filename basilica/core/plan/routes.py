"""Routes: the path that a server answers, and the file that a build writes, for every page."""

from __future__ import annotations

import re
import unicodedata
from enum import StrEnum
from typing import NamedTuple
from urllib.parse import quote, unquote_to_bytes

from basilica.core.map.site import Site
from basilica.core.plan.parameters import Parameter, apart, parameters_of, problem_with

MARKER = ".basilica-build"
"""The file by which a built folder is known again."""

ROBOTS = "robots.txt"
GENERATED = (
    "404.html",
    ROBOTS,
    "sitemap.xml",
    "assets/navigation.css",
    "assets/navigation.js",
    "assets/site.css",
    "assets/content.css",
    "redirects.csv",
    "redirects.nginx.conf",
    "redirects.apache.conf",
    MARKER,
)
"""Files that a build writes beside the pages. No page may stand where one of them does."""

_KEPT = "!$&'()*+,;=:@-._~"
"""Characters that stand in a path segment as they are (RFC 3986, 3.3)."""

_PERCENT = re.compile(r"%(?![0-9A-Fa-f]{2})")

_ENDING = re.compile(r"[^/.][^/]*\.([A-Za-z][A-Za-z0-9]{0,5})")
_HTML_ENDING = re.compile(r"[sx]?html?|xht")
"""Endings of files that servers send as pages."""
_MADE_ENDING = re.compile(r"php3?|phtml|aspx?|jspx?|cfm|cgi|pl")
"""Endings of files from which servers make pages (common practice, no source)."""
_OTHER_ENDING = re.compile(
    r"css|m?js|json|map|xml|rss|atom|txt|md|csv|pdf|zip|gz|png|jpe?g|gif|svg|webp|avif|ico|woff2?|ttf|mp[34]|webm"
    r"|docx?|xlsx?|webmanifest"
)
"""Endings of files that servers send as something else (common practice, no source)."""


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
    def parameters(self) -> tuple[Parameter, ...]:
        """The parameters in its path."""
        return parameters_of(self.path)

    @property
    def is_backend(self) -> bool:
        """Whether other code of the site answers there."""
        return self.kind is RouteKind.BACKEND


def make_routes(site: Site) -> dict[str, Route]:
    """The route of every page that has an address, by key: all but sections. A page whose path cannot be an address,
    or is another's as well, has a route all the same."""
    routes: dict[str, Route] = {}
    stems: dict[str | None, str] = {None: ""}
    for key, page in site.pages.items():
        above = stems[page.parent]
        stem, exact = f"{above}/{page.id}", False
        if page.path is not None:
            is_backend = page.options.kind == "backend"
            segments, reason = segments_of(page.path, tuple(above.split("/")[1:]), is_backend)
            if not reason:
                stem = "".join([f"/{segment}" for segment in segments])
                exact = bool(file_ending(page.path.strip()))
        stems[key] = _folder_of(stem) if exact else stem
        kind = page.options.kind
        if kind == "page":
            route = Route(key, stem, unquoted(stem[1:])) if exact else _route(key, stem, site.urls)
            routes[key] = _below(route, site.prefix) if site.prefix else route
        elif kind == "backend":
            path = stem + ("/" if (page.path or "").rstrip().endswith("/") or not stem else "")
            routes[key] = Route(key, path, path, RouteKind.BACKEND)
    return routes


def _below(route: Route, prefix: str) -> Route:
    """A route below the piece of address that a language has."""
    return route._replace(path=prefix + route.path, file=f"{prefix[1:]}/{route.file}")


def segments_of(path: str, above: tuple[str, ...], with_parameters: bool = False) -> tuple[tuple[str, ...], str]:
    """The segments of an address, below ``above`` unless ``path`` begins with ``/``, written as addresses write them;
    and what is wrong with the path, in words (empty: nothing). ``with_parameters`` leaves these as they are written."""
    text = path.strip()
    if with_parameters and "{" in text:
        problem = problem_with(text)
        if problem:
            return (), problem
        return _with_parameters(text, above)
    for bad, name in (("?", "`?`"), ("#", "`#`"), ("\\", "a backslash")):
        if bad in text:
            return (), f"holds {name}"
    segments = [] if text.startswith("/") else list(above)
    for piece in text.split("/"):
        raw = unquote_to_bytes(_PERCENT.sub("%25", piece))
        try:
            name = raw.decode("utf-8")
        except UnicodeDecodeError:
            return (), "has percent codes that are not UTF-8"
        if name in ("", "."):
            continue
        if name == "..":
            segments[-1:] = []
        elif any(character in "/\\" or unicodedata.category(character) in ("Cc", "Cs") for character in name):
            return (), "has a character that is not allowed in file names"
        elif not segments and is_drive(name):
            return (), f"begins with `{name[:2]}`, which is a drive on Windows"
        else:
            segments.append(quote(unicodedata.normalize("NFC", name), safe=_KEPT))
    return tuple(segments), ""


def _with_parameters(text: str, above: tuple[str, ...]) -> tuple[tuple[str, ...], str]:
    """As ``segments_of``, for a path that has parameters: these stay, and what is around them is written as usual."""
    segments = [] if text.startswith("/") else list(above)
    for piece in text.split("/"):
        texts, parameters = apart(piece)
        if not parameters:
            found, problem = segments_of(piece, tuple(segments))
            if problem:
                return (), problem
            segments = list(found)
            continue
        around = [segments_of(each, ()) for each in texts]
        problem = next((reason for _, reason in around if reason), "")
        if problem:
            return (), problem
        written = ["".join(found) for found, _ in around]
        segments.append("".join(one + two for one, two in zip(written, (*parameters, ""), strict=True)))
    return tuple(segments), ""


def is_drive(name: str) -> bool:
    """Whether a file of this name would stand on another drive, for Windows."""
    return name[1:2] == ":" and name[:1].isascii() and name[:1].isalpha()


def file_ending(path: str) -> str:
    """The ending of the file name with which a path ends, in small letters, such as `htm`; empty where it ends with the
    name of a folder, as `/visit`, `/visit/` and `/release-2.0` do."""
    found = _ENDING.fullmatch(path.rpartition("/")[2])
    ending = found[1].lower() if found else ""
    return ending if is_page_ending(ending) or _OTHER_ENDING.fullmatch(ending) else ""


def is_page_ending(ending: str) -> bool:
    """Whether servers send files with this ending as pages, or make pages from them."""
    return is_html_ending(ending) or _MADE_ENDING.fullmatch(ending) is not None


def is_html_ending(ending: str) -> bool:
    """Whether a server that has files alone sends those with this ending as pages."""
    return _HTML_ENDING.fullmatch(ending) is not None


def _folder_of(path: str) -> str:
    """Where pages under one with a file name of its own stand: beside `/shop/index.php` in `/shop`, below `/about.htm`
    in `/about`."""
    folder, _, name = path.rpartition("/")
    name = name.rpartition(".")[0]
    return folder if name.lower() == "index" else f"{folder}/{name}"


def _route(key: str, path: str, urls: str) -> Route:
    if not path:
        return Route(key, "/", "index.html")
    if urls == "folders":
        path += "/"
        file = path + "index.html"
    else:
        file = path + ".html"
        path = file if urls == "files" else path
    return Route(key, path, unquoted(file[1:]))


def unquoted(address: str) -> str:
    """A path without percent-encoding, as files are named."""
    return unquote_to_bytes(address).decode() if "%" in address else address


def comparable(path: str) -> str:
    """A form that is equal for paths that some server or file system takes for one another."""
    if path.isascii():
        return path.lower().rstrip("/")
    return unicodedata.normalize("NFC", path).casefold().rstrip("/")
