"""What the commands that report have in common: formats, a baseline, and what fails."""

from __future__ import annotations

import functools
import sys
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import click

from basilica.cli.colours import echo_findings
from basilica.core.findings import CheckResults
from basilica.core.findings.mosaic import mosaic_of
from basilica.core.findings.reports import FORMATS, Baseline, Report
from basilica.core.findings.reports.baseline import NO_BASELINE
from basilica.core.findings.reports.report import GRAVE
from basilica.core.rules.finding import Finding, in_order
from basilica.core.rules.rule import Level
from basilica.store.folders import write_atomically


@dataclass(frozen=True, slots=True)
class ReportOptions:
    """How somebody asked for a report."""

    form: str
    to: Path | None
    baseline: Path | None
    write_baseline: Path | None
    fails_on: Level

    def give(self, name: str, folder: str, findings: tuple[Finding, ...], results: Sequence[CheckResults]) -> None:
        """Write the report and end with the exit status that it asks for. ``findings`` are those of the map, beside
        what was found on the built site, in each of its languages, the first one first."""
        every = in_order((*findings, *(finding for each in results for finding in each.findings(None))))
        mosaic = mosaic_of(results[0], results[1:]) if results and self.form == "html" else None
        report = Report(name, folder, every, mosaic, self._baseline(), self.fails_on)
        if self.write_baseline is not None:
            self._write(self.write_baseline, Baseline.of(every).as_text())
            click.echo(f"{len(every) - len(report.ignored)} findings written to {self.write_baseline}.", err=True)
            sys.exit(0)
        text = FORMATS[self.form](report)
        if self.to is not None:
            self._write(self.to, text)
        elif self.form == "text":
            echo_findings(text)
        else:
            click.echo(text, nl=False)
        if self.form == "text" or self.to is not None:
            click.echo(report.counted, err=True)
        sys.exit(1 if report.failing else 0)

    def _baseline(self) -> Baseline:
        if self.baseline is None:
            return NO_BASELINE
        try:
            return Baseline.parse(self.baseline.read_text("utf-8"))
        except OSError as error:
            raise click.UsageError(
                f"{self.baseline} cannot be read: {error.strerror}. `--write-baseline {self.baseline}` writes it."
            ) from error
        except ValueError as error:
            raise click.UsageError(f"{self.baseline} {error}.") from error

    @staticmethod
    def _write(path: Path, text: str) -> None:
        try:
            write_atomically(path, text.encode("utf-8"))
        except OSError as error:
            raise click.UsageError(f"{path} cannot be written: {error.strerror}.") from error


_REPORT_OPTIONS = ("form", "to", "baseline", "write_baseline", "fail_on")


def reporting(function: Callable[..., None]) -> Callable[..., None]:
    """The options of a command that reports; it gets them as ``report_options``."""

    @click.option(
        "--format",
        "form",
        type=click.Choice(list(FORMATS)),
        default="text",
        show_default=True,
        help="The format of the report.",
    )
    @click.option("--out", "to", type=click.Path(path_type=Path, dir_okay=False), help="A file to write the report to.")
    @click.option(
        "--baseline",
        type=click.Path(path_type=Path, dir_okay=False),
        help="A file of known findings; only new ones fail.",
    )
    @click.option(
        "--write-baseline",
        type=click.Path(path_type=Path, dir_okay=False),
        help="Write the current findings to a baseline file, and do not fail.",
    )
    @click.option(
        "--fail-on",
        type=click.Choice([str(level) for level in GRAVE]),
        default=str(Level.ERROR),
        show_default=True,
        help="The lowest level that makes the exit status 1.",
    )
    @functools.wraps(function)
    def command(*args: Any, **options: Any) -> None:
        form, to, baseline, write_baseline, fail_on = (options.pop(name) for name in _REPORT_OPTIONS)
        report_options = ReportOptions(form, to, baseline, write_baseline, Level(fail_on))
        function(*args, report_options=report_options, **options)

    return command
