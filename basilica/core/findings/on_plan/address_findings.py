"""What is wrong with the addresses of a plan: ones that cannot be, that two pages have, or that are in use."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import NamedTuple

from basilica.core.map.map_files import PUBLIC, is_hidden
from basilica.core.map.site import Site
from basilica.core.plan import Plan
from basilica.core.plan.parameters import parameters_of
from basilica.core.plan.redirects import needs_server, redirect_candidates
from basilica.core.plan.routes import (
    GENERATED,
    ROBOTS,
    Route,
    comparable,
    file_ending,
    is_page_ending,
    segments_of,
    unquoted,
)
from basilica.core.rules import limits
from basilica.core.rules.examples import HOME
from basilica.core.rules.finding import Findings
from basilica.core.rules.place import START
from basilica.core.rules.rule import COMMON, Level, Rule

BAD_PATH = Rule(
    code="bad-path",
    level=Level.ERROR,
    title="A path that cannot be an address",
    why="A path becomes one file and one address.",
    standard="RFC 3986, 3.3 Path",
    remedy="Use folder names with `/` between them, such as `/visit/hours`.",
    good=HOME + "  tides: {title: Tides, path: tide-tables}\n",
    bad=HOME + "  tides: {title: Tides, path: 'tides?'}\n",
)

ADDRESS_CLASH = Rule(
    code="address-clash",
    level=Level.ERROR,
    title="Two pages at one address",
    why="A server answers each address with one page.",
    standard="RFC 3986, 6.2.2",
    remedy="Give one of them another `path:`.",
    good=HOME + "  tides: Tides\n  flour: {title: Flour, path: flours}\n",
    bad=HOME + "  tides: Tides\n  flour: {title: Flour, path: TIDES}\n",
)

FILE_CLASH = Rule(
    code="file-clash",
    level=Level.ERROR,
    title="A page in the place of another file",
    why="One would overwrite the other.",
    standard=COMMON,
    remedy="Give the page another `path:`.",
    good=HOME + "  files: {title: Files, path: papers}\n",
    bad=HOME + "  files: {title: Files, path: /404.html}\n",
)

PATH_TOO_LONG = Rule(
    code="path-too-long",
    level=Level.ERROR,
    title="An address that is too long",
    why="File systems and sitemaps have limits.",
    standard="sitemaps.org protocol 0.9",
    remedy="Give it a shorter `path:`.",
    good=HOME + "  tides: {title: Tides, path: tide-tables}\n",
    bad=HOME + f"  tides: {{title: Tides, path: {'tides-' * 42}}}\n",
)

REDIRECT_CLASH = Rule(
    code="redirect-clash",
    level=Level.ERROR,
    title="An old or further address that is in use",
    why="Visitors get the page that has this address now.",
    standard="RFC 9110, 15.4 Redirection 3xx",
    remedy="Remove it from `was:` or `also:`, or move the page that is there.",
    good=HOME + "  tides: {title: Tides, was: /tide-table/}\n  flour: Flour\n",
    bad=HOME + "  tides: {title: Tides, was: /flour/}\n  flour: Flour\n",
)

NOT_A_PAGE = Rule(
    code="not-a-page",
    level=Level.WARNING,
    title="A page whose name ends like another kind of file",
    why="Servers and browsers take it for a file of that kind.",
    standard="RFC 9110, 8.3 Content-Type",
    remedy="Give the page a `path:` that ends in a folder's name, or in `.html`.",
    good=HOME + "  tides: {title: Tides, path: /tides.htm}\n",
    bad=HOME + "  tides: {title: Tides, path: /tides.css}\n",
)

REDIRECT_BY_SERVER = Rule(
    code="redirect-by-server",
    level=Level.ADVICE,
    title="An old address that only a server can answer",
    why="A static host serves only files, and no file can have an address with a query, or be"
    " a page under another kind of name.",
    standard="RFC 9110, 15.4 Redirection 3xx",
    remedy="Use `redirects.csv` on your server, or the rules for it from the output `data`.",
    good=HOME + "  tides: {title: Tides, was: /tides.htm}\n",
    bad=HOME + "  tides: {title: Tides, was: '/index.php?page=3'}\n",
)

HIDDEN_FILE = Rule(
    code="hidden-file",
    level=Level.WARNING,
    title="A hidden file that is not published",
    why="Files whose names begin with a dot often have passwords and keys, and everybody can read what is published.",
    standard="RFC 8615, 3 Well-Known URIs",
    remedy="Remove it from `public`, or rename it.",
    good={"site.yaml": HOME, "public/.well-known/security.txt": b"Contact: mailto:a@mill.example"},
    bad={"site.yaml": HOME, "public/.env": b"KEY=1"},
)

RULES = (
    BAD_PATH,
    ADDRESS_CLASH,
    FILE_CLASH,
    PATH_TOO_LONG,
    REDIRECT_CLASH,
    NOT_A_PAGE,
    REDIRECT_BY_SERVER,
    HIDDEN_FILE,
)


class Clash(NamedTuple):
    """A rule that the address of page ``key`` breaks, and how."""

    rule: Rule
    key: str
    message: str


def find(plan: Plan, findings: Findings) -> None:
    """Add the findings about every address of a plan."""
    site = plan.site
    _bad_paths(site, findings)
    for key, route in plan.routes.items():
        if "{" in route.path and not route.is_backend:
            message = f"The page `{key}` is below a path with parameters, so no file can be written for it."
            findings.add(BAD_PATH, site.lines.place(site.pages[key].path_at), message, "Add `kind: backend` to it.")
    for clash in (*_backend_clashes(plan.routes), *_clashes(site, plan.routes)):
        place = site.lines.place(site.pages[clash.key].path_at)
        findings.add(clash.rule, place, clash.message, f"Give `{clash.key}` another `path:`.")
    _public_files(site, findings)
    _old_addresses(plan, findings)


def _public_files(site: Site, findings: Findings) -> None:
    """Every file of `public` that would stand where a build writes one of its own, but for `robots.txt`, which may be
    one's own."""
    generated = {comparable(name): name for name in GENERATED if name != ROBOTS}
    seen: dict[str, str] = {}
    for name in site.files.under(PUBLIC):
        if is_hidden(name):
            message = f"The file {PUBLIC}/{name} is not published: a name in its path begins with a dot."
            findings.add(HIDDEN_FILE, START, message, file=f"{PUBLIC}/{name}")
    for name in site.files.public:
        where = generated.get(comparable(name))
        if where is not None:
            message = f"The file {PUBLIC}/{name} would be written where Basilica writes {where}."
            remedy = "Remove it, or rename it."
            if where == "404.html":
                remedy = "Write the content of that page in `content/404.md`, and remove this file."
            findings.add(FILE_CLASH, START, message, remedy, file=f"{PUBLIC}/{name}")
        other = seen.setdefault(comparable(name), name)
        if other != name:
            message = f"The files {PUBLIC}/{other} and {PUBLIC}/{name} are one on many servers."
            findings.add(FILE_CLASH, START, message, "Rename one of them.", file=f"{PUBLIC}/{name}")


