"""The addresses of pages beside their own, each kept letter for letter: old ones, which lead on, and further ones,
which serve the page."""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Iterable, Iterator, Mapping
from typing import NamedTuple
from urllib.parse import quote, unquote_to_bytes

from basilica.core.map.map_files import PUBLIC
from basilica.core.map.site import Base, Site
from basilica.core.map.site.auto_entries import drafts_of
from basilica.core.plan.parameters import ParameterPaths
from basilica.core.plan.routes import (
    GENERATED,
    Route,
    RouteKind,
    comparable,
    file_ending,
    is_drive,
    is_html_ending,
    unquoted,
)

_AS_WRITTEN = "!$&'()*+,;=:@-._~/"
"""Characters that stand in a path as they are (RFC 3986, 3.3)."""
_IN_QUERY = _AS_WRITTEN.replace("'", "") + "?%[]|^`{}\\"
"""Characters of a query that browsers send as they are (WHATWG URL, special-query percent-encode set)."""
_PERCENT = re.compile(r"%(?![0-9A-Fa-f]{2})")


class Redirect(NamedTuple):
    """An old address, and where it leads: to a page (``key``, with an anchor in ``fragment``), to another site
    (``url``), or nowhere any more (neither: it is gone). ``path`` and ``query`` are as a server is asked for them;
    ``file`` is what a static site puts there, and empty where only a server can answer. A further address ``serves``
    its page (``key``) and leads nowhere; without a ``file``, that of the page answers there."""

    path: str
    query: str = ""
    file: str = ""
    key: str | None = None
    fragment: str = ""
    url: str = ""
    serves: bool = False

    @property
    def is_gone(self) -> bool:
        """Whether a server should say that nothing is there any more."""
        return self.key is None and not self.url

    @property
    def status(self) -> int:
        """The status with which a server answers (RFC 9110, 15.3.1, 15.4.2 and 15.5.11)."""
        if self.serves:
            return 200
        return 410 if self.is_gone else 301

    @property
    def address(self) -> str:
        """The address as a browser asks for it, below the base's path."""
        return f"{self.path}?{self.query}" if self.query else self.path

    @property
    def route(self) -> Route:
        """The page of a static site at the address, as it is read: where a folder stands there, inside that."""
        inside = self.file.endswith("/index.html") and not self.path.endswith(("/", ".html"))
        return Route(self.key or "", self.path + "/" * inside, self.file, RouteKind.REDIRECT)


class RedirectCandidate(NamedTuple):
    """An old or further address (``kind``) as the map gives it: the ``owner`` in words, the offset in the map, and what
    it becomes (None: it cannot be an address). ``problem`` says why it does not answer, and is empty where it does."""

    owner: str
    at: int
    redirect: Redirect | None
    problem: str = ""
    kind: str = "old"


def make_redirects(site: Site, routes: Mapping[str, Route]) -> tuple[tuple[Redirect, ...], tuple[Redirect, ...]]:
    """What answers at every old address, and at every further one. One that is in use, or cannot be an address, is left
    out."""
    found = [old.redirect for old in redirect_candidates(site, routes) if old.redirect is not None and not old.problem]
    if site.is_first and site.prefix and site.home:  # where no language stands by itself, the first is led to
        found.insert(0, Redirect("/", file="index.html", key=site.home))
    return tuple(each for each in found if not each.serves), tuple(each for each in found if each.serves)


def redirect_candidates(site: Site, routes: Mapping[str, Route]) -> Iterator[RedirectCandidate]:
    """Every old and further address of the map: those of pages that are built or answered, in map order, and those of
    no page."""
    if not site.redirects and not any(page.was or page.also for page in site.pages.values()):
        return
    places = _Places(site, routes)
    drafts = drafts_of(site.pages)
    for key, page in site.pages.items():
        is_built = key in routes and key not in drafts and not routes[key].is_backend
        for further in page.also if is_built else ():  # before old ones: they are in use
            target = Redirect("", key=key, serves=True)
            yield places.candidate(f"of the page `{key}`", further.path, further.at, target)
    for key, page in site.pages.items():
        for old in page.was if key in routes and key not in drafts else ():
            yield places.candidate(f"of the page `{key}`", old.path, old.at, Redirect("", key=key))
    for other in site.redirects:
        led = other.page is None or (other.page in routes and other.page not in drafts)
        target = Redirect("", key=other.page, fragment=other.fragment, url=other.url)
        if led:
            yield places.candidate("below `redirects`", other.path, other.at, target)


def parsed(old: str, base: Base | None) -> tuple[str, str, str]:
    """The path and the query of an old address as a server is asked for them; and what is wrong with it, in words
    (empty: nothing). A full address of the site itself is taken without its beginning."""
    text = old.strip()
    if re.match(r"[a-zA-Z][a-zA-Z0-9+.-]*://", text):
        if base is None or not (text + "/").startswith(str(base)):
            return "", "", "is on another site"
        text = "/" + text[len(str(base)) :]
    if "#" in text:
        return "", "", "has `#`, and browsers never send what follows it"
    path, _, query = text.partition("?")
    path = path if path.startswith("/") else "/" + path
    if "\\" in path:
        return "", "", "holds a backslash"
    if any(unicodedata.category(character) in ("Cc", "Cs") for character in text):
        return "", "", "has a character that is not allowed in addresses"
    try:
        names = [unquote_to_bytes(_PERCENT.sub("%25", piece)).decode() for piece in path.split("/")]
    except UnicodeDecodeError:
        names = []
    if any(byte < 0x20 or byte == 0x7F for byte in unquote_to_bytes(path)):
        return "", "", "has an encoded control character, such as a line break"
    if not {".", ".."}.isdisjoint(names):
        return "", "", "has `.` or `..` as a folder, which browsers remove before they ask"
    return quote(_PERCENT.sub("%25", path), safe=_AS_WRITTEN + "%"), quote(query, safe=_IN_QUERY), ""


