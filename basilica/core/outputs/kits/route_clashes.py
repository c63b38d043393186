"""Which routes of an application meet those of the map: the same address twice, or one that takes it all."""

from __future__ import annotations

import re
from collections.abc import Iterator
from typing import NamedTuple

from basilica.core.plan import Plan

MOST = 1_000
"""Routes that are read of a list."""
_PATH = re.compile(r"(?:^|[\s'\"|,])(/[^\s'\"|,]*)")
_BARE = re.compile(r"^\s*([\w.-]+/\S*)")
"""A route as Django lists it, without its first slash."""
_ONE = re.compile(r"<(?:(?!path:)\w+:)?\w+>|:\w+|\{\w+\}")
_REST = re.compile(r"<path:\w+>|\*\w*|\{\w+\.\.\.\}|\{\*\w+\}")


class RouteClash(NamedTuple):
    """A route of an application and the page of the map that it meets: ``line`` counts from 1 in the list, and is 0
    where the list has no route for a page that wants one."""

    line: int
    route: str
    page: str
    message: str
    remedy: str


def route_clashes(listed: str, plan: Plan, mount: str | None = None) -> list[RouteClash]:
    """What of an application's routes meets pages of the map, in all its languages.

    ``listed`` is what `flask routes`, an Express application or a list by hand has: in each line one path, with
    parameters written as Flask, Django (`<int:id>`) or Express (`:id`, `*rest`) write them. ``mount`` is where the
    pages will stand; None is where the map has them."""
    base = plan.site.base.path if plan.site.base else ""
    below = base if mount is None else mount.rstrip("/")
    pages: dict[str, tuple[str, bool]] = {}  # what other code answers is at one address in all languages
    for each in plan.languages.values() or (plan,):
        for key in (key for key in each.routes if key not in each.drafts):
            route = each.routes[key]
            pages.setdefault(below + route.path, (each.id_of(key), route.is_backend))
    by_plain = {_plain(path): path for path in reversed(pages)}
    pieces = {path: tuple(_plain(path).split("/")) for path, (_, is_backend) in pages.items() if not is_backend}
    found: list[RouteClash] = []
    known: dict[str, list[str]] = {}  # by a route without the names of its parameters: the pages that it fits
    for number, path in _paths(listed):
        plain = _plain(path)
        if plain not in known:
            wanted = tuple(plain.split("/"))
            known[plain] = [page for page in pieces if "{" in plain and _fits(wanted, pieces[page])]
        caught = known[plain]
        same = by_plain.get(plain)
        if same is not None:
            page, is_backend = pages[same]
            if not is_backend:  # else it is as the map says
                message = f"{path} is answered by your code and by the page `{page}` of the map."
                remedy = "Say `kind: backend` at the page, so that your code answers, or remove the route."
                found.append(RouteClash(number, path, page, message, remedy))
            continue
        if caught:
            more = f" and {len(caught) - 1:,} more" if len(caught) > 1 else ""
            message = f"{path} fits {caught[0]}{more}, which the map has."
            remedy = "Register the pages of the map before this route; Flask does so on its own."
            found.append(RouteClash(number, path, pages[caught[0]][0], message, remedy))
    if len(listed.splitlines()) > MOST:
        message = f"The list has more than {MOST:,} lines, and the rest was not looked at."
        found.append(RouteClash(MOST + 1, "", "", message, "Look at the rest in a list of its own."))
    unanswered = [path for path, (_, is_backend) in pages.items() if is_backend and _plain(path) not in known]
    for path in unanswered if known else ():
        message = f"No route of the list answers {path}, which the map leaves to your code."
        found.append(
            RouteClash(0, path, pages[path][0], message, "Add a view for it, or remove `kind: backend` from the page.")
        )
    return found


def _paths(listed: str) -> Iterator[tuple[int, str]]:
    for number, line in enumerate(listed.splitlines()[:MOST], 1):
        match = _PATH.search(line) or _BARE.search(line)
        if match:
            path = match[1]
            yield number, path if path.startswith("/") else f"/{path}"


def _plain(path: str) -> str:
    """A path with its parameters unnamed, and without its last slash."""
    return _ONE.sub("{}", _REST.sub("{*}", path)).rstrip("/") or "/"


def _fits(wanted: tuple[str, ...], there: tuple[str, ...]) -> bool:
    """Whether the address of a page, in pieces, is one that a path with parameters fits. In a piece with several
    parameters only what stands before the first and behind the last is looked at."""
    if len(wanted) > len(there):
        return False
    ends = {0}  # how many pieces of the address may be behind
    for piece in wanted:
        before, found, behind = piece.partition("{")
        if found and behind.startswith("*"):
            begins = [at for at in ends if at < len(there) and there[at].startswith(before)]
            ends = {end for at in begins for end in range(at + 1 + (there[at] == before), len(there) + 1)}
        else:
            after = behind.rpartition("}")[2]
            ends = {at + 1 for at in ends if at < len(there) and _is(there[at], piece, before, found, after)}
    return len(there) in ends


def _is(own: str, piece: str, before: str, found: str, after: str) -> bool:
    """Whether a piece of an address is one that a piece of a path fits."""
    if not found:
        return own == piece
    return len(own) > len(before) + len(after) and own.startswith(before) and own.endswith(after)
