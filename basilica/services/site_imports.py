"""A site that exists, brought in: read, reported, made into a map, and proved against what it was."""

from __future__ import annotations

import secrets
import threading
from collections.abc import Callable, Collection, Mapping
from dataclasses import dataclass, replace
from pathlib import Path
from urllib.parse import quote

from cachetools import LRUCache

from basilica.core.build import Build, build
from basilica.core.compile import Compiled, compile_map
from basilica.core.exchange.site_import import ImportedSite, analyse
from basilica.core.exchange.site_import.lost_things import lost_things
from basilica.core.exchange.site_import.lost_words import lost_heads, lost_words
from basilica.core.exchange.site_import.map_text import with_levels
from basilica.core.exchange.site_import.moved_site import MovedSite, moved_site
from basilica.core.exchange.site_import.old_page import OldPage, can_be_compared
from basilica.core.findings import CHECKS
from basilica.core.map.map_files import Files
from basilica.core.map.site import Base
from basilica.core.plan.old_addresses import AddressAnswer, Answer
from basilica.core.rules import limits
from basilica.core.shared.output_file import File
from basilica.core.site_reader.link_resolver import Resolver
from basilica.services.address_check import look_up
from basilica.services.job_queue import Job, JobQueue, Stopped
from basilica.services.site_stays import SiteStay, stay_site
from basilica.store.errors import UsageError
from basilica.store.folders import must_be_new, write_atomically
from basilica.store.records import NotFound

_REASON = "It was so when the site was imported. Fix it, and remove this."


@dataclass(frozen=True)
class SiteImport:
    """A site that was read, and what becomes of it: the map with its files, the build of it, and what each address of
    the old pages answers there. ``left`` are the codes of what is wrong with the old pages and stops no build."""

    site: ImportedSite
    moved: MovedSite
    build: Build
    answers: tuple[AddressAnswer, ...]
    left: tuple[str, ...]

    @property
    def answering(self) -> int:
        """How many of the old addresses answer as before, or redirect."""
        return sum(one.answer is not Answer.NOWHERE for one in self.answers)


def import_site(
    files: tuple[File, ...],
    base: Base | None = None,
    main: str = "",
    step: Callable[[], None] = lambda: None,
    exceptions: Collection[str] = (),
) -> SiteImport:
    """Read a site and make its map. ``main`` names the menu to take for the main one, ``exceptions`` the pages which
    differ on purpose. Raises ``UsageError`` where there is no page, or no such menu."""
    if not can_be_compared(files):
        most = f"{limits.IMPORTED_PAGES_BYTES:,} bytes"
        raise UsageError(f"The pages have more than {most} together. Bring in a part of the site at a time.")
    site = analyse(files, base, main, step)
    if site is None:
        raise UsageError("There is no page in this: no file that ends with .html or .htm and holds one.")
    if main and (site.main is None or site.main.name != main):
        known = ", ".join(f"`{menu.name}`" for menu in site.menus) or "none"
        raise UsageError(f"There is no menu `{main[:80]}`. Found: {known}.")
    unknown = next((name for name in exceptions if name not in site.pages), None)
    if unknown is not None:
        raise UsageError(f"There is no page {unknown[:200]} in this site.")
    moved = moved_site(site, {file.path: file.data for file in files}, exceptions)
    beside = Files(moved.files)
    compiled = compile_map(moved.text, beside)
    made = build(compiled, moved.contents, step)
    settable = {check.code for check in CHECKS}
    left = tuple(sorted({finding.code for finding in made.findings if finding.stops} & settable))
    if left:
        moved = replace(moved, text=with_levels(moved.text, left, _REASON))
        compiled = compile_map(moved.text, beside)
        made = build(compiled, moved.contents, step)
    pages_of = {name: page.page for each in site.in_languages for name, page in each.pages.items()}
    new = _pages_made(moved, compiled, made)
    by_name = {name: file.data for name, file in new.items()}
    lost = (
        *lost_words(pages_of, by_name),
        *lost_heads(pages_of, by_name),
        *_lost_things(site, pages_of, new, made, compiled),
    )
    moved = replace(moved, notes=(*moved.notes, *lost))
    answers: tuple[AddressAnswer, ...] = ()
    if compiled.plan is not None and not compiled.stops:
        pages = [name for each in site.in_languages for name in each.pages]
        old = [*pages, *(name for page in site.pages.values() for name in page.was), *site.gone]
        answers = look_up(compiled, moved.contents, tuple("/" + quote(name) for name in old))
    return SiteImport(site, moved, made, answers, left)


