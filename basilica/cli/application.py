"""The commands of the application and of its data: serve, demo, password, backup."""

from __future__ import annotations

import sys
from collections.abc import Callable
from pathlib import Path
from typing import Any

import click

from basilica.cli.common import DATA
from basilica.cli.configured import configured
from basilica.store.errors import UsageError


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


@click.command()
@_serving
def serve(**options: Any) -> None:
    """Serve the application."""
    _serve(demo=False, **options)


@click.command()
@_serving
def demo(**options: Any) -> None:
    """Serve the application with the demo site in it."""
    _serve(demo=True, **options)


@click.command()
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


@click.command()
@click.argument("file", type=click.Path(path_type=Path, dir_okay=False))
@DATA
def backup(file: Path, data: Path | None) -> None:
    """Copy all sites, with their versions and what was published, into one FILE, also while the application runs."""
    from basilica.store import DATABASE
    from basilica.store.database import back_up

    folder = configured(data=data).data
    if not (folder / DATABASE).is_file():
        raise click.UsageError(f"There is no {DATABASE} in {folder}. Name the folder with --data.")
    try:
        back_up(folder / DATABASE, file)
    except UsageError as error:
        raise click.UsageError(str(error)) from error
    click.echo(
        f"{file} has {file.stat().st_size:,} bytes. To use it, put it into a folder as {DATABASE}, and name that"
    )
    click.echo("with --data. The key of sessions and the password are not in it.")


def _serve(demo: bool, folders: tuple[Path, ...], **options: object) -> None:
    from basilica.web.serving import serve as serve_application

    try:
        serve_application(configured(**options), demo, folders)
    except UsageError as error:
        raise click.UsageError(str(error)) from error
