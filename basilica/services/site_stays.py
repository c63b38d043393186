"""A site that exists and stays as it is: marks are set into its pages, and what changes in them is proved, byte for
byte, and can be taken back."""

from __future__ import annotations

import io
import shutil
import zipfile
from collections.abc import Callable, Collection, Iterable, Iterator
from dataclasses import dataclass, replace
from pathlib import Path

from basilica.core.compile import Compiled, compile_map
from basilica.core.diff.page_patch import patch
from basilica.core.exchange.site_import import ImportedSite
from basilica.core.exchange.site_import.map_text import with_levels
from basilica.core.exchange.site_import.old_page import PAGE_ENDINGS
from basilica.core.exchange.site_import.stayed_site import StayedSite, stayed_site
from basilica.core.findings import CHECKS
from basilica.core.outputs.inlay import (
    CannotInlay,
    inlay,
    marked_regions_of,
    names_in,
    outside_marks,
    region_names,
    with_marks,
    without_marks,
)
from basilica.core.outputs.inlay.inlay_marks import changed_since
from basilica.core.outputs.static_site import Renderer
from basilica.core.shared.output_file import File
from basilica.services.inlay_record import InlayRecord
from basilica.services.inlays import files_with
from basilica.store.errors import UsageError
from basilica.store.folders import must_be_new, place_in, write_atomically

BEFORE, PROOF = "before.zip", "changes.diff"
_REASON = "It was so when the site was imported. Fix it, and remove this."
_ALIKE = 0.8
"""On so many pages breadcrumbs must come out as they were to be set in from now on."""


@dataclass(frozen=True, slots=True)
class PageChange:
    """What becomes of a page: its bytes as they were, with marks alone, and with what the map says between them."""

    file: str
    before: bytes
    marked: bytes
    after: bytes
    mended: tuple[str, ...] = ()
    """The regions that say something else than before."""
    problem: str = ""

    @property
    def only_marks(self) -> bool:
        """Whether nothing but the marks is new."""
        return self.marked == self.after


@dataclass(frozen=True, slots=True)
class SiteStay:
    """A site that stays: what was found, its map with what stands beside it, and what becomes of each page."""

    site: ImportedSite
    stayed: StayedSite
    compiled: Compiled
    changes: tuple[PageChange, ...]

    @property
    def mended(self) -> tuple[PageChange, ...]:
        """The pages in which more than marks is new."""
        return tuple(one for one in self.changes if not one.only_marks)

    @property
    def marked(self) -> int:
        """How many pages change."""
        return sum(one.before != one.after for one in self.changes)

    def proof(self) -> bytes:
        """Every byte that changes, as a unified diff."""
        return b"".join(patch(one.file, one.before, one.after) for one in self.changes)


def stay_site(
    site: ImportedSite,
    files: Iterable[File],
    left: Collection[str] = (),
    folder: str = "",
    step: Callable[[], None] = lambda: None,
) -> SiteStay:
    """Work out the marks of a site that was read, and what comes between them. ``left`` names pages whose differing
    regions are exceptions that stay; ``folder`` is where the pages are, for the map to say. Raises ``UsageError`` for a
    name of no page."""
    by_name = {file.path: file.data for file in files}
    pages = [name for each in site.in_languages for name in each.pages]
    marked = [name for name in pages if names_in(by_name[name]) and without_marks(by_name[name]) != by_name[name]]
    if marked:
        more = f" and {len(marked) - 1:,} more pages have" if len(marked) > 1 else " has"
        raise UsageError(
            f"{marked[0]}{more} marks already. `basilica inlay` sets a map into them, and its `--undo` takes marks out."
        )
    unknown = next((name for name in left if name not in pages), None)
    if unknown is not None:
        raise UsageError(f"There is no page {unknown[:200]} in this site.")
    found = _of(stayed_site(site, left, True, folder), site, by_name, step)
    differs = {(one.file, one.block) for each in site.in_languages for one in each.drift}
    mended = [(one.file, region) for one in found.changes for region in one.mended]
    own = {  # the same words, written in another way: a link that is marked there as the current one, say
        (file, region)
        for file, region in mended
        if region.startswith("part ") and (file, found.stayed.regions[region]) not in differs and file not in left
    }
    unmarked = own | {(file, region) for file, region in mended if file in left}
    if unmarked:
        found = _of(stayed_site(site, left, True, folder, unmarked), site, by_name, step)
    drawn = [one for one in found.changes if b"basilica: breadcrumbs" in one.marked]
    alike = sum(_region(one.marked, "breadcrumbs") == _region(one.after, "breadcrumbs") for one in drawn)
    if alike < _ALIKE * len(drawn):
        found = _of(stayed_site(site, left, False, folder, unmarked), site, by_name, step)
    if own:
        on = sorted({file for file, _ in own})
        regions = ", ".join(sorted({region for _, region in own}))
        where = ", ".join(on[:3]) + (" and others" if len(on) > 3 else "")
        note = f"{regions}: written differently on {where}, and left as it is."
        found = replace(found, stayed=replace(found.stayed, notes=(*found.stayed.notes, note)))
    return found


