"""The commands for sites that exist: import, inlay."""

from __future__ import annotations

import os
import sys
from pathlib import Path

import click

from basilica.cli.common import FORMAT, MAP, must_be_a_file, report_findings, source_of
from basilica.cli.printing import print_import, print_inlay, print_stay
from basilica.cli.progress import Steps
from basilica.core.compile import compile_map
from basilica.core.map.site.settings_reader import parse_base
from basilica.services.inlays import FolderInlay, files_with, names_below, pages_folder
from basilica.services.site_imports import import_site, write_import
from basilica.services.site_stays import stay_site, undo_stay, write_stay
from basilica.store.errors import UsageError
from basilica.store.folders import must_be_new
from basilica.store.site_archives import read_site


@click.command("import")
@click.argument("source", metavar="SITE", type=click.Path(path_type=Path))
@click.option("--out", type=click.Path(path_type=Path), help="A new folder for the map, the content and the files.")
@click.option("--base", help="The address of the site, such as https://mill.example; by default what its pages say.")
@click.option("--menu", "menu", default="", help="The menu to use as the main one, by its name in the report.")
@click.option(
    "--stay", is_flag=True, help="Leave the pages in SITE, with marks around the shared parts, and make a map for them."
)
@click.option(
    "--leave", "left", multiple=True, metavar="FILE", help="A page that differs on purpose and stays as it is."
)
@FORMAT
def import_command(
    source: Path, out: Path | None, base: str | None, menu: str, stay: bool, left: tuple[str, ...], form: str
) -> None:
    """Read an existing site, in a folder or a ZIP archive SITE, and report what was found; with --out make its map.

    Its pages move into the new site, which Basilica builds; with --stay they remain where they are,
    and `basilica inlay` inserts the shared parts into them."""
    lives, reason = parse_base(base) if base else (None, "")
    if reason:
        raise click.UsageError(f"`--base`: the address {reason}. Write it as https://host or https://host/path.")
    if stay and not source.is_dir():
        raise click.UsageError(f"{source} is not a folder, so its pages cannot stay there. Unpack it first.")
    try:
        if out is not None:
            must_be_new(out)
        files = read_site(source)
        with Steps("Reading", 3 * len(files)) as steps:
            found = import_site(files, lives, menu, steps.step, left)
        print_import(found, form)
        if stay:
            where = os.path.relpath(source.resolve(), out.resolve()) if out is not None else ""
            staying = stay_site(found.site, files, left, where)
            print_stay(staying)
            if out is not None:
                write_stay(staying, source, out)
                click.echo(f"Wrote {out / 'site.yaml'}, and marks into {staying.marked} pages.", err=True)
        elif out is not None:
            write_import(found, out)
            click.echo(
                f"Wrote {out / 'site.yaml'}, the content of {len(found.moved.contents)} pages, and files.", err=True
            )
    except UsageError as error:
        raise click.UsageError(str(error)) from error


@click.command()
@MAP
@click.argument("folder", type=click.Path(path_type=Path), required=False)
@click.option("--place", is_flag=True, help="Add marks to pages that lack them.")
@click.option(
    "--make", is_flag=True, help="Make the pages of MAP that are missing in FOLDER, with a place for their text."
)
@click.option(
    "--like",
    default="",
    metavar="FILE",
    help="The page of FOLDER to use as a model for new ones; by default the home page.",
)
@click.option("--dry-run", is_flag=True, help="Show what would change, and write nothing.")
@click.option("--overwrite", is_flag=True, help="Write over what somebody changed between marks since.")
@click.option("--undo", is_flag=True, help="Undo `basilica import --stay`: restore the pages as they were before it.")
@click.option("--diff", "differences", is_flag=True, help="Print the changes as a unified diff.")
@click.option(
    "--check", "checking", is_flag=True, help="Like --dry-run; the exit status is 1 if anything would change."
)
def inlay(
    map_path: Path,
    folder: Path | None,
    place: bool,
    make: bool,
    like: str,
    dry_run: bool,
    overwrite: bool,
    undo: bool,
    differences: bool,
    checking: bool,
) -> None:
    """Insert the shared parts of the map MAP into the pages in FOLDER, between their marks.

    Without FOLDER, it is the one at `inlay: folder:` in the map."""
    if folder is None:
        folder = _pages_of(map_path)
    if undo:
        try:
            for file, words in undo_stay(map_path, folder, not (dry_run or checking)):
                click.echo(f"{folder / file} {words}.")
        except UsageError as error:
            raise click.UsageError(str(error)) from error
        return
    source = source_of(map_path)
    compiled = compile_map(source.map, files_with(source.files, names_below(folder)))
    if compiled.plan is None or compiled.stops:
        report_findings(compiled.findings, source, "text", to_errors=True)
        return
    writes = not (dry_run or checking)
    try:
        setting = FolderInlay(compiled.plan, source.contents, folder, place, overwrite)
        with Steps("Setting in", len(setting.pages)) as steps:
            keep = len(setting.pages) + 100 if differences else 0
            report = setting.run(writes, steps.step, keep, like if make else None)
    except UsageError as error:
        raise click.UsageError(str(error)) from error
    print_inlay(report, folder, writes, differences)
    others = len(compiled.plan.headers_of)
    if others and "header" in setting.used:
        click.echo(
            f"{others} pages have a header of their own. Write `data-b-header` on their `html` yourself, with the"
            " number that the built page has; it is outside the marks.",
            err=True,
        )
    sys.exit(1 if report.problems or (checking and report.changed) else 0)


def _pages_of(map_path: Path) -> Path:
    """The folder of the pages into which a map is set, as the map says it."""
    must_be_a_file(map_path, "used without FOLDER")
    source = source_of(map_path)
    folder = pages_folder(compile_map(source.map, source.files).plan, map_path.parent)
    if folder is None:
        raise click.UsageError(f"Name the folder of the pages, or write it into {map_path} under `inlay: folder:`.")
    return folder
