"""What several commands share: their arguments, the map that they read, and how findings end them."""

from __future__ import annotations

import sys
from pathlib import Path

import click

from basilica.cli.colours import echo_findings
from basilica.core.findings.reports import FORMATS, Report
from basilica.core.rules.finding import Finding
from basilica.store.errors import UsageError
from basilica.store.folders import STANDARD_INPUT, Source, read_source

MAP = click.argument("map_path", metavar="MAP", type=click.Path(path_type=Path))
MAP_HERE = click.argument("map_path", metavar="[MAP]", type=click.Path(path_type=Path), default=Path("site.yaml"))
"""A map that need not be named where it is `site.yaml` in this folder; `-` reads it from standard input."""
FORMAT = click.option(
    "--format", "form", type=click.Choice(["text", "json"]), default="text", help="How to print: text or json."
)
DATA = click.option(
    "--data",
    type=click.Path(path_type=Path, file_okay=False),
    help="The folder of the database; by default in your user's data folder.",
)
DRAFTS = click.option("--drafts", is_flag=True, help="Build drafts too; nothing links to them.")


def must_be_a_file(map_path: Path, act: str) -> None:
    """Refuse a map from standard input for an act that needs it again, or changes it."""
    if map_path == STANDARD_INPUT:
        raise click.UsageError(f"A map on standard input cannot be {act}. Save it, and name the file.")


def source_of(path: Path) -> Source:
    """Read a map, with what is beside it."""
    if path == Path("site.yaml") and not path.exists():
        raise click.UsageError("There is no site.yaml in this folder. Name a map, or begin one with `basilica new`.")
    try:
        return read_source(path)
    except UsageError as error:
        raise click.UsageError(str(error)) from error


def report_findings(
    findings: tuple[Finding, ...], source: Source, form: str, page_end: str = "", to_errors: bool = False
) -> None:
    """Print findings and end with the exit status that they ask for."""
    report = Report(source.name, str(Path(source.name).parent), findings)
    if form != "text":
        click.echo(FORMATS[form](report), nl=False, err=to_errors)
    else:
        echo_findings(FORMATS[form](report), to_errors)
        click.echo(page_end or report.counted, err=True)
    sys.exit(1 if report.failing else 0)
