"""Every page says in which language it is."""

from __future__ import annotations

import re
from collections.abc import Iterator

from basilica.core.findings.check import Check, Violation
from basilica.core.rules.rule import Level, Stage
from basilica.core.site_reader import BuiltSite

_TAG = re.compile(r"[A-Za-z]{2,8}(-[A-Za-z0-9]{1,8})*")
"""Language tags as RFC 5646 builds them, without its registry."""


def run(built: BuiltSite) -> Iterator[Violation]:
    """The `lang` of each page."""
    wanted = built.plan.site.language if built.plan is not None else None
    for page in (*built.pages, *built.beside):
        lang = page.language
        if not lang:
            yield Violation(page, f"{page.file} does not say in which language it is.")
        elif not _TAG.fullmatch(lang):
            yield Violation(page, f"`{lang[:40]}`, which {page.file} gives as its language, is not a language tag.")
        elif wanted is not None and lang != wanted:
            yield Violation(page, f"{page.file} gives `{lang[:40]}` as its language, and the site's is `{wanted}`.")


CHECK = Check(
    code="language",
    level=Level.WARNING,
    title="A page that does not say its language",
    why="Screen readers may read it in another language.",
    standard="WCAG 2.2, 3.1.1 Language of Page; RFC 5646",
    remedy="Write `language:` under `site:`.",
    without_map='Write `lang` at the `html` element, such as `<html lang="en-GB">`.',
    good={"index.html": '<!doctype html><html lang="en-GB"><title>Tides</title><main><h1>Tides</h1></main>'},
    bad={"index.html": "<!doctype html><html><title>Tides</title><main><h1>Tides</h1></main>"},
    stage=Stage.ANY,
    run=run,
    of_redirects=True,
)