def _lost_things(
    site: ImportedSite, pages: Mapping[str, OldPage], new: Mapping[str, File], made: Build, compiled: Compiled
) -> tuple[str, ...]:
    """Messages about what is lost beside words; none where nothing was built."""
    if compiled.plan is None:
        return ()
    same = {file.path: name for name, file in new.items()}
    for each in site.in_languages:
        same |= {was: name for name, page in each.pages.items() for was in page.was}
    resolver = Resolver((file.path for file in made.files), compiled.plan)
    return lost_things(pages, lambda file, href: site.follow(pages[file], href), new, resolver, same)


def _pages_made(moved: MovedSite, compiled: Compiled, made: Build) -> dict[str, File]:
    """What was built of the old pages, by their old file."""
    built, found = {file.path: file for file in made.files}, {}
    for file, key in moved.keys.items():
        tag = moved.languages.get(file, "")
        plan = compiled.plan.languages.get(tag) if compiled.plan is not None and tag else compiled.plan
        if plan is not None and key in plan.routes and plan.routes[key].file in built:
            found[file] = built[plan.routes[key].file]
    return found


_KEPT = 3
"""Readings that are remembered, the newest."""


@dataclass(frozen=True, slots=True)
class ReadSite:
    """What was read: its files, where it lives, the folder that it lies in, and the work on it."""

    files: tuple[File, ...]
    base: Base | None
    folder: Path | None
    job: Job[SiteImport]


class SiteImports:
    """Reads sites in the background. Each reading has a token by which it is asked for; nothing of it is written."""

    def __init__(self, queue: JobQueue) -> None:
        self._queue = queue
        self._known: LRUCache[str, ReadSite] = LRUCache(_KEPT)
        self._stays: LRUCache[tuple[str, frozenset[str]], Job[SiteStay]] = LRUCache(_KEPT)
        self._lock = threading.Lock()

    def begin(
        self, files: tuple[File, ...], base: Base | None = None, main: str = "", folder: Path | None = None
    ) -> str:
        """Begin to read a site; gives the token of that. ``folder`` is where it lies on this machine, if it does."""

        def work(job: Job[SiteImport]) -> SiteImport:
            job.total = 3 * len(files)
            try:
                return import_site(files, base, main, job.step)
            except UsageError as error:
                job.reason = str(error)
                raise Stopped from error

        token, job = secrets.token_urlsafe(16), Job(work)
        with self._lock:
            self._known[token] = ReadSite(files, base, folder, job)
        self._queue.add(job)
        return token

    def again(self, token: str, main: str) -> str:
        """Read the same site with another main menu. Raises ``NotFound`` for a token that is not known."""
        known = self.reading(token)
        return self.begin(known.files, known.base, main, known.folder)

    def reading(self, token: str) -> ReadSite:
        """What was read, with where it came from. Raises ``NotFound`` for a token that is not known."""
        with self._lock:
            known = self._known.get(token)
        if known is None:
            raise NotFound("This reading is not kept any more. Begin again.")
        return known

    def stay(self, token: str, left: frozenset[str]) -> Job[SiteStay]:
        """What becomes of the pages of a site that was read, if they stay where they are; worked out once. ``left``
        names those that are exceptions. Raises ``NotFound``."""
        known = self.reading(token)

        def work(job: Job[SiteStay]) -> SiteStay:
            found = known.job.result
            if found is None:
                raise NotFound("The site was not read.")
            job.total = len(found.site.pages)
            try:
                return stay_site(found.site, known.files, left, str(known.folder or ""), job.step)
            except UsageError as error:
                job.reason = str(error)
                raise Stopped from error

        with self._lock:
            job = self._stays.get((token, left))
            if job is None or job.is_stopped:
                job = self._stays[token, left] = Job(work)
                self._queue.add(job)
        return job

    def job(self, token: str) -> Job[SiteImport] | None:
        """The reading of a token."""
        with self._lock:
            known = self._known.get(token)
        return known.job if known is not None else None

    def stop(self, token: str) -> None:
        """Stop a reading, and forget it."""
        with self._lock:
            known = self._known.pop(token, None)
        if known is not None:
            known.job.stop()


def with_exceptions(found: SiteImport, files: tuple[File, ...], exceptions: Collection[str]) -> MovedSite:
    """What becomes of a site that was read, where some pages differ on purpose."""
    if not exceptions:
        return found.moved
    moved = moved_site(found.site, {file.path: file.data for file in files}, exceptions)
    return replace(moved, text=with_levels(moved.text, found.left, _REASON))


def write_import(found: SiteImport, out: Path) -> None:
    """Write the map, the content and the files into a folder that is new or empty. Raises ``UsageError``."""
    must_be_new(out)
    for name, data in found.moved.files.items():
        write_atomically(out / name, data)
    for content in found.moved.contents.values():
        write_atomically(out / content.name, content.text.encode("utf-8"))
    write_atomically(out / "site.yaml", found.moved.text.encode("utf-8"))
