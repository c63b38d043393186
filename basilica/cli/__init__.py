"""The command line. Exit status: 0 clean, 1 findings that stop a build, 2 misuse."""

from __future__ import annotations

import contextlib
import json
import os
import sys
from collections.abc import Callable
from pathlib import Path
from typing import Any, TextIO

import click

from basilica import __version__
from basilica.cli.configured import configured
from basilica.cli.printing import changes_line, print_addresses, print_adopting, print_import, print_inlay, print_stay
from basilica.cli.progress import Stages, Steps
from basilica.cli.publishing import compare, host, live, publish_command
from basilica.cli.reporting import ReportOptions, reporting
from basilica.core.build import build as build_in_memory
from basilica.core.build import site_readers, stage_findings
from basilica.core.build import steps as build_steps
from basilica.core.compile import compile_map
from basilica.core.content.pictures import WIDTHS, PictureLeft, smaller_pictures
from basilica.core.edits import EditRejected
from basilica.core.findings import CheckResults, run_checks
from basilica.core.findings.reports import FORMATS, Report
from basilica.core.findings.reports.text_report import line_of
from basilica.core.map.site.settings_reader import parse_base
from basilica.core.outputs.kits.route_clashes import route_clashes
from basilica.core.outputs.kits.setting_in import KITS, ApplicationNames, steps
from basilica.core.outputs.output_formats import OUTPUT_FORMATS
from basilica.core.own_templates import FOLDER as TEMPLATE_FOLDER
from basilica.core.own_templates import NAMES as TEMPLATES
from basilica.core.own_templates.template_set import starting
from basilica.core.plan.old_addresses import Answer
from basilica.core.plan.route_table import route_rows
from basilica.core.rules.finding import Finding
from basilica.core.site_reader import SiteReader
from basilica.services.address_check import look_up_addresses
from basilica.services.application_folder import application_names
from basilica.services.audits import audit_folder, built_files, is_reported, read_files_of
from basilica.services.fixing import fix_old_words
from basilica.services.folder_builds import Built, build_folder
from basilica.services.inlays import FolderInlay, files_with, names_below, pages_folder
from basilica.services.known_addresses import note_build
from basilica.services.site_imports import import_site, write_import
from basilica.services.site_stays import stay_site, undo_stay, write_stay
from basilica.store.errors import UsageError
from basilica.store.folders import Source, must_be_new, read_source, write_atomically
from basilica.store.site_archives import read_site

MAP = click.argument("map_path", metavar="MAP", type=click.Path(path_type=Path))
FORMAT = click.option(
    "--format", "form", type=click.Choice(["text", "json"]), default="text", help="How to print: text or json."
)
DATA = click.option(
    "--data",
    type=click.Path(path_type=Path, file_okay=False),
    help="The folder of the database; by default in your user's data folder.",
)
DRAFTS = click.option("--drafts", is_flag=True, help="Build drafts too; nothing links to them.")


@click.group(context_settings={"help_option_names": ["-h", "--help"]})
@click.version_option(__version__, prog_name="basilica")
def main() -> None:
    """Makes every page of a site share one navigation, from one page map."""


@main.command()
@MAP
@reporting
@DRAFTS
@click.option(
    "--built",
    type=click.Path(path_type=Path),
    help="A folder that was built before; it is read instead of building in memory.",
)
@click.option(
    "--fix", is_flag=True, help="First replace old words of the map language in MAP and the files it includes."
)
def check(map_path: Path, report_options: ReportOptions, drafts: bool, built: Path | None, fix: bool) -> None:
    """Read the map MAP and its content, build the site in memory, check it, and report every finding."""
    source = _source(map_path)
    if fix:
        try:
            for file, count in fix_old_words(map_path, lambda read: compile_map(read.map, read.files).findings).items():
                click.echo(f"{file}: {count} old word{'' if count == 1 else 's'} replaced.", err=True)
        except UsageError as error:
            raise click.UsageError(str(error)) from error
        source = _source(map_path)
    compiled = compile_map(source.map, source.files)
    if built is not None and compiled.plan is not None and not compiled.stops:
        readers = site_readers(compiled.plan, source.contents)
        results = tuple(_read_again(built, reader) for reader in readers)
        found = stage_findings(compiled, source.contents)
    else:
        with Steps("Checking", build_steps(compiled.plan, drafts) if compiled.plan else 0) as steps:
            made = build_in_memory(compiled, source.contents, steps.step, drafts)
        results, found = made.of_languages, made.of_stages
    report_options.give(source.name, str(Path(source.name).parent), source.findings + found, results)


