"""Pages that exist in a folder, and the shared regions set into them. A page is written whole or not at all."""

from __future__ import annotations

import os
import re
from collections.abc import Callable, Collection, Iterable, Iterator, Mapping
from dataclasses import dataclass
from pathlib import Path
from typing import NamedTuple

from markupsafe import escape

from basilica.core.exchange.site_import.held_against_models import wrapped_in
from basilica.core.exchange.site_import.old_page import PAGE_ENDINGS
from basilica.core.exchange.site_import.wrapped_regions import Spans
from basilica.core.map.map_files import PUBLIC, Files, is_file_name
from basilica.core.outputs.inlay import (
    REGIONS,
    CannotInlay,
    NewPage,
    has_set_in,
    inlay,
    marked_regions_of,
    names_in,
    page_like,
    region_names,
    with_looks,
    with_marks,
)
from basilica.core.outputs.inlay.inlay_marks import changed_since
from basilica.core.outputs.static_site import Renderer
from basilica.core.plan import Plan, every_redirect, other_languages
from basilica.core.plan.content_links import Contents
from basilica.core.plan.routes import GENERATED, comparable
from basilica.core.shared.output_file import File
from basilica.services.inlay_record import InlayRecord
from basilica.store.errors import UsageError
from basilica.store.folders import place_in, write_atomically
from basilica.store.site_archives import read_site


@dataclass(frozen=True, slots=True)
class InlayResult:
    """A file of the folder: the regions that are other now, those that it has no marks for, and why it was left as it
    is (empty where it was not). ``before`` and ``after`` are its bytes where it changes."""

    file: str
    changed: tuple[str, ...] = ()
    without: tuple[str, ...] = ()
    problem: str = ""
    dead_skip: bool = False
    """Whether the skip link leads nowhere, since nothing in the page has the id ``content``."""
    before: bytes = b""
    after: bytes = b""


@dataclass(frozen=True, slots=True)
class InlayReport:
    """What became of a folder. ``unmarked`` are the pages of the map that have no marks, ``absent`` those that have no
    file, and ``strangers`` the pages of the folder that are not in the map."""

    results: tuple[InlayResult, ...]
    unmarked: tuple[str, ...]
    absent: tuple[str, ...]
    strangers: tuple[str, ...]

    @property
    def changed(self) -> tuple[InlayResult, ...]:
        """The files that are other than they were."""
        return tuple(one for one in self.results if one.changed)

    @property
    def problems(self) -> tuple[InlayResult, ...]:
        """The files that were left as they are."""
        return tuple(one for one in self.results if one.problem)


def files_with(files: Mapping[str, bytes], names: Iterable[str]) -> Files:
    """The files beside a map, and those that lie among pages that exist, by ``names``: links may lead to them. Nothing
    of them goes anywhere, so only their names count."""
    found = dict(files)
    made = {comparable(name) for name in GENERATED}
    for name in names:
        public = f"{PUBLIC}/{name}"
        if not name.lower().endswith(PAGE_ENDINGS) and comparable(name) not in made and is_file_name(public):
            found.setdefault(public, b"")
    return Files(found)


def pages_folder(plan: Plan | None, beside: Path | None) -> Path | None:
    """The folder of the pages into which a map is set, as the map says it; None where it does not. ``beside`` is the
    folder that the map is in, if it is in one."""
    said = plan.site.inlay.folder if plan is not None else ""
    if not said:
        return None
    folder = Path(said).expanduser()
    return Path(os.path.normpath(beside / folder)) if beside is not None else folder


def names_below(folder: Path) -> list[str]:
    """The names of the files in a folder, and below it."""
    return [path.relative_to(folder).as_posix() for path in sorted(folder.rglob("*")) if path.is_file()]


_CONTENT = re.compile(rb"""\sid\s*=\s*["']?content["'\s>]""")


_EDITED = (
    "Between the marks of {} somebody changed something since it was written, so the page is left as it is. Move the "
    "change into the map, or write over it (`--overwrite`)."
)
_AHEAD = 64_000_000
"""Bytes of pages that are remembered from the first look at a folder."""


class _Page(NamedTuple):
    """A page of the map: its language, its key, and the file of it."""

    language: str
    key: str
    file: str


