"""What browsers must know before anything else of a page: its kind, its encoding, and how wide it is to be drawn."""

from __future__ import annotations

from collections.abc import Iterator

from basilica.core.findings.on_source.source_rule import SourceFault, SourceRule
from basilica.core.rules.rule import Level, Stage
from basilica.core.site_reader import Resolver
from basilica.core.site_reader.page_source import PageSource

_WHOLE = (
    '<!doctype html><html lang="en"><head><meta charset="utf-8">{}<title>Tides</title></head><body>Tides</body></html>'
)
_VIEWPORT = '<meta name="viewport" content="width=device-width">'


def run(page: PageSource, resolver: Resolver) -> Iterator[SourceFault]:
    """Whether the page says these; one that only leads on is not drawn."""
    metas = [tag.attributes for tag in page.tags if tag.opens and tag.name == "meta"]
    if any(meta.get("http-equiv", "").strip().lower() == "refresh" for meta in metas):
        return
    if not page.data.lstrip()[:9].lower().startswith(b"<!doctype") and not _says_later(page):
        yield SourceFault(0, f"{page.file} does not begin with `<!doctype html>`: it is drawn as in 1999.")
    if not page.says_charset:
        yield SourceFault(0, f"{page.file} does not say its encoding, which is taken to be {page.charset}.")
    if not any(meta.get("name", "").strip().lower() == "viewport" for meta in metas):
        yield SourceFault(0, f"{page.file} does not say its viewport: telephones draw it wide, and small.")


def _says_later(page: PageSource) -> bool:
    """Whether only comments, or the declaration of XML, stand before its kind."""
    for piece in page.pieces:
        if piece.kind == "comment" or page.data[piece.start : piece.start + 2] == b"<?":
            continue
        return page.data[piece.start : piece.start + 9].lower() == b"<!doctype"
    return False


RULE = SourceRule(
    code="page-head",
    stage=Stage.EXISTING,
    level=Level.WARNING,
    title="A page without doctype, encoding or viewport",
    why="Browsers have to guess them, and guess differently.",
    standard="HTML, 4.2.5.4 and 13.1.1; CSS Viewport Module, the viewport meta element",
    remedy='Begin with `<!doctype html>`, and write `<meta charset="utf-8">` and `<meta name="viewport"'
    ' content="width=device-width, initial-scale=1">` into its head.',
    good={"index.html": _WHOLE.format(_VIEWPORT)},
    bad={"index.html": _WHOLE.format("")},
    run=run,
)
