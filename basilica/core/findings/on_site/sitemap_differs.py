"""The sitemap lists what exists, all of it and nothing else."""

from __future__ import annotations

from collections.abc import Iterator

from lxml import etree

from basilica.core.findings.check import Check, Violation
from basilica.core.rules.rule import Level, Stage
from basilica.core.site_reader import BuiltSite

_SPACE = "{http://www.sitemaps.org/schemas/sitemap/0.9}"


def run(built: BuiltSite) -> Iterator[Violation]:
    """The addresses of every sitemap, held against the pages."""
    names = [name for name in built.texts if name.startswith("sitemap") and name.endswith(".xml")]
    if not names:
        return
    listed: dict[str, str] = {}
    for name in names:
        locations = _locations(built.texts[name])
        if locations is None:
            yield Violation(None, f"{name} is not a sitemap that could be read.")
            continue
        for loc in locations:
            target = built.resolver.target("index.html", loc)
            if loc.endswith(".xml"):
                if target.lost is not None:
                    yield Violation(None, f"{name} names the sitemap `{loc[:120]}`, which does not exist.")
            elif target.file is None or (target.file in built.by_file and not built.by_file[target.file].indexed):
                why = "is not a page of the site" if target.file is None else "is a page that is kept out of it"
                yield Violation(None, f"{name} lists `{loc[:120]}`, which {why}.")
            else:
                listed[target.file] = loc
    for page in built.pages:
        if page.file not in listed and _belongs(built, page.key, page.indexed, page.file):
            yield Violation(page, f"{page.file} is in no sitemap.")


def _belongs(built: BuiltSite, key: str | None, indexed: bool, file: str) -> bool:
    if built.plan is None:
        return indexed and not file.endswith("404.html")
    if key is None or key in built.plan.drafts or not indexed:
        return False
    return "sitemap" not in built.plan.site.pages[key].options.hidden


def _locations(data: bytes) -> list[str] | None:
    parser = etree.XMLParser(resolve_entities=False, no_network=True, huge_tree=False)
    try:
        root = etree.fromstring(data, parser)
    except (etree.XMLSyntaxError, LookupError, ValueError):
        return None
    return [node.text.strip() for node in root.iter(f"{_SPACE}loc") if node.text]


_BASE = (
    '<!doctype html><html lang="en"><title>Mill</title><link rel="canonical" href="https://mill.example/"><main></main>'
)
_MAP = f'<urlset xmlns="{_SPACE[1:-1]}"><url><loc>https://mill.example/</loc></url>%s</urlset>'

CHECK = Check(
    code="sitemap-differs",
    level=Level.ERROR,
    title="A sitemap that differs from the site",
    why="Search engines look for pages that do not exist, or miss some that do.",
    standard="sitemaps.org protocol 0.9",
    remedy="Build again. A sitemap written by hand gets out of date.",
    good={"index.html": _BASE, "sitemap.xml": _MAP % ""},
    bad={"index.html": _BASE, "sitemap.xml": _MAP % "<url><loc>https://mill.example/gone/</loc></url>"},
    stage=Stage.ANY,
    run=run,
)
