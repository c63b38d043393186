"""Every picture, style and script that a page loads is there."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

import tinycss2

from basilica.core.findings.check import Check, Violation
from basilica.core.rules.rule import Level, Stage
from basilica.core.site_reader import BuiltSite

_STYLE_BYTES = 2_000_000
"""A larger style sheet is not read."""


def run(built: BuiltSite) -> Iterator[Violation]:
    """What pages load, and what their style sheets load, within the site."""
    for page in (*built.pages, *built.beside):
        said = set()
        for load in page.loads():
            if load.url[:5] == "data:" or load.url in said:
                continue
            said.add(load.url)
            if built.resolver.target(page.file, load.url).lost is not None:
                yield Violation(
                    page,
                    f"`{load.url[:120]}`, which {page.file} loads as `{load.tag}`, is not in the site.",
                    spot=(f'{load.tag}[src="{load.url}"]', 0) if '"' not in load.url and load.tag == "img" else None,
                    written=load.url,
                )
    for name, data in built.texts.items():
        if name.endswith(".css") and len(data) <= _STYLE_BYTES:
            for url in dict.fromkeys(_loaded(data.decode("utf-8", "replace"))):
                if url[:5] != "data:" and built.resolver.target(name, url).lost is not None:
                    yield Violation(None, f"`{url[:120]}`, which the style sheet {name} loads, is not in the site.")


def _loaded(style: str) -> Iterator[str]:
    """The addresses in a style sheet: `url(…)` in values, and `@import`."""
    waiting: list[Any] = [tinycss2.parse_component_value_list(style, skip_comments=True)]
    while waiting:
        imports = False
        for value in waiting.pop():
            if value.type == "url" or (value.type == "string" and imports):
                yield value.value
            elif value.type == "function" and value.lower_name == "url":
                yield from (inner.value for inner in value.arguments if inner.type == "string")
            elif value.type in ("function", "() block", "{} block", "[] block"):
                waiting.append(value.arguments if value.type == "function" else value.content)
            if value.type != "whitespace":
                imports = value.type == "at-keyword" and value.lower_value == "import"


CHECK = Check(
    code="missing-file",
    level=Level.ERROR,
    title="A picture, a style sheet or a script that does not exist",
    why="The page asks for it on every visit, and looks or works differently without it.",
    standard="HTML, fetching resources; WHATWG URL",
    remedy="Put it into the folder `files` and write `file:` and its name, or fix the address.",
    without_map="Put the file there, or fix the address.",
    good={
        "index.html": '<img src="wheel.svg" alt="The wheel">',
        "wheel.svg": "<svg xmlns='http://www.w3.org/2000/svg'/>",
    },
    bad={
        "index.html": '<img src="wheels.svg" alt="The wheel">',
        "wheel.svg": "<svg xmlns='http://www.w3.org/2000/svg'/>",
    },
    stage=Stage.ANY,
    run=run,
    of_redirects=True,
)