def _of(stayed: StayedSite, site: ImportedSite, by_name: dict[str, bytes], step: Callable[[], None]) -> SiteStay:
    beside = files_with(stayed.files, by_name)
    compiled = compile_map(stayed.text, beside)
    settable = {check.code for check in CHECKS}
    codes = sorted({finding.code for finding in compiled.findings if finding.stops} & settable)
    if codes:
        stayed = replace(stayed, text=with_levels(stayed.text, codes, _REASON))
        compiled = compile_map(stayed.text, beside)
    changes: list[PageChange] = []
    if compiled.plan is not None and not compiled.stops:
        plan = compiled.plan
        known = frozenset(region_names(plan))
        first = Renderer(plan, {}, menus_alone=tuple(plan.menus), stamps=False, inlaid=frozenset())
        renderers = {one.plan.site.language: one for one in (first, *first.in_other_languages)}
        for file in dict.fromkeys([*stayed.marks, *stayed.put_in]):
            key, before = stayed.keys[file], by_name[file]
            marked = with_marks(before, stayed.marks.get(file, ()))
            pieces = with_marks(before, stayed.marks.get(file, ()), stayed.put_in.get(file, ()))
            try:
                renderer = renderers[stayed.languages.get(file, plan.site.language)]
                regions = marked_regions_of(renderer, key, names_in(pieces) & known)
                done = inlay(pieces, regions, known=known, file=file if plan.addresses.varies else "")
                changes.append(PageChange(file, before, marked, done.data, done.changed))
            except CannotInlay as error:
                changes.append(PageChange(file, before, before, before, problem=str(error)))
            step()
    return SiteStay(site, stayed, compiled, tuple(changes))


def _region(data: bytes, name: str) -> bytes:
    """What stands between the marks of a region."""
    inside = data.partition(f"<!-- basilica: {name} -->".encode())[2]
    return inside.partition(f"<!-- /basilica: {name} -->".encode())[0].strip()


def write_stay(found: SiteStay, folder: Path, out: Path) -> None:
    """Write the map, what stands beside it, the proof and the pages as they were into ``out``, which is new; and then
    the pages of ``folder``. Raises ``UsageError``, also where a page is other than it was read; then all is as it
    was."""
    must_be_new(out)
    if out.resolve().is_relative_to(folder.resolve()):
        raise UsageError(f"{out} is among the pages, and would be published with them. Name a folder beside {folder}.")
    for one in found.changes:
        path = place_in(folder, one.file)
        if not path.is_file() or path.read_bytes() != one.before:
            raise UsageError(f"{path} was changed since it was read. Begin again; nothing was written.")
    for name, data in found.stayed.files.items():
        write_atomically(out / name, data)
    write_atomically(out / PROOF, found.proof())
    write_atomically(out / BEFORE, _before_and_after(found))
    write_atomically(out / "site.yaml", found.stayed.text.encode("utf-8"))
    done: list[PageChange] = []
    try:
        for one in found.changes:
            if one.before != one.after:
                write_atomically(place_in(folder, one.file), one.after)
                done.append(one)
    except UsageError:
        for one in done:
            write_atomically(place_in(folder, one.file), one.before)
        shutil.rmtree(out)
        raise


def _before_and_after(found: SiteStay) -> bytes:
    """The pages as they were and as they became, in an archive."""
    made = io.BytesIO()
    with zipfile.ZipFile(made, "w", zipfile.ZIP_DEFLATED) as archive:
        for one in found.changes:
            if one.before != one.after:
                archive.writestr(f"before/{one.file}", one.before)
                archive.writestr(f"after/{one.file}", one.after)
    return made.getvalue()


def archive_of(found: SiteStay, files: Iterable[File]) -> bytes:
    """Everything for a site that came in an archive: all its files, with marks in the pages, in `pages`; and in `map`
    the map, with what stands beside it, the proof, and the pages as they were."""
    after = {one.file: one.after for one in found.changes}
    made = io.BytesIO()
    with zipfile.ZipFile(made, "w", zipfile.ZIP_DEFLATED) as archive:
        for file in files:
            archive.writestr(f"pages/{file.path}", after.get(file.path, file.data))
        for name, data in found.stayed.files.items():
            archive.writestr(f"map/{name}", data)
        archive.writestr("map/site.yaml", found.stayed.text)
        archive.writestr(f"map/{PROOF}", found.proof())
        archive.writestr(f"map/{BEFORE}", _before_and_after(found))
    return made.getvalue()


def undo_stay(map_path: Path, folder: Path, write: bool = True) -> Iterator[tuple[str, str]]:
    """Take a site back to what it was before its marks: by file, what was done, in words. A page of which something
    outside its marks was changed since loses the marks alone, and keeps what stands between them. Raises
    ``UsageError`` where there is nothing to go back to."""
    kept = map_path.parent / BEFORE
    try:
        with zipfile.ZipFile(kept) as archive:
            pages = {name: archive.read(name) for name in archive.namelist()}
    except (OSError, zipfile.BadZipFile) as error:
        raise UsageError(f"{kept} cannot be read, and it has the pages as they were.") from error
    record, known = InlayRecord(folder), {name.partition("/")[2] for name in pages}
    for name, before in pages.items():
        kind, _, file = name.partition("/")
        if kind != "before":
            continue
        path = place_in(folder, file)
        if not path.is_file():
            yield file, "is not there any more"
            continue
        data = path.read_bytes()
        if data == before or not names_in(data):
            continue
        try:
            same = outside_marks(data) == outside_marks(pages[f"after/{file}"])
            same = same and not changed_since(data, pages[f"after/{file}"], record.of(file))
            back = before if same else without_marks(data)
        except (CannotInlay, KeyError) as error:
            yield file, f"is left as it is: {error}"
            continue
        if write:
            write_atomically(path, back)
        yield file, "is as it was" if same else "was changed since, so its marks alone were taken out"
    if write:
        record.forget()
    for path in sorted(folder.rglob("*")):
        file = path.relative_to(folder).as_posix()
        is_new = file.lower().endswith(PAGE_ENDINGS) and file not in known and path.is_file()
        if is_new and names_in(path.read_bytes()):
            yield file, "was made since, and keeps its marks"