def _bad_paths(site: Site, findings: Findings) -> None:
    for key, page in site.pages.items():
        if page.path is None:
            continue
        reason = segments_of(page.path, (), page.options.kind == "backend")[1]
        if not reason and page.options.kind != "backend" and parameters_of(page.path):
            reason = "has a parameter, which only other code can answer: add `kind: backend`"
        ending = file_ending(page.path.strip())
        if reason:
            findings.add(BAD_PATH, site.lines.place(page.path_at), f"The path of the page `{key}` {reason}.")
        elif ending and not is_page_ending(ending) and page.options.kind == "page":
            message = f"The page `{key}` would be a file that ends with `.{ending}`, which no server sends as a page."
            findings.add(NOT_A_PAGE, site.lines.place(page.path_at), message)


def _old_addresses(plan: Plan, findings: Findings) -> None:
    site = plan.site
    by_server = []
    for owner, at, redirect, problem, kind in redirect_candidates(site, plan.routes):
        if redirect is None:
            findings.add(BAD_PATH, site.lines.place(at), f"The {kind} address {owner} {problem}.")
        elif problem:
            does = "serve the page" if redirect.serves else "lead on"
            message = f"The {kind} address {redirect.address} {owner} cannot {does}: {problem} there."
            findings.add(REDIRECT_CLASH, site.lines.place(at), message)
        elif needs_server(redirect):
            by_server.append((redirect, at))
    if by_server:
        (redirect, at), more = by_server[0], len(by_server) - 1
        others = f", and {more} more" if more else ""
        message = f"There can be no file at the old address {redirect.address}{others}: only a server can redirect it."
        findings.add(REDIRECT_BY_SERVER, site.lines.place(at), message)