@main.command()
@MAP
@click.option(
    "--width", "widths", multiple=True, type=click.IntRange(16, 8000), help="How wide, in pixels; may be repeated."
)
def pictures(map_path: Path, widths: tuple[int, ...]) -> None:
    """Make smaller versions of the pictures of the map MAP, which pages use on smaller screens."""
    folder = map_path.parent / "files"
    files = _source(map_path).files
    left = False
    for made in smaller_pictures({name: files[f"files/{name}"] for name in files.under("files")}, widths or WIDTHS):
        if isinstance(made, PictureLeft):
            left = True
            click.echo(f"files/{made.name}: not used, because {made.why}.", err=True)
            continue
        try:
            write_atomically(folder / made[0], made[1])
        except UsageError as error:
            raise click.UsageError(str(error)) from error
        click.echo(f"files/{made[0]}: {len(made[1]):,} bytes.")
    sys.exit(1 if left else 0)


@main.command()
@MAP
@click.argument("names", nargs=-1, metavar="[NAME]...", type=click.Choice(TEMPLATES))
def templates(map_path: Path, names: tuple[str, ...]) -> None:
    """Write the built-in templates NAME, or all, beside the map MAP, for you to change. Existing
    templates are not touched."""
    folder, left = map_path.parent / TEMPLATE_FOLDER, False
    _source(map_path)
    for name in names or TEMPLATES:
        path = folder / f"{name}.html"
        if path.exists():
            left = True
            click.echo(f"{path} exists already and was not changed.", err=True)
            continue
        try:
            write_atomically(path, starting(name).encode())
        except UsageError as error:
            raise click.UsageError(str(error)) from error
        click.echo(f"{path}: written. docs/own-templates.md says what it sees.")
    sys.exit(1 if left else 0)


@main.command()
@click.argument("folder", metavar="DIR", type=click.Path(path_type=Path))
@click.option(
    "--base", help="The address of the site, such as https://mill.example; by default what its home page says."
)
@click.option("--served", multiple=True, help="An address that other code answers, such as /tickets/; may be repeated.")
@click.option("--include", multiple=True, help="Report only on files that match: 'manual/*'; may be repeated.")
@click.option("--exclude", multiple=True, help="Do not report on files that match: 'old/*'; may be repeated.")
@reporting
def audit(
    folder: Path,
    report_options: ReportOptions,
    base: str | None,
    served: tuple[str, ...],
    include: tuple[str, ...],
    exclude: tuple[str, ...],
) -> None:
    """Read a built site in the folder DIR, from any tool, run the checks that need no map, and compare its pages."""
    lives, reason = parse_base(base) if base else (None, "")
    if reason:
        raise click.UsageError(f"`--base`: the address {reason}. Write it as https://host or https://host/path.")
    try:
        files = built_files(folder)
        with Steps("Reading", len(files)) as steps:
            audited = audit_folder(folder, files, lives, served, steps.step)
    except UsageError as error:
        raise click.UsageError(str(error)) from error
    results = audited.results
    if not results.built.pages:
        raise click.UsageError(f"{folder} has no pages: no file in it ends with .html.")
    if results.built.home is None:
        message = f"There is no index.html in {folder}, so what can be reached from the home page was not looked at."
        click.echo(message, err=True)
    found = (one for one in audited.of_pages if is_reported(one.built, include, exclude))
    wanted = results.of_files(lambda file: is_reported(file, include, exclude))
    report_options.give(str(folder), str(folder), tuple(found), (wanted,))


@main.command()
@MAP
@click.option("--out", required=True, type=click.Path(path_type=Path), help="The folder to build into.")
@click.option("--force", is_flag=True, help="Overwrite files that Basilica did not write, or that were changed since.")
@DRAFTS
@click.option(
    "--output",
    type=click.Choice(list(OUTPUT_FORMATS)),
    default="site",
    show_default=True,
    help="What to make: "
    + "; ".join(f"{kind.name}, {kind.title[0].lower()}{kind.title[1:]}" for kind in OUTPUT_FORMATS.values()),
)
@click.option("--compress", is_flag=True, help="Add compressed copies, .gz and .br, of every text file.")
@DATA
def build(map_path: Path, out: Path, force: bool, drafts: bool, output: str, compress: bool, data: Path | None) -> None:
    """Build the site of the map MAP, check the built files, and put them in place if no error stops the build.

    If the application has the folder of MAP as a site, it remembers the addresses, and redirects them
    when pages move."""
    source = _source(map_path)
    with Stages() as stages:
        try:
            built = build_folder(source, out, force, stages.begin, drafts, OUTPUT_FORMATS[output], compress)
        except UsageError as error:
            raise click.UsageError(str(error)) from error
    if built.files and built.compiled.plan is not None:
        with contextlib.suppress(UsageError):  # a build needs no settings of the application
            note_build(configured(data=data).data, map_path.parent, built.compiled.plan)
    page_end = f"Built {built.files} files in {out}." if built.files else _not_built(built, source, out)
    if built.changes:
        page_end += f" {changes_line(built.changes)}"
    if built.left:
        count = f"{len(built.left):,} file{'s' if len(built.left) > 1 else ''}"
        page_end += f" Left alone: {count} that Basilica did not write, such as {built.left[0]}."
    if built.copies is not None:
        page_end += f" Copies of the files that it wrote over are in {built.copies}."
    _report(built.findings, source, "text", page_end)


