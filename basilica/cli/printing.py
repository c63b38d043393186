"""How the command line prints what it found of addresses, and of sites that exist."""

from __future__ import annotations

import csv
import dataclasses
import json
import sys
from collections import Counter

import click

from basilica.core.exchange.site_import.import_report import report_lines, report_values
from basilica.core.plan.old_addresses import AddressAnswer, Answer
from basilica.services.address_check import AddressCheck
from basilica.services.site_imports import SiteImport


def print_addresses(told: AddressCheck, form: str) -> None:
    """What each address answers, as lines for people, as CSV, or as JSON; and in words how many answer what."""
    if form == "json":
        click.echo(json.dumps([dataclasses.asdict(each) for each in told.found], ensure_ascii=False, indent=2))
    elif form == "csv":
        writer = csv.writer(sys.stdout)
        writer.writerow(field.name for field in dataclasses.fields(AddressAnswer))
        writer.writerows(dataclasses.astuple(each) for each in told.found)
    else:
        for each in told.found:
            click.echo(f"{each.answer:<8}  {each.address}{_more(each)}")
    counts = Counter(each.answer for each in told.found)
    words = ", ".join(f"{counts[answer]:,} {answer}" for answer in Answer if counts[answer])
    written = f" {told.written:,} were written into the map." if told.written else ""
    cut = " The list has more, which were not looked up." if told.is_cut else ""
    click.echo(f"{len(told.found):,} addresses: {words}.{written}{cut}", err=True)


def _more(each: AddressAnswer) -> str:
    if each.answer is Answer.REDIRECT:
        return f"  →  {each.target}" + (f"  in {each.steps} steps" if each.steps > 1 else "")
    if each.answer is Answer.NOWHERE and each.nearest:
        return f"  is most like the page {each.nearest}"
    return ""


def print_import(found: SiteImport, form: str) -> None:
    """What was found in a site that exists, as lines or as JSON, and what its map makes of it."""
    findings = [finding for finding in found.build.findings if finding.level in ("error", "warning")]
    if form == "json":
        values = report_values(found.site) | {
            "addresses": [dataclasses.asdict(each) for each in found.answers],
            "findings": [finding.as_dict("site.yaml") for finding in findings],
        }
        click.echo(json.dumps(values, ensure_ascii=False, indent=2))
        return
    for line in (*report_lines(found.site), *(f"Note: {note}" for note in found.moved.notes)):
        click.echo(line)
    click.echo("")
    click.echo(f"{found.answering} of {len(found.answers)} addresses answer in the new site as they did, or lead on.")
    counts = Counter(finding.code for finding in findings)
    if counts:
        click.echo("To be mended: " + ", ".join(f"{code} ({count})" for code, count in counts.most_common()))
