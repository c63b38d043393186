"""A site that exists, brought in: read, reported, made into a map, and proved against what it was."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from pathlib import Path
from urllib.parse import quote

from basilica.core.exchange.site_import import ImportedSite, analyse
from basilica.core.exchange.site_import.moved_site import MovedSite, moved_site, with_levels
from basilica.core.findings import CHECKS
from basilica.core.map.map_files import Files
from basilica.core.map.site import Base
from basilica.core.pipeline import Build, build, compile_map
from basilica.core.plan.old_addresses import AddressAnswer, Answer
from basilica.core.shared.output_file import File
from basilica.services.address_check import look_up
from basilica.store.errors import UsageError
from basilica.store.folders import write_atomically

_REASON = "So it was when the site was brought in. Mend it, and take this out."


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
    def kept(self) -> int:
        """How many of the old addresses answer as they did, or lead on."""
        return sum(one.answer is not Answer.NOWHERE for one in self.answers)


def import_site(
    files: tuple[File, ...], base: Base | None = None, main: str = "", step: Callable[[], None] = lambda: None
) -> SiteImport:
    """Read a site and make its map. ``main`` names the menu to take for the main one. Raises ``UsageError`` where there
    is no page, or no such menu."""
    site = analyse(files, base, main, step)
    if site is None:
        raise UsageError("There is no page in this: no file that ends with .html or .htm and holds one.")
    if main and (site.main is None or site.main.name != main):
        known = ", ".join(f"`{menu.name}`" for menu in site.menus) or "none"
        raise UsageError(f"There is no menu `{main[:80]}`. Found: {known}.")
    moved = moved_site(site, {file.path: file.data for file in files})
    beside = Files(moved.files)
    compiled = compile_map(moved.text, beside)
    made = build(compiled, moved.contents, step)
    settable = {check.code for check in CHECKS}
    left = tuple(sorted({finding.code for finding in made.findings if finding.stops} & settable))
    if left:
        moved = replace(moved, text=with_levels(moved.text, left, _REASON))
        compiled = compile_map(moved.text, beside)
        made = build(compiled, moved.contents, step)
    answers: tuple[AddressAnswer, ...] = ()
    if compiled.plan is not None and not compiled.stops:
        old = [*site.pages, *(name for page in site.pages.values() for name in page.was), *site.gone]
        answers = look_up(compiled, moved.contents, tuple("/" + quote(name) for name in old))
    return SiteImport(site, moved, made, answers, left)


def write_import(found: SiteImport, out: Path) -> None:
    """Write the map, the content and the files into a folder that is new or empty. Raises ``UsageError``."""
    if out.exists() and (not out.is_dir() or any(out.iterdir())):
        raise UsageError(f"{out} is there already, and is not empty. Name a new folder.")
    for name, data in found.moved.files.items():
        write_atomically(out / name, data)
    for content in found.moved.contents.values():
        write_atomically(out / content.name, content.text.encode("utf-8"))
    write_atomically(out / "site.yaml", found.moved.text.encode("utf-8"))