class FolderInlay:
    """Sets the shared regions of one site into the pages of one folder."""

    def __init__(
        self, plan: Plan, contents: Contents, folder: Path, place: bool = False, overwrite: bool = False
    ) -> None:
        """With ``place``, pages without marks get them; with ``overwrite``, what somebody changed between marks is
        written over. Raises ``UsageError`` if ``folder`` is not a folder."""
        if not folder.is_dir():
            raise UsageError(f"{folder} is not a folder. Name the one that has the pages.")
        self.plan, self.contents, self.folder, self.place = plan, contents, folder, place
        self._overwrite, self._record = overwrite, InlayRecord(folder)
        self.known = frozenset(region_names(plan))
        self._plans = {each.site.language: each for each in (plan, *other_languages(plan))}
        self.pages = tuple(
            _Page(tag, key, each.routes[key].file) for tag, each in self._plans.items() for key in each.builds(False)
        )
        """The pages of the map, in all its languages."""
        self._ahead: dict[str, bytes] = {}
        self.wrapped: Spans = {}
        if place:
            files = read_site(folder)
            self.wrapped = wrapped_in(files)
            self._ahead = {file.path: file.data for file in files if file.path in self.wrapped}
        self._names = {page.file: names_in(data) for page, data in self._read_pages()}
        used = frozenset(name for names in self._names.values() for name in names) & self.known
        used |= {name for spans in self.wrapped.values() for _, _, name in spans}
        self.used = used | frozenset(REGIONS if place else ())
        """The regions that pages have, or may get."""
        self._renderers = self._rendering(self.used)

    def _rendering(self, used: frozenset[str]) -> dict[str, Renderer]:
        """By language, what renders the regions that are ``used``."""
        menus, inlaid = tuple(self.plan.menus), with_looks(self.plan, used)
        first = Renderer(self.plan, self.contents, menus_alone=menus, stamps=False, inlaid=inlaid)
        return {one.plan.site.language: one for one in (first, *first.in_other_languages)}

    @staticmethod
    def _assets(renderers: Mapping[str, Renderer], languages: Collection[str]) -> Iterable[File]:
        """The files that pages in these languages load."""
        found = (file for tag, one in renderers.items() if tag in languages for file in one.assets_files())
        return {file.path: file for file in found}.values()

    def _read_pages(self) -> Iterator[tuple[_Page, bytes]]:
        """The pages of the map that are there and can be read; the first ones are remembered, to be read once."""
        ahead = 0
        for page in self.pages:
            data = self._ahead.get(page.file)
            if data is None:
                data = self._read(page.file)
            if data is None:
                continue
            if ahead < _AHEAD:
                ahead += len(data)
                self._ahead[page.file] = data
            yield page, data

    def run(
        self, write: bool, step: Callable[[], None] = lambda: None, keep: int = 0, like: str | None = None
    ) -> InlayReport:
        """Set everything in; with ``write`` False nothing is written. ``step`` is called after each page. Of so many
        pages to ``keep`` the report has the bytes, before and after. ``like`` is the file that pages which are absent
        are made like (empty: that of home); None: they are not made."""
        results: list[InlayResult] = []
        there = {page.language for page in self.pages if self._is_there(page.file)}
        before = {file.path: self._read(file.path) for file in self._assets(self._renderers, self._plans)}
        for asset in self._assets(self._renderers, there) if write else ():
            # The files first: no page asks for one that is not there.
            self._asset(asset, before[asset.path], write)
        self._met: set[str] = set()
        self._met_in: set[str] = set()
        unmarked, absent = [], []
        for page in self.pages:
            keeps = len(results) < keep
            if not self._is_there(page.file):
                if like is None:
                    absent.append(page.file)
                else:
                    results.append(self._new(page, like or self._model(page), write, keeps))
            else:
                done = self._page(page, write, keeps)
                if done is None:
                    unmarked.append(page.file)
                else:
                    results.append(done)
            step()
        for asset in self._assets(self._rendering(frozenset(self._met)), self._met_in) if self._met else ():
            results += self._asset(asset, before.get(asset.path), write)
        if write:
            self._record.keep()
        return InlayReport(tuple(results), tuple(unmarked), tuple(absent), tuple(self._strangers()))

    def _meet(self, page: _Page, names: frozenset[str]) -> None:
        """A page has these regions."""
        self._met |= names
        self._met_in.add(page.language)

    def _model(self, page: _Page) -> str:
        """The file that a new page is made like: home in its language, or else home in the first."""
        plans = (self._plans[page.language], self.plan)
        homes = [plan.routes[plan.site.home].file for plan in plans if plan.site.home]
        return next(filter(self._is_there, homes), homes[-1] if homes else page.file)

    def _strangers(self) -> Iterable[str]:
        known = {*(page.file for page in self.pages), *(redirect.file for _, redirect in every_redirect(self.plan))}
        for root, folders, names in os.walk(self.folder):
            folders.sort()
            beside = Path(root).relative_to(self.folder).as_posix()
            for name in sorted(names):
                file = name if beside == "." else f"{beside}/{name}"
                if name.lower().endswith(PAGE_ENDINGS) and file not in known and not os.path.islink(f"{root}/{name}"):
                    yield file

    def _is_there(self, file: str) -> bool:
        return os.path.isfile(os.path.join(self.folder, file))

    def _read(self, name: str) -> bytes | None:
        """A file of the folder; None where there is none that can be read."""
        try:
            return place_in(self.folder, name).read_bytes()
        except (OSError, UsageError):
            return None

    def _asset(self, file: File, before: bytes | None, write: bool) -> list[InlayResult]:
        """A file that the pages need; nothing where it was there already."""
        try:
            path = place_in(self.folder, file.path)
            if write and (not path.is_file() or path.read_bytes() != file.data):
                write_atomically(path, file.data)
        except OSError as error:
            return [InlayResult(file.path, problem=f"It cannot be read: {error.strerror}.")]
        except UsageError as error:
            return [InlayResult(file.path, problem=str(error))]
        return [InlayResult(file.path, ("the whole file",))] if before != file.data else []

    def _page(self, page: _Page, write: bool, keep: bool) -> InlayResult | None:
        """A page that exists; None for one that has no marks and gets none."""
        names: frozenset[str] = frozenset()
        file, renderer = page.file, self._renderers[page.language]
        try:
            known = self._ahead.pop(file, None)
            data = known if known is not None else place_in(self.folder, file).read_bytes()
            there = self._names[file] if known is not None else names_in(data)
            spans = self.wrapped.get(file, ()) if self.place and not there else ()
            marked = with_marks(data, spans) if spans else data
            names = (there | {name for _, _, name in spans}) & self.known
            if not names and not self.place and b"basilica:" not in data:
                return None
            if not self.place and self._has_all(data, marked_regions_of(renderer, page.key, names)):
                self._meet(page, names)
                if write and not self._record.of(file):
                    self._record.wrote(file, data)
                return InlayResult(file, dead_skip=self._is_dead(data))
            whole = self.place or with_looks(self.plan, names)
            regions = marked_regions_of(renderer, page.key, names | frozenset(REGIONS if whole else ()))
            done = inlay(marked, regions, self.place, self.known, self._head(page), self._relative_to(file))
            self._meet(page, done.names)
            edited = () if self._overwrite else changed_since(data, done.data, self._record.of(file))
            if edited:
                return InlayResult(file, problem=_EDITED.format(", ".join(edited)))
            if write and done.data != data:
                write_atomically(place_in(self.folder, file), done.data)
            if write:
                self._record.wrote(file, done.data)
        except (CannotInlay, UsageError) as error:
            self._meet(page, names)
            return InlayResult(file, problem=str(error))
        except OSError as error:
            return InlayResult(file, problem=f"It cannot be read: {error.strerror}.")
        bytes_of = (data, done.data) if keep and done.data != data else (b"", b"")
        return InlayResult(file, done.changed, done.without, "", self._is_dead(done.data), *bytes_of)

    def _has_all(self, data: bytes, regions: dict[str, str]) -> bool:
        """Whether it is clear at first sight that a page is as the map says."""
        return not self.plan.site.inlay.replace and b"<base" not in data and has_set_in(data, regions)

    @staticmethod
    def _is_dead(data: bytes) -> bool:
        """Whether the skip link of a page leads nowhere."""
        return b'href="#content"' in data and b' id="content"' not in data and not _CONTENT.search(data)

    def _new(self, new: _Page, like: str, write: bool, keep: bool) -> InlayResult:
        """A page that was not there, made like one that is."""
        renderer, site = self._renderers[new.language], self._plans[new.language].site
        page, body = site.pages[new.key], renderer.body(new.key)
        made_of = NewPage(
            new.file,
            renderer.plan.head_title(new.key, page.title),
            "" if body.has_title else page.title,
            page.description or "",
            body.html,
            site.language if site.languages else "",
        )
        try:
            model = place_in(self.folder, like)
            if not model.is_file():
                raise UsageError(f"It cannot be made like {like}, which is not there. Name another page with `--like`.")
            made = page_like(model.read_bytes(), like, made_of)
            regions = marked_regions_of(renderer, new.key, names_in(made) & self.known)
            done = inlay(made, regions, known=self.known, file=self._relative_to(new.file))
            self._meet(new, done.names)
            if write:
                write_atomically(place_in(self.folder, new.file), done.data)
                self._record.wrote(new.file, done.data)
        except (CannotInlay, UsageError) as error:
            told = f"It cannot be made like {like}: {error}" if isinstance(error, CannotInlay) else str(error)
            return InlayResult(new.file, problem=told)
        except OSError as error:
            return InlayResult(new.file, problem=f"It cannot be read: {error.strerror}.")
        return InlayResult(new.file, ("the whole page",), after=done.data if keep else b"")

    def _relative_to(self, file: str) -> str:
        """Where a page stands, if links are written relative to that."""
        return file if self.plan.addresses.varies else ""

    def _head(self, page: _Page) -> dict[str, str]:
        """What the map says in place of what the head of a page says."""
        plan = self._plans[page.language]
        said = plan.site.pages[page.key]
        given = {
            "title": plan.head_title(page.key, said.title),
            "description": said.description or "",
            "canonical": plan.addresses.canonical(page.key) or "",
        }
        return {name: str(escape(text)) for name, text in given.items() if name in self.plan.site.inlay.replace}
