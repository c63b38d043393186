"""The commands that build: build, watch; what hosts need: adopt; and what is made beside a map: pictures, templates."""

from __future__ import annotations

import contextlib
import sys
from pathlib import Path
from typing import TextIO

import click

from basilica.cli.colours import echo_findings
from basilica.cli.common import DATA, DRAFTS, MAP, MAP_HERE, must_be_a_file, report_findings, source_of
from basilica.cli.configured import configured
from basilica.cli.printing import changes_line, print_adopting
from basilica.cli.progress import Stages
from basilica.core.compile import compile_map
from basilica.core.content.pictures import WIDTHS, PictureLeft, smaller_pictures
from basilica.core.findings.reports import Report
from basilica.core.findings.reports.text_report import line_of
from basilica.core.outputs.kits.route_clashes import route_clashes
from basilica.core.outputs.kits.setting_in import KITS, ApplicationNames, steps
from basilica.core.outputs.output_formats import OUTPUT_FORMATS
from basilica.core.own_templates import FOLDER as TEMPLATE_FOLDER
from basilica.core.own_templates import NAMES as TEMPLATES
from basilica.core.own_templates.template_set import starting
from basilica.services.application_folder import application_names
from basilica.services.folder_builds import Built, build_folder
from basilica.store import DATABASE
from basilica.store.errors import UsageError
from basilica.store.folders import Source, write_atomically

OUT = click.option(
    "--out", default=Path("dist"), show_default=True, type=click.Path(path_type=Path), help="The folder to build into."
)


@click.command()
@MAP_HERE
@OUT
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
    source = source_of(map_path)
    with Stages() as stages:
        try:
            built = build_folder(source, out, force, stages.begin, drafts, OUTPUT_FORMATS[output], compress)
        except UsageError as error:
            raise click.UsageError(str(error)) from error
    if built.files and built.compiled.plan is not None:
        with contextlib.suppress(UsageError):  # a build needs no settings of the application
            folder = configured(data=data).data
            if (folder / DATABASE).is_file():
                from basilica.services.known_addresses import note_build  # a build needs no database either

                note_build(folder, map_path.parent, built.compiled.plan)
    page_end = f"Built {built.files} files in {out}." if built.files else _not_built(built, source, out)
    if built.changes:
        page_end += f" {changes_line(built.changes)}"
    if built.left:
        count = f"{len(built.left):,} file{'s' if len(built.left) > 1 else ''}"
        page_end += f" Left alone: {count} that Basilica did not write, such as {built.left[0]}."
    if built.copies is not None:
        page_end += f" Copies of the files that it wrote over are in {built.copies}."
    report_findings(built.findings, source, "text", page_end)


def _not_built(built: Built, source: Source, out: Path) -> str:
    """Why nothing was built: the errors among all findings, each with its place."""
    errors = [finding for finding in built.findings if finding.stops]
    report = Report(source.name, str(Path(source.name).parent), ())
    listed = "\n".join(line_of(report, finding) for finding in errors[:10])
    more = f"\nAnd {len(errors) - 10:,} more." if len(errors) > 10 else ""
    count = f"{len(errors):,} error{'' if len(errors) == 1 else 's'}"
    return f"Nothing was built; {out} is as it was. {count}:\n{listed}{more}"


@click.command()
@MAP_HERE
@OUT
@click.option("--force", is_flag=True, help="Overwrite files that Basilica did not write, or that were changed since.")
@click.option("--port", default=8002, show_default=True, help="The port on 127.0.0.1 at which the site is served.")
def watch(map_path: Path, out: Path, force: bool, port: int) -> None:
    """Build the site of the map MAP on every save, serve it on loopback, and reload the open page."""
    from basilica.web.watching import watch as watch_site

    must_be_a_file(map_path, "watched")

    def say(built: Built) -> None:
        stops = [finding for finding in built.findings if finding.stops]
        for finding in stops:
            report = Report(str(map_path), str(map_path.parent), ())
            echo_findings(f"{line_of(report, finding)}\n", to_errors=True)
        click.echo(
            f"Built {built.files} files." if built.files else "Nothing was built; the last site without errors is up."
        )

    try:
        watch_site(map_path, out, force, port, say, click.echo)
    except UsageError as error:
        raise click.UsageError(str(error)) from error


@click.command()
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
    compiled = compile_map((source := source_of(map_path)).map, source.files)
    if compiled.plan is None or compiled.stops:
        report_findings(compiled.findings, source, "text", "The map has errors.")
        return
    plan = compiled.plan
    try:
        names = application_names(app, output) if app is not None else ApplicationNames()
    except UsageError as error:
        raise click.UsageError(str(error)) from error
    clashes = route_clashes(routes.read(), plan, mount) if routes else []
    print_adopting(steps(output, plan, names), clashes)
    sys.exit(1 if clashes else 0)


@click.command()
@MAP
@click.option(
    "--width", "widths", multiple=True, type=click.IntRange(16, 8000), help="How wide, in pixels; may be repeated."
)
def pictures(map_path: Path, widths: tuple[int, ...]) -> None:
    """Make smaller versions of the pictures of the map MAP, which pages use on smaller screens."""
    folder = map_path.parent / "files"
    files = source_of(map_path).files
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


@click.command()
@MAP
@click.argument("names", nargs=-1, metavar="[NAME]...", type=click.Choice(TEMPLATES))
def templates(map_path: Path, names: tuple[str, ...]) -> None:
    """Write the built-in templates NAME, or all, beside the map MAP, for you to change. Existing
    templates are not touched."""
    folder, left = map_path.parent / TEMPLATE_FOLDER, False
    source_of(map_path)
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
