"""The commands that report on a map, or on a built site: check, audit."""

from __future__ import annotations

from pathlib import Path

import click

from basilica.cli.common import DRAFTS, MAP_HERE, must_be_a_file, source_of
from basilica.cli.progress import Steps
from basilica.cli.reporting import ReportOptions, reporting
from basilica.core.build import build as build_in_memory
from basilica.core.build import site_readers, stage_findings
from basilica.core.build import steps as build_steps
from basilica.core.compile import compile_map
from basilica.core.findings import CheckResults, run_checks
from basilica.core.map.site.settings_reader import parse_base
from basilica.core.site_reader import SiteReader
from basilica.services.audits import audit_folder, built_files, is_reported, read_files_of
from basilica.services.fixing import fix_old_words
from basilica.store.errors import UsageError


@click.command()
@MAP_HERE
@reporting
@DRAFTS
@click.option(
    "--built",
    type=click.Path(path_type=Path),
    help="A folder that was built before; it is read instead of building in memory.",
)
@click.option(
    "--fix",
    is_flag=True,
    help="First replace words in MAP and the files it includes that have another name in the map language.",
)
def check(map_path: Path, report_options: ReportOptions, drafts: bool, built: Path | None, fix: bool) -> None:
    """Read the map MAP and its content, build the site in memory, check it, and report every finding."""
    source = source_of(map_path)
    if fix:
        must_be_a_file(map_path, "fixed")
        try:
            for file, count in fix_old_words(map_path, lambda read: compile_map(read.map, read.files).findings).items():
                click.echo(f"{file}: {count} word{'' if count == 1 else 's'} replaced.", err=True)
        except UsageError as error:
            raise click.UsageError(str(error)) from error
        source = source_of(map_path)
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


@click.command()
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


def _read_again(folder: Path, reader: SiteReader) -> CheckResults:
    """A built folder, read and examined."""
    try:
        files = built_files(folder)
        with Steps("Reading", len(files)) as steps:
            return run_checks(read_files_of(files, reader, steps.step))
    except UsageError as error:
        raise click.UsageError(str(error)) from error
