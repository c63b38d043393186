"""Links followed as browsers do (WHATWG URL), from the address that a page has to a file of the build."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from urllib.parse import unquote

from basilica.core.map.site import Base
from basilica.core.map.site.model import FRONTS
from basilica.core.plan import Plan, resolve
from basilica.core.plan.parameters import ParameterPaths
from basilica.core.site_reader.built_page import is_relative

_INDEX = "index.html"
INDEXES = (_INDEX, *FRONTS)
"""What servers of files answer at a folder, the usual ones first (common practice, no source)."""
_NOWHERE = "https://site.invalid"


@dataclass(frozen=True, slots=True)
class Target:
    """Where a link leads: a file of the site, or outside (``file`` and ``lost`` None). ``lost`` is set for addresses
    below the site at which no file is. A file that begins with ``/`` is answered by other code of the site."""

    file: str | None
    fragment: str = ""
    lost: str | None = None
    url: str = ""
    """The whole address, for what leads outside."""

    @property
    def outside(self) -> bool:
        """Whether it leads away from the site."""
        return self.file is None and self.lost is None


class Resolver:
    """Follows the links of one built site. With a plan, its routes say at which address each file is read; without one,
    a folder has the address of its `index.html`, as servers of files have it."""

    def __init__(
        self, files: Iterable[str], plan: Plan | None = None, base: Base | None = None, served: Iterable[str] = ()
    ) -> None:
        """``served`` are addresses that other code of the site answers, where no plan has them."""
        self._names = {"/" + file: file for file in files}
        self._files = dict(self._names)
        self._by_file = False
        self._paths: dict[str, str] = {}
        self._with_values = ParameterPaths(())
        if plan is None:
            self._without_plan()
            self._files.update({unquote(path): path for path in served})
        else:
            base = plan.site.base
            self._by_file = plan.site.links == "file"
            self._with_plan(plan)
        self._origin = base.origin if base else _NOWHERE
        self._prefix = base.path if base else ""
        self._known: dict[tuple[str, str], Target] = {}
        self.bases: dict[str, str] = {}
        """By file, the `base` that a page gives for its links (HTML, the base element)."""

    def _with_plan(self, plan: Plan) -> None:
        known = set(self._names.values())
        self._paths = {route.file: route.path for route in plan.routes.values()}
        self._paths |= {old.file: old.route.path for old in (*plan.redirects, *plan.further) if old.file}
        self._with_values = ParameterPaths((route.path, route.file) for route in plan.routes.values())
        for each in (plan, *plan.languages.values()):
            for route in each.routes.values():
                if route.file in known or route.is_backend:
                    self._files.setdefault(unquote(route.path), route.file)
            for further in each.further:
                if further.file in known:
                    self._files.setdefault(unquote(further.path), further.file)
                    self._files.setdefault(unquote(further.route.path), further.file)
        for file in plan.site.files.public:
            if file.endswith("/" + _INDEX):
                self._files.setdefault("/" + file.removesuffix(_INDEX), file)

    def _without_plan(self) -> None:
        for path, file in self._names.items():
            folder, _, name = path.rpartition("/")
            if name == _INDEX or (name in INDEXES and f"{folder}/{_INDEX}" not in self._names):
                self._paths[file] = folder + "/"
                self._files.setdefault(folder + "/", file)
                self._files.setdefault(folder, file)
            elif name.endswith(".html"):
                self._files.setdefault(path.removesuffix(".html"), file)

    def __contains__(self, file: str) -> bool:
        return "/" + file in self._names

    @property
    def origin(self) -> str:
        """The origin of the site, such as ``https://mill.example``; one that cannot exist where it is not known."""
        return self._origin

    def address(self, file: str) -> str:
        """The full address at which a file is read."""
        path = "/" + file if self._by_file else self._paths.get(file, "/" + file)
        return self._origin + self._prefix + path

    def place(self, file: str) -> str:
        """From where relative links of a page are followed: equal places lead to equal targets."""
        path = self.address(file)
        return path[: path.rindex("/") + 1]

    def target(self, file: str, href: str) -> Target:
        """Where ``href`` on the page in ``file`` leads."""
        # Absolute and root references lead to the same place from everywhere.
        here = self._paths.get(file, file) if file in self.bases or is_relative(href) else ""
        cached = self._known.get((here, href))
        if cached is None:
            cached = self._known[here, href] = self._follow(file, href)
        return cached

    def _follow(self, file: str, href: str) -> Target:
        base = resolve(self.address(file), self.bases[file]) if file in self.bases else None
        url = resolve(base.href if base is not None else self.address(file), href)
        if url is None:
            return Target(None, lost=href)
        if url.protocol not in ("http:", "https:") or url.origin != self._origin:
            return Target(None, url=url.href)
        path = unquote(url.pathname)
        fragment = unquote(url.hash[1:])
        if not path.startswith(self._prefix + "/"):
            # Above the site's own path the host may hold other things. A relative link that climbs there, or a
            # root link to what is really a page of this site, was meant for the site.
            meant_here = path in self._files or not href.startswith(("/", "http:", "https:", "HTTP"))
            if meant_here or not self._prefix:
                return Target(None, fragment, lost=path)
            return Target(None, url=url.href)
        found = self._files.get(path[len(self._prefix) :])
        if found is None:
            found = self._with_values.find(url.pathname[len(self._prefix) :])
        return Target(found, fragment, None if found else path)
