"""Redirects: old addresses of pages, each with the file that a static site puts there."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import NamedTuple

from basilica.core.map.site import Site
from basilica.core.map.site.auto_entries import drafts_of
from basilica.core.plan.routes import GENERATED, Route, RouteKind, comparable, segments_of, unquoted


class RedirectCandidate(NamedTuple):
    """An old address of a page: the ``key`` of that page, the offset in the map, and where it is answered (None: it
    cannot be an address). ``problem`` says in words why it does not lead to the page; empty where it does."""

    key: str
    at: int
    route: Route | None
    problem: str = ""


def make_redirects(site: Site, routes: Mapping[str, Route]) -> tuple[Route, ...]:
    """A route for every old address; its ``key`` is the page to which it leads now. An old address that is in use,
    or cannot be one, is left out."""
    return tuple(old.route for old in redirect_candidates(site, routes) if old.route is not None and not old.problem)


def redirect_candidates(site: Site, routes: Mapping[str, Route]) -> Iterator[RedirectCandidate]:
    """Every old address of the pages that can be led to, in map order."""
    if not any(page.was for page in site.pages.values()):
        return
    taken = {comparable(route.file): f"the page `{key}` is" for key, route in routes.items()}
    taken |= {
        comparable(route.path.strip("/") + end): f"other code answers for `{key}`"
        for key, route in routes.items()
        if route.is_backend
        for end in ("/index.html", ".html")
    }
    taken |= {comparable(name): "Basilica writes a file" for name in GENERATED}
    drafts = drafts_of(site.pages)
    for key, page in site.pages.items():
        for old in page.was if key in routes and key not in drafts else ():
            segments, reason = segments_of("/" + old.path, ())
            if reason or not segments:
                yield RedirectCandidate(key, old.at, None, reason or "is that of home")
                continue
            route = _route(key, "/" + "/".join(segments), old.path.rstrip().endswith("/"), site.urls)
            owner = taken.setdefault(comparable(route.file), "")
            yield RedirectCandidate(key, old.at, route, owner)
            if not owner:
                taken[comparable(route.file)] = f"another old address, of the page `{key}`, is"


def _route(key: str, path: str, folder: bool, urls: str) -> Route:
    """Where an old address is answered: as it is written, and where that leaves it open, as the site's own are."""
    if path.endswith(".html") and not folder:
        file = path
    elif urls == "bare" and not folder:
        file = path + ".html"
    else:
        path += "/"
        file = path + "index.html"
    return Route(key, path, unquoted(file[1:]), RouteKind.REDIRECT)
