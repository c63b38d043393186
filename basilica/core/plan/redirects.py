"""Redirects: old addresses of pages, each with the file that a static site puts there."""

from __future__ import annotations

from collections.abc import Mapping

from basilica.core.map.site import Site
from basilica.core.map.site.auto_entries import drafts_of
from basilica.core.plan import plan_rules
from basilica.core.plan.routes import GENERATED, GOOD_PATH, Route, RouteKind, comparable, segments_of, unquoted
from basilica.core.rules.finding import Findings


def make_redirects(site: Site, routes: Mapping[str, Route], findings: Findings) -> tuple[Route, ...]:
    """A route for every old address; its ``key`` is the page to which it leads now. An old address that is in use,
    or cannot be one, becomes a finding and is left out."""
    if not any(page.was for page in site.pages.values()):
        return ()
    taken = {comparable(route.file): f"the page `{key}` is" for key, route in routes.items()}
    taken |= {
        comparable(route.path.strip("/") + end): f"other code answers for `{key}`"
        for key, route in routes.items()
        if route.is_backend
        for end in ("/index.html", ".html")
    }
    taken |= {comparable(name): "Basilica writes a file" for name in GENERATED}
    redirects = []
    drafts = drafts_of(site.pages)
    for key, page in site.pages.items():
        for old in page.was if key in routes and key not in drafts else ():
            segments, reason = segments_of("/" + old.path, ())
            if reason or not segments:
                findings.add(
                    plan_rules.BAD_PATH,
                    site.lines.place(old.at),
                    f"The old address of the page `{key}` {reason or 'is that of home'}.",
                    GOOD_PATH,
                )
                continue
            route = _route(key, "/" + "/".join(segments), old.path.rstrip().endswith("/"), site.urls)
            owner = taken.get(comparable(route.file))
            if owner:
                findings.add(
                    plan_rules.REDIRECT_CLASH,
                    site.lines.place(old.at),
                    f"The old address {route.path} of the page `{key}` cannot lead to it: {owner} there.",
                    "Take it out of `was:`, or move what stands there.",
                )
                continue
            taken[comparable(route.file)] = f"another old address, of the page `{key}`, is"
            redirects.append(route)
    return tuple(redirects)


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