@main.command()
@MAP
@click.argument("output", metavar="OUTPUT", type=click.Choice(KITS))
@click.option(
    "--app",
    type=click.Path(path_type=Path),
    help="The folder of the application; the instructions then name its own files.",
)
@click.option(
    "--routes",
    type=click.File("r"),
    help="A list of the application's routes, such as `flask routes` prints it, or - for standard input.",
)
@click.option("--mount", default=None, help="The path under which the pages will be; by default the one in the map.")
def adopt(map_path: Path, output: str, app: Path | None, routes: TextIO | None, mount: str | None) -> None:
    """Show how to add OUTPUT (flask, django, express, typescript, includes) to an existing application,
    and which of its routes clash with pages of the map MAP. Exits with 1 if any do."""
    compiled = compile_map((source := _source(map_path)).map, source.files)
    if compiled.plan is None or compiled.stops:
        _report(compiled.findings, source, "text", "The map has errors.")
        return
    plan = compiled.plan
    try:
        names = application_names(app, output) if app is not None else ApplicationNames()
    except UsageError as error:
        raise click.UsageError(str(error)) from error
    clashes = route_clashes(routes.read(), plan, mount) if routes else []
    print_adopting(steps(output, plan, names), clashes)
    sys.exit(1 if clashes else 0)


@main.command()
@MAP
@click.option("--out", required=True, type=click.Path(path_type=Path), help="The folder to build into.")
@click.option("--force", is_flag=True, help="Overwrite files that Basilica did not write, or that were changed since.")
@click.option("--port", default=8002, show_default=True, help="The port on 127.0.0.1 at which the site is served.")
def watch(map_path: Path, out: Path, force: bool, port: int) -> None:
    """Build the site of the map MAP on every save, serve it on loopback, and reload the open page."""
    from basilica.web.watching import watch as watch_site

    def say(built: Built) -> None:
        stops = [finding for finding in built.findings if finding.stops]
        for finding in stops:
            report = Report(str(map_path), str(map_path.parent), ())
            click.echo(line_of(report, finding), err=True)
        click.echo(
            f"Built {built.files} files." if built.files else "Nothing was built; the last site without errors is up."
        )

    try:
        watch_site(map_path, out, force, port, say, click.echo)
    except UsageError as error:
        raise click.UsageError(str(error)) from error


@main.command()
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
    source = _source(map_path)
    compiled = compile_map(source.map, files_with(source.files, names_below(folder)))
    if compiled.plan is None or compiled.stops:
        _report(compiled.findings, source, "text", to_errors=True)
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


@main.command()
@MAP
@FORMAT
@DRAFTS
def routes(map_path: Path, form: str, drafts: bool) -> None:
    """Print the route of every page of the map MAP."""
    source = _source(map_path)
    compiled = compile_map(source.map, source.files)
    if compiled.plan is None or compiled.stops:
        _report(compiled.findings, source, "text", to_errors=True)
        return
    rows = route_rows(compiled.plan, drafts)
    if form == "json":
        click.echo(json.dumps(rows, ensure_ascii=False, indent=2))
        return
    widths = [max(len(str(row[column])) for row in rows) for column in ("path", "file", "key")]
    for row in rows:
        cells = (
            row["path"].ljust(widths[0]),
            row["file"].ljust(widths[1]),
            row["key"].ljust(widths[2]),
            row["title"],
        )
        click.echo("  ".join(cells))


