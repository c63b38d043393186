"""Written addresses: what stands in a link, which depends on the page it stands on."""

from __future__ import annotations

from collections.abc import Mapping
from urllib.parse import quote

import ada_url

from basilica.core.map.site import Base
from basilica.core.plan.parameters import filled
from basilica.core.plan.redirects import Redirect
from basilica.core.plan.routes import Route

_FRAGMENT = "!$&'()*+,;=:@-._~/?%"
"""Characters that stand in a fragment as they are (RFC 3986, 3.5); a percent sign is taken as written."""

_QUERY = _FRAGMENT
"""The same for a query (RFC 3986, 3.4)."""

_SEGMENT = "!$&'()*+,;=:@-._~/"


def relative(source: str, target: str) -> str:
    """The shortest relative reference that leads from one absolute path to another.

    Both begin with ``/``; what follows the last ``/`` is a file or an address without a final slash. The result
    is never empty and never reads as a scheme. Resolving it against ``source`` (RFC 3986, 5.2) gives ``target``.
    """
    here = source.split("/")[1:-1]
    *there, name = target.split("/")[1:]
    shared = 0
    for a, b in zip(here, there, strict=False):
        if a != b:
            break
        shared += 1
    up = "../" * (len(here) - shared)
    down = "".join(f"{piece}/" for piece in there[shared:]) + name
    if not up and (not down or ":" in down.partition("/")[0]):
        return "./" + down
    return up + down


def resolve(base: str, reference: str) -> ada_url.URL | None:
    """Where a reference on the page at ``base`` leads, by the rules that browsers follow (WHATWG URL, which for the
    addresses of sites is RFC 3986, 5.2); None where it is no address."""
    try:
        return ada_url.URL(reference, base=base)
    except ValueError:
        return None


def encode_fragment(fragment: str) -> str:
    """An anchor as it is written after ``#``."""
    return quote(fragment, safe=_FRAGMENT)


class Addresses:
    """Writes the addresses of one site in its link style."""

    def __init__(
        self, routes: Mapping[str, Route], base: Base | None, links: str, seen_at: Mapping[str, Route] | None = None
    ) -> None:
        """``seen_at`` has, by key, the other address at which a page is read that links are written for."""
        self._routes, self._seen_at = routes, seen_at or {}
        self._prefix = base.path if base else ""
        self._origin = base.origin if base else ""
        self.links = links
        self.varies = links in ("document", "file")
        """Whether the same target is written differently on different pages."""

    def place_of(self, key: str | None) -> str:
        """Where links on a page are written from: equal places write equal addresses. None is the page for
        addresses that do not exist, whose links are root links always."""
        if key is None or not self.varies:
            return "/"
        route = self._seen_at.get(key) or self._routes[key]
        path = route.path if self.links == "document" else self._file_of(route)
        return path[: path.rindex("/") + 1]

    def to_page(self, key: str, source: str | Route | None, fragment: str | None = None, query: str = "") -> str:
        """The address of page ``key`` as it is written on page ``source`` (None: the not-found page). ``query`` gives
        the values of its parameters, and what else it has stands behind the address."""
        route = self._routes[key]
        if route.is_backend and "{" in route.path:
            path, query, _ = filled(route.path, query)
            route = route._replace(path=path)
        behind = f"?{quote(query, safe=_QUERY)}" if query else ""
        anchor = f"#{encode_fragment(fragment)}" if fragment else ""
        return self._write(route.path, route, source) + behind + anchor

    def to_route(self, route: Route, source: str | None) -> str:
        """The address of a page of another language as it is written on page ``source``."""
        return self._write(route.path, route, source)

    def to_file(self, file: str, source: str | None) -> str:
        """The address of a generated file as it is written on page ``source``."""
        return self._write(self._file(file), self._file(file), source)

    def canonical(self, key: str) -> str | None:
        """The full address of a page; None for a site without a base, and for a section."""
        if not self._origin or key not in self._routes:
            return None
        return self._origin + self._prefix + self._routes[key].path

    def full(self, file: str) -> str | None:
        """The full address of a generated file; None for a site without a base."""
        return self._origin + self._prefix + self._file(file) if self._origin else None

    def rooted(self, address: str) -> str:
        """An address that the map gives, with the base's path where it is a path of the site."""
        return self._prefix + address if address.startswith("/") else address

    def old(self, redirect: Redirect) -> str:
        """An old address as a server is asked for it, with the base's path."""
        return self._prefix + redirect.address

    def _write(self, path: str, target: str | Route, source: str | Route | None) -> str:
        if source is None or self.links == "root":
            return self._prefix + path
        if self.links == "absolute":
            return self._origin + self._prefix + path
        here = source if isinstance(source, Route) else self._seen_at.get(source) or self._routes[source]
        if self.links == "document":
            return relative(here.path, path)
        file = target if isinstance(target, str) else self._file_of(target)
        return relative(self._file_of(here), file)

    @classmethod
    def _file_of(cls, route: Route) -> str:
        """The address of what a route opens as a file; where other code answers there is none but its path."""
        return route.path if route.is_backend else cls._file(route.file)

    @staticmethod
    def _file(file: str) -> str:
        return "/" + quote(file, safe=_SEGMENT)
