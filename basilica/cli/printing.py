"""How the command line prints what it found of addresses, of sites that exist, and of what is set into them."""

from __future__ import annotations

import csv
import dataclasses
import json
import sys
from collections import Counter
from collections.abc import Iterable
from pathlib import Path

import click

from basilica.core.diff.page_patch import patch
from basilica.core.exchange.site_import.import_report import report_lines, report_values
from basilica.core.outputs.kits.route_clashes import RouteClash
from basilica.core.plan.old_addresses import AddressAnswer, Answer
from basilica.services.address_check import AddressCheck
from basilica.services.inlays import InlayReport
from basilica.services.site_imports import SiteImport
from basilica.services.site_stays import SiteStay
from basilica.store.build_folder import FolderChanges


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
    click.echo(f"{found.answering} of {len(found.answers)} addresses answer in the new site as before, or redirect.")
    counts = Counter(finding.code for finding in findings)
    if counts:
        click.echo("To fix: " + ", ".join(f"{code} ({count})" for code, count in counts.most_common()))


def print_stay(found: SiteStay) -> None:
    """What becomes of the pages of a site that stays."""
    click.echo("")
    whole = [one for one in found.changes if one.only_marks and not one.problem]
    click.echo(f"{len(whole)} of {len(found.changes)} pages get marks and no other change.")
    for one in found.changes:
        if one.problem:
            click.echo(f"  {one.file}: {one.problem}")
        elif not one.only_marks:
            click.echo(f"  {one.file}: marks, and {', '.join(one.mended)}")
    for note in found.stayed.notes:
        click.echo(f"Note: {note}")
    for finding in found.compiled.findings:
        if finding.stops:
            click.echo(f"To fix: {finding.message}")


def print_inlay(report: InlayReport, folder: Path, writes: bool, differences: bool) -> None:
    """What became of the pages of a folder; with ``differences``, what changes in them as a unified diff."""
    for one in report.results:
        name = folder / one.file
        if one.problem:
            click.echo(f"{name}: {one.problem}", err=True)
        elif one.changed and not differences:
            click.echo(f"{name}: {', '.join(one.changed)}")
        if one.dead_skip:
            click.echo(f"{name}: no element has the id `content`, which the skip link needs.", err=True)
        if one.without and not one.problem:
            click.echo(f"{name}: no marks for {', '.join(one.without)}; --place puts them there.", err=True)
    if differences:
        sys.stdout.flush()
        for one in report.changed:
            if one.after:
                sys.stdout.buffer.write(patch(one.file, one.before, one.after))
        sys.stdout.buffer.flush()
    for files, words in (
        (report.absent, "of the map {have} no file here, such as {first}; --make makes one"),
        (report.unmarked, "{have} no marks, such as {first}; --place puts some in"),
        (report.strangers, "of the folder {are} not in the map, such as {first}, and left alone"),
    ):
        if files:
            several = len(files) > 1
            told = words.format(have="have" if several else "has", are="are" if several else "is", first=files[0])
            click.echo(f"{len(files):,} page{'s' if several else ''} {told}.", err=True)
    words = "changed" if writes else "would change"
    click.echo(f"{len(report.changed)} files {words}, {len(report.problems)} were left as they are.", err=True)


_NAMED = 5
"""Files that a line names; the others are counted."""


def changes_line(changes: FolderChanges) -> str:
    """What a build did to a folder, with the first files of each kind by name."""
    told = (("changed", changes.changed), ("new", changes.new), ("gone", changes.gone))
    found = [f"{len(names):,} {what} ({_some(names)})" for what, names in told if names]
    return f"{'; '.join(found)}." if found else "Nothing in it changed."


def _some(names: tuple[str, ...]) -> str:
    return ", ".join(names[:_NAMED]) + (", …" if len(names) > _NAMED else "")


def print_adopting(lines: Iterable[str], clashes: Iterable[RouteClash]) -> None:
    """How an output is set into an application, and which of its routes meet pages of the map."""
    for number, line in enumerate(lines, 1):
        click.echo(f"{number}. {line}")
    for clash in clashes:
        where = f"line {clash.line}: " if clash.line else ""
        click.echo(f"{where}{clash.message} {clash.remedy}", err=True)
