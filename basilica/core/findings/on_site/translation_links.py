"""Pages that are translations of one another say so on both sides."""

from __future__ import annotations

from collections.abc import Iterator

from basilica.core.findings.check import Check, Violation
from basilica.core.rules.rule import Level, Stage
from basilica.core.shared.locales import primary
from basilica.core.site_reader import BuiltPage, BuiltSite

_FOR_EVERYBODY = "x-default"


def run(built: BuiltSite) -> Iterator[Violation]:
    """The translations that each page names, held against what these name."""
    for page in built.pages:
        named = page.head.translations
        if not named or page.head.refresh is not None:
            continue
        targets = [(tag, href, built.resolver.target(page.file, href)) for tag, href in named]
        if not any(target.file == page.file for _, _, target in targets):
            yield Violation(page, f"{page.file} names translations, and is not among them itself.")
        for tag, href, target in targets:
            if target.lost is not None:
                yield Violation(
                    page, f"{page.file} names `{href[:120]}` as its version in `{tag}`, which does not exist."
                )
            elif target.file is not None and target.file != page.file and tag != _FOR_EVERYBODY:
                yield from _of_partner(built, page, tag, target.file)


def _of_partner(built: BuiltSite, page: BuiltPage, tag: str, file: str) -> Iterator[Violation]:
    other = built.in_other_languages.get(file)
    read = built.by_file.get(file)
    if other is None and read is None:
        return
    language, named = (other.language, other.translations) if other is not None else (None, ())
    if read is not None and other is None:
        language, named = read.language, tuple(read.head.translations)
    if primary(language or "") != primary(tag):
        yield Violation(
            page, f"{page.file} names {file} as its version in `{tag}`, and that says it is in `{language}`."
        )
    elif all(built.resolver.target(file, href).file != page.file for _, href in named):
        yield Violation(page, f"{page.file} names {file} as its version in `{tag}`, which does not name it in return.")


def _page(language: str, *links: str) -> str:
    told = "".join(f'<link rel="alternate" hreflang="{link}" href="{link}.html">' for link in links)
    return f'<!doctype html><html lang="{language}"><title>Tides</title>{told}<main><h1>Tides</h1></main>'


CHECK = Check(
    code="translation-links",
    level=Level.WARNING,
    title="A translation that does not link back",
    why="Search engines accept translations only if both pages say so.",
    standard="HTML, link type alternate with hreflang; sitemaps.org with xhtml:link",
    remedy="Build the site again. If it was built just now, this is a fault of Basilica.",
    without_map="Let each version name all versions, itself among them, with `link rel=alternate hreflang`.",
    good={"en.html": _page("en", "en", "cy"), "cy.html": _page("cy", "en", "cy")},
    bad={"en.html": _page("en", "en", "cy"), "cy.html": _page("cy", "cy")},
    stage=Stage.ANY,
    run=run,
)
