"""The command that begins a site: new."""

from __future__ import annotations

import sys
from pathlib import Path

import click

from basilica.core.compile import compile_map
from basilica.core.exchange import blank_map, map_of, read_list_or_table, site_section
from basilica.core.findings.reports import Report
from basilica.core.findings.reports.text_report import line_of
from basilica.core.map.site.page_reader import title_from
from basilica.core.map.site.settings_reader import parse_base
from basilica.core.rules.finding import Finding
from basilica.core.rules.limits import TEXT_BYTES
from basilica.store.errors import UsageError
from basilica.store.folders import must_be_new, read_file, write_atomically

_HOME = """\
{name} begins here. This text is `content/{key}.md`; each page has a file of its own, named by its key.

A link to a page is written by its key, and follows it wherever it moves: [home](page:{key}).
"""


@click.command()
@click.argument("folder", type=click.Path(path_type=Path))
@click.option("--name", help="What the site is called; by default after FOLDER.")
@click.option("--base", help="Where the site will be, such as https://mill.example.")
@click.option("--language", help="The language of its pages, such as en or de.  [default: en]")
@click.option(
    "--list",
    "listed",
    type=click.Path(path_type=Path),
    help="The pages: a file with one a line, indented where they are under another, or a table; - for standard input.",
)
@click.option("--yes", is_flag=True, help="Ask nothing: what is not given is the default.")
def new(folder: Path, name: str | None, base: str | None, language: str | None, listed: Path | None, yes: bool) -> None:
    """Begin a site in the new folder FOLDER: a map, site.yaml, and the content of its home page.

    In a terminal it asks for the name, the address and the language. For a site that exists already,
    see `basilica import`."""
    try:
        must_be_new(folder)
        asks = not yes and sys.stdin.isatty() and listed != Path("-")
        own = title_from(folder.resolve().name.lower().replace("_", "-").replace(" ", "-")) or "A new site"
        name = " ".join((name or (click.prompt("Name", default=own) if asks else own)).split())
        if base is None and asks:
            base = click.prompt(
                "Address, such as https://mill.example; empty if it has none yet", "", show_default=False
            )
        lives, reason = parse_base(base) if base else (None, "")
        if reason:
            raise click.UsageError(f"`--base`: the address {reason}. Write it as https://host or https://host/path.")
        language = language or (click.prompt("Language", default="en") if asks else "en")
        text, findings = _map(listed, name, language, str(lives).rstrip("/") if lives else "")
        compiled = compile_map(text)
        stops = [each for each in (*findings, *compiled.findings) if each.stops]
        if stops or compiled.plan is None or compiled.plan.site.home is None:
            said = [line_of(Report(str(listed or "site.yaml"), ".", ()), each) for each in stops[:1]]
            raise UsageError(" ".join(["Nothing was written.", *said]))
        home = folder / "content" / f"{compiled.plan.site.home}.md"
        write_atomically(home, _HOME.format(name=name, key=compiled.plan.site.home).encode())
        write_atomically(folder / "site.yaml", text.encode())
    except UsageError as error:
        raise click.UsageError(str(error)) from error
    for finding in findings:
        click.echo(f"{finding.message} {finding.remedy}".rstrip(), err=True)
    click.echo(f"Wrote {folder / 'site.yaml'} and {home}.")
    click.echo(f"Next: cd {folder} && basilica watch, which shows the site and builds it again on every save.")


def _map(listed: Path | None, name: str, language: str, base: str) -> tuple[str, tuple[Finding, ...]]:
    """The text of the map, and what the list leaves open."""
    if listed is None:
        return blank_map(name, language, base), ()
    data = sys.stdin.buffer.read(TEXT_BYTES + 1) if listed == Path("-") else read_file(listed, TEXT_BYTES)
    items, findings = read_list_or_table(data.decode("utf-8-sig", "replace"))
    if not items:
        raise UsageError(f"{'Standard input' if listed == Path('-') else listed} has no lines. Write one page a line.")
    text, more = map_of(items, site_section(name, language, base))
    return text, (*findings, *more)
