"""Colours of the terminal: levels of findings, where a person reads them."""

from __future__ import annotations

import os
import re

import click

_LEVEL = re.compile(r"(?m)^(.*?:\d+:\d+: )(error|warning)( [a-z-]+)")
_COLOURS = {"error": "red", "warning": "yellow"}


def echo_findings(lines: str, to_errors: bool = False) -> None:
    """Print lines of findings, their levels in colour in a terminal; plain where `NO_COLOR` is set (no-color.org), and
    in a pipe or a file."""
    click.echo(lines if os.environ.get("NO_COLOR") else _LEVEL.sub(_coloured, lines), nl=False, err=to_errors)


def _coloured(line: re.Match[str]) -> str:
    return line[1] + click.style(line[2] + line[3], _COLOURS[line[2]], bold=True)