@main.command()
@MAP
@click.option(
    "--old",
    "old",
    required=True,
    type=click.Path(path_type=Path),
    help="The addresses of the old site: a list, a table (CSV), a sitemap, or a server's access log.",
)
@click.option("--format", "form", type=click.Choice(["text", "csv", "json"]), default="text", show_default=True)
@click.option("--write", is_flag=True, help="Write the ones that lead nowhere into MAP, for the nearest page.")
def addresses(map_path: Path, old: Path, form: str, write: bool) -> None:
    """Look up the addresses of an old site in the map MAP: what each answers, and which lead nowhere."""
    try:
        told = look_up_addresses(map_path, old, write)
    except (UsageError, EditRejected) as error:
        raise click.UsageError(str(error)) from error
    if isinstance(told, Source):
        _report(compile_map(told.map, told.files).findings, told, "text", to_errors=True)
        return
    print_addresses(told, form)
    sys.exit(1 if any(each.answer is Answer.NOWHERE for each in told.found) else 0)


@main.command("import")
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


def _serving(function: Callable[..., None]) -> Callable[..., None]:
    """The options of the commands that serve the application."""
    options = (
        click.option("--host", help="The address to listen on: by default 127.0.0.1."),
        click.option("--port", type=int, help="The application's port: by default 8000."),
        click.option("--preview-port", type=int, help="The port of the previews: by default 8001."),
        click.option("--origin", help="The application's origin as browsers see it, behind a proxy."),
        click.option("--preview-origin", help="The previews' origin as browsers see it, behind a proxy."),
        click.option(
            "--allowed-host", "allowed_hosts", multiple=True, help="Another host name that the application answers to."
        ),
        click.option(
            "--folder",
            "folders",
            multiple=True,
            type=click.Path(path_type=Path, file_okay=False),
            help="A folder with a site.yaml, or with folders that have one: sites that are kept in files.",
        ),
        DATA,
    )
    for option in reversed(options):
        function = option(function)
    return function


@main.command()
@_serving
def serve(**options: Any) -> None:
    """Serve the application."""
    _serve(demo=False, **options)


@main.command()
@_serving
def demo(**options: Any) -> None:
    """Serve the application with the demo site in it."""
    _serve(demo=True, **options)


@main.command()
@click.option("--stdin", "from_stdin", is_flag=True, help="Read it from standard input, one line.")
@DATA
def password(from_stdin: bool, data: Path | None) -> None:
    """Set the password for the application; everybody who is signed in is signed out."""
    from basilica.store.password import Password

    if from_stdin:
        given = sys.stdin.readline().rstrip("\r\n")
    else:
        given = click.prompt("Password", hide_input=True, confirmation_prompt=True)
    try:
        Password(configured(data=data).data).set(given)
    except UsageError as error:
        raise click.UsageError(str(error)) from error
    click.echo("The password is set.")


for command in (compare, publish_command, live, host):
    main.add_command(command)


def _serve(demo: bool, folders: tuple[Path, ...], **options: object) -> None:
    from basilica.web.serving import serve as serve_application

    try:
        serve_application(configured(**options), demo, folders)
    except UsageError as error:
        raise click.UsageError(str(error)) from error


def _read_again(folder: Path, reader: SiteReader) -> CheckResults:
    """A built folder, read and examined."""
    try:
        files = built_files(folder)
        with Steps("Reading", len(files)) as steps:
            return run_checks(read_files_of(files, reader, steps.step))
    except UsageError as error:
        raise click.UsageError(str(error)) from error


def _pages_of(map_path: Path) -> Path:
    """The folder of the pages into which a map is set, as the map says it."""
    source = _source(map_path)
    folder = pages_folder(compile_map(source.map, source.files).plan, map_path.parent)
    if folder is None:
        raise click.UsageError(f"Name the folder of the pages, or write it into {map_path} under `inlay: folder:`.")
    return folder


def _source(path: Path) -> Source:
    try:
        return read_source(path)
    except UsageError as error:
        raise click.UsageError(str(error)) from error


def _not_built(built: Built, source: Source, out: Path) -> str:
    """Why nothing was built: the errors among all findings, each with its place."""
    errors = [finding for finding in built.findings if finding.stops]
    report = Report(source.name, str(Path(source.name).parent), ())
    listed = "\n".join(line_of(report, finding) for finding in errors[:10])
    more = f"\nAnd {len(errors) - 10:,} more." if len(errors) > 10 else ""
    count = f"{len(errors):,} error{'' if len(errors) == 1 else 's'}"
    return f"Nothing was built; {out} is as it was. {count}:\n{listed}{more}"


def _report(
    findings: tuple[Finding, ...], source: Source, form: str, page_end: str = "", to_errors: bool = False
) -> None:
    """Print findings and end with the exit status that they ask for."""
    report = Report(source.name, str(Path(source.name).parent), findings)
    click.echo(FORMATS[form](report), nl=False, err=to_errors)
    if form == "text":
        click.echo(page_end or report.counted, err=True)
    sys.exit(1 if report.failing else 0)
