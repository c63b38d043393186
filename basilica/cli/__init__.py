"""The command line. Exit status: 0 clean, 1 findings that stop a build, 2 misuse.

A command is imported when it is called: `--version`, `--help` and completion need none.
"""

from __future__ import annotations

import textwrap
from difflib import get_close_matches
from importlib import import_module
from typing import NamedTuple

import click
from click.shell_completion import CompletionItem

from basilica.core.version import VERSION


class CommandPlace(NamedTuple):
    """Where a command is, and what it does."""

    module: str
    function: str
    meaning: str


COMMANDS = {
    "addresses": CommandPlace(
        "lookups",
        "addresses",
        "Look up the addresses of an old site in the map MAP: what each answers, and which lead nowhere.",
    ),
    "adopt": CommandPlace(
        "building",
        "adopt",
        "Show how to add OUTPUT (flask, django, express, typescript, includes) to an existing application, and which of"
        " its routes clash with pages of the map MAP. Exits with 1 if any do.",
    ),
    "audit": CommandPlace(
        "checking",
        "audit",
        "Read a built site in the folder DIR, from any tool, run the checks that need no map, and compare its pages.",
    ),
    "backup": CommandPlace(
        "application",
        "backup",
        "Copy all sites, with their versions and what was published, into one FILE, also while the application runs.",
    ),
    "build": CommandPlace(
        "building",
        "build",
        "Build the site of the map MAP, check the built files, and put them in place if no error stops the build.",
    ),
    "check": CommandPlace(
        "checking",
        "check",
        "Read the map MAP and its content, build the site in memory, check it, and report every finding.",
    ),
    "compare": CommandPlace(
        "publishing",
        "compare",
        "Show how the live site at TARGET differs from a build of the map MAP. Nothing is written.",
    ),
    "demo": CommandPlace("application", "demo", "Serve the application with the demo site in it."),
    "host": CommandPlace(
        "publishing",
        "host",
        "Run a small web host on this machine, to try publishing: it receives files in DIR over SFTP and serves them"
        " over HTTP.",
    ),
    "import": CommandPlace(
        "existing",
        "import_command",
        "Read an existing site, in a folder or a ZIP archive SITE, and report what was found; with --out make its map.",
    ),
    "inlay": CommandPlace(
        "existing",
        "inlay",
        "Insert the shared parts of the map MAP into the pages in FOLDER, between their marks.",
    ),
    "live": CommandPlace(
        "publishing",
        "live",
        "Fetch the live site over HTTP, and compare it with a build of the map MAP.",
    ),
    "new": CommandPlace(
        "beginning",
        "new",
        "Begin a site in the new folder FOLDER: a map, site.yaml, and the content of its home page.",
    ),
    "password": CommandPlace(
        "application",
        "password",
        "Set the password for the application; everybody who is signed in is signed out.",
    ),
    "pictures": CommandPlace(
        "building",
        "pictures",
        "Make smaller versions of the pictures of the map MAP, which pages use on smaller screens.",
    ),
    "publish": CommandPlace(
        "publishing",
        "publish_command",
        "Publish the map MAP to TARGET, so that the live site matches a build of it.",
    ),
    "routes": CommandPlace("lookups", "routes", "Print the route of every page of the map MAP."),
    "serve": CommandPlace("application", "serve", "Serve the application."),
    "templates": CommandPlace(
        "building",
        "templates",
        "Write the built-in templates NAME, or all, beside the map MAP, for you to change. Existing templates are not"
        " touched.",
    ),
    "watch": CommandPlace(
        "building",
        "watch",
        "Build the site of the map MAP on every save, serve it on loopback, and reload the open page.",
    ),
}
"""Every command by its name; what it does is the beginning of its own help (tested)."""


class _CommandGroup(click.Group):
    """The commands, each imported once it is asked for."""

    def list_commands(self, ctx: click.Context) -> list[str]:
        return [*COMMANDS]

    def get_command(self, ctx: click.Context, cmd_name: str) -> click.Command | None:
        place = COMMANDS.get(cmd_name)
        if place is None:
            return None
        found: click.Command = getattr(import_module(f"basilica.cli.{place.module}"), place.function)
        return found

    def resolve_command(
        self, ctx: click.Context, args: list[str]
    ) -> tuple[str | None, click.Command | None, list[str]]:
        name = args[0] if args else ""
        near = get_close_matches(name, COMMANDS, 1)
        if near and name not in COMMANDS and not ctx.resilient_parsing:
            ctx.fail(f"There is no command `{name[:40]}`. Did you mean `{near[0]}`?")
        return super().resolve_command(ctx, args)

    def format_commands(self, ctx: click.Context, formatter: click.HelpFormatter) -> None:
        limit = formatter.width - 6 - max(len(name) for name in COMMANDS)
        rows = [(name, textwrap.shorten(place.meaning, limit, placeholder="...")) for name, place in COMMANDS.items()]
        with formatter.section("Commands"):
            formatter.write_dl(rows)

    def shell_complete(self, ctx: click.Context, incomplete: str) -> list[CompletionItem]:
        found = [
            CompletionItem(name, help=textwrap.shorten(place.meaning, 100, placeholder="..."))
            for name, place in COMMANDS.items()
            if name.startswith(incomplete)
        ]
        return found + click.Command.shell_complete(self, ctx, incomplete)


@click.group(cls=_CommandGroup, context_settings={"help_option_names": ["-h", "--help"]})
@click.version_option(VERSION, prog_name="basilica")
def main() -> None:
    """Makes every page of a site share one navigation, from one page map."""