class _Places:
    """Where old addresses can be answered, beside what a site has now."""

    def __init__(self, site: Site, routes: Mapping[str, Route]) -> None:
        self._site, self._routes = site, routes
        self._files = {comparable(route.file): key for key, route in routes.items() if not route.is_backend}
        self._backend = {comparable(route.path): key for key, route in routes.items() if route.is_backend}
        self._with_values = ParameterPaths((route.path, key) for key, route in routes.items())
        self._generated = {comparable(name): "Basilica writes a file" for name in GENERATED}
        self._generated |= {comparable(name): f"{PUBLIC}/{name} is" for name in site.files.public}
        self._folders = {folder for file in (*self._files, *self._generated) for folder in _above(file)}
        self._old: dict[tuple[str, str], str] = {}
        self._old_files: dict[str, str] = {}

    def candidate(self, owner: str, old: str, at: int, target: Redirect) -> RedirectCandidate:
        """What becomes of one old address, beside those that came before."""
        path, query, problem = parsed(old, self._site.base)
        if not problem and path == "/" and not query:
            problem = "is the address of the home page"
        if not problem and not self._site.is_first and not path.startswith(f"{self._site.prefix}/"):
            problem = f"does not begin with `{self._site.prefix}/`, as addresses in its language do"
        kind = "further" if target.serves else "old"
        if not problem and target.serves and (query or not _is_page(path)):
            problem = "has a query" if query else "ends like another kind of file than a page"
        if problem:
            return RedirectCandidate(owner, at, None, problem, kind)
        redirect = target._replace(path=path, query=query)
        problem = self._in_use(redirect)
        if not problem and not query:
            redirect = redirect._replace(file=self._file(redirect))
            if target.serves and not redirect.file and not self._is_own(redirect):
                problem = "a file or folder of another page is"
        if not problem:
            self._old[path, query] = f"{kind} address, {owner},"
        return RedirectCandidate(owner, at, redirect, problem, kind)

    def _is_own(self, redirect: Redirect) -> bool:
        """Whether servers answer at an address with the file of its page already."""
        own = comparable(self._routes[redirect.key or ""].file)
        return any(comparable(file) == own for file in _answering(redirect.path))

    def _in_use(self, redirect: Redirect) -> str:
        """Why an address answers with something else, in words."""
        other = self._old.get((redirect.path, redirect.query))
        if other:
            return f"another {other} is"
        if redirect.query:
            return ""  # a server is asked for the query as well
        backend = self._backend.get(comparable(redirect.path)) or self._with_values.find(redirect.path)
        if backend is not None:
            return f"other code answers for `{backend}`"
        generated = self._generated.get(comparable(redirect.path.strip("/")))
        if generated is not None:
            return generated
        for file in _answering(redirect.path):
            if comparable(file) in self._generated:
                return self._generated[comparable(file)]
            key = self._files.get(comparable(file))
            if key is not None and (key != redirect.key or self._routes[key].path == redirect.path):
                return f"the page `{key}` is"
        return ""

    def _file(self, redirect: Redirect) -> str:
        """The file of a static site at an old address; empty where there can be none, or none is needed."""
        if redirect.is_gone or not _is_page(redirect.path):
            return ""
        files = _answering(redirect.path)
        if not files:
            return ""
        file = files[-1] if self._site.urls == "bare" else files[0]
        name = comparable(file)
        if name in self._files or name in self._old_files or name in self._folders or name in self._generated:
            return ""
        if any(folder in self._files or folder in self._old_files for folder in _above(name)):
            return ""
        self._old_files[name] = redirect.path
        self._folders.update(_above(name))
        return file


def by_page(addresses: Iterable[Redirect]) -> dict[str, tuple[Redirect, ...]]:
    """By the key of a page, its addresses among these; those that lead to no page are left out."""
    found: dict[str, tuple[Redirect, ...]] = {}
    for each in addresses:
        if each.key is not None:
            found[each.key] = (*found.get(each.key, ()), each)
    return found


def as_asked(old: str, base: Base | None) -> str:
    """An old address as a server is asked for it, below the base's path; empty where it cannot be an address."""
    path, query, problem = parsed(old, base)
    return "" if problem else Redirect(path, query).address


def needs_server(redirect: Redirect) -> bool:
    """Whether a static site has nothing at an old address, and without its server's help visitors find nothing."""
    return bool(redirect.query) or (not redirect.is_gone and not _is_page(redirect.path))


def _is_page(path: str) -> bool:
    """Whether a server of files sends what stands at a path as a page."""
    ending = file_ending(path)
    return not ending or is_html_ending(ending)


def _answering(path: str) -> tuple[str, ...]:
    """The files with which servers of static files answer at a path; the usual one first."""
    try:
        name = unquoted(path[1:])
    except UnicodeDecodeError:
        return ()
    if not name or "\0" in name or "//" in path or is_drive(name):
        return ("index.html",) if not name else ()
    if path.endswith("/"):
        return (name + "index.html",)
    return (name,) if file_ending(path) else (f"{name}/index.html", f"{name}.html")


def _above(file: str) -> Iterator[str]:
    """The folders in which a file stands."""
    while "/" in file:
        file = file.rpartition("/")[0]
        yield file
