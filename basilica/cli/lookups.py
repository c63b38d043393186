"""The commands that look up addresses: routes, addresses."""

from __future__ import annotations

import json
import sys
from pathlib import Path

import click

from basilica.cli.common import DRAFTS, FORMAT, MAP, MAP_HERE, must_be_a_file, report_findings, source_of
from basilica.cli.printing import print_addresses
from basilica.core.compile import compile_map
from basilica.core.edits import EditRejected
from basilica.core.plan.old_addresses import Answer
from basilica.core.plan.route_table import route_rows
from basilica.services.address_check import look_up_addresses
from basilica.store.errors import UsageError
from basilica.store.folders import Source


@click.command()
@MAP_HERE
@FORMAT
@DRAFTS
def routes(map_path: Path, form: str, drafts: bool) -> None:
    """Print the route of every page of the map MAP."""
    source = source_of(map_path)
    compiled = compile_map(source.map, source.files)
    if compiled.plan is None or compiled.stops:
        report_findings(compiled.findings, source, "text", to_errors=True)
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


@click.command()
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
        if write:
            must_be_a_file(map_path, "changed")
        told = look_up_addresses(map_path, old, write)
    except (UsageError, EditRejected) as error:
        raise click.UsageError(str(error)) from error
    if isinstance(told, Source):
        report_findings(compile_map(told.map, told.files).findings, told, "text", to_errors=True)
        return
    print_addresses(told, form)
    sys.exit(1 if any(each.answer is Answer.NOWHERE for each in told.found) else 0)
