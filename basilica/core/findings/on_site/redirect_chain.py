"""An old address leads to where the page is now, at once."""

from __future__ import annotations

from collections.abc import Iterator

from basilica.core.findings.check import Check, Violation
from basilica.core.rules.rule import Level, Stage
from basilica.core.site_reader import BuiltSite


def run(built: BuiltSite) -> Iterator[Violation]:
    """Where each redirect leads, step by step."""
    for page in built.redirects:
        way = [page.file]
        here = page
        while here.head.refresh is not None:
            file = built.resolver.target(here.file, here.head.refresh).file
            if file is None or file not in built.by_file:
                break
            way.append(file)
            if file in way[:-1]:
                yield Violation(page, f"The redirect at {page.file} never ends: it leads {' to '.join(way)}.")
                break
            here = built.by_file[file]
        else:
            if len(way) > 2:
                yield Violation(page, f"The redirect at {page.file} leads to another one: {' to '.join(way)}.")


def _old(to: str) -> str:
    return (
        f'<!doctype html><html lang="en"><title>Moved</title><meta http-equiv="refresh" content="0; url={to}">'
        f'<main><a href="{to}">Moved</a></main>'
    )


CHECK = Check(
    code="redirect-chain",
    level=Level.WARNING,
    title="A redirect to another redirect, or in a circle",
    why="Each step makes visitors wait, and some programs follow only a few.",
    standard="RFC 9110, 15.4 Redirection 3xx",
    remedy="Redirect to the page itself.",
    good={"index.html": "<p>Here.</p>", "old.html": _old("index.html"), "older.html": _old("index.html")},
    bad={"index.html": "<p>Here.</p>", "old.html": _old("index.html"), "older.html": _old("old.html")},
    stage=Stage.ANY,
    run=run,
    applies=lambda built, page: page.head.refresh is not None,
    of_redirects=True,
)