def _clashes(site: Site, routes: Mapping[str, Route]) -> Iterator[Clash]:
    """Every page whose file, or whose address, is another's, or is taken for another's somewhere."""
    generated = {comparable(name): f"Basilica writes {name}" for name in GENERATED}
    generated |= {comparable(name): f"the file {PUBLIC}/{name} is" for name in site.files.public}
    files: dict[str, str] = {}
    for key, route in routes.items():
        if route.is_backend:
            continue
        if _too_long(route):
            yield Clash(PATH_TOO_LONG, key, f"The address of the page `{key}` is too long.")
        file = comparable(route.file)
        owner = files.setdefault(file, key)
        if owner == key and file not in generated:
            continue
        if site.pages[key].is_home and file not in generated:
            continue  # a second home is a finding of its own
        first = routes[owner]
        if owner != key and first.path == route.path:
            yield Clash(ADDRESS_CLASH, key, f"The pages `{owner}` and `{key}` are both at {route.path}.")
        elif owner != key and comparable(unquoted(first.path)) == comparable(unquoted(route.path)):
            both = f"The pages `{owner}` ({first.path}) and `{key}` ({route.path})"
            yield Clash(ADDRESS_CLASH, key, f"{both} differ only in case, or in how they are written.")
        elif file in generated:
            yield Clash(FILE_CLASH, key, f"The page `{key}` would be written where {generated[file]}.")
        elif owner != key:
            both = f"The pages `{owner}` and `{key}`"
            yield Clash(FILE_CLASH, key, f"{both} would both be written to {route.file}.")
    yield from _folder_clashes(files, generated)


def _folder_clashes(files: Mapping[str, str], generated: Mapping[str, str]) -> Iterator[Clash]:
    """Every page that needs a folder where a file stands."""
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
                whose = f"the page `{standing}` has a file" if standing else generated[folder]
                message = f"The page `{key}` needs a folder {folder} where {whose}."
                yield Clash(FILE_CLASH, key, message)
            folder = folder.rpartition("/")[0]


def _backend_clashes(routes: Mapping[str, Route]) -> Iterator[Clash]:
    """Everything that stands where other code answers."""
    backend = {key: route for key, route in routes.items() if route.is_backend}
    if not backend:
        return
    owners: dict[str, str] = {}
    for key, route in (*backend.items(), *((key, route) for key, route in routes.items() if key not in backend)):
        owner = owners.setdefault(comparable(unquoted(route.path)), key)
        if owner != key:
            at = key if key in backend else owner
            yield Clash(ADDRESS_CLASH, at, f"The pages `{owner}` and `{key}` are both at {route.path}.")
        if key in backend and _too_long(route):
            yield Clash(PATH_TOO_LONG, key, f"The address of the page `{key}` is too long.")


def _too_long(route: Route) -> bool:
    """Whether an address, or a piece of it, is longer than can be written."""
    if len(route.path) > limits.ADDRESS_CHARACTERS:
        return True
    if len(route.file) <= limits.SEGMENT_BYTES // 4:  # four bytes at most for a character
        return False
    return any(len(piece.encode()) > limits.SEGMENT_BYTES for piece in route.file.split("/"))
