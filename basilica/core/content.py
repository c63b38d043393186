"""A page's own content: Markdown or HTML, with links to pages written by key."""

from __future__ import annotations

import html
import re
from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import lru_cache

from markdown_it import MarkdownIt
from mdit_py_plugins.anchors import anchors_plugin

from basilica.core.document import Lines
from basilica.core.findings import Finding, Findings
from basilica.core.plan import Plan
from basilica.core.site.references import References, rewritten, several, split_reference

FOLDER = "content"
SUFFIXES = (".md", ".html")

_PAGE_LINK = re.compile(
    r"""(?P<before>\shref\s*=\s*)(?:"page:(?P<double>[^"]*)"|'page:(?P<single>[^']*)'|page:(?P<bare>[^\s>"']+))""",
    re.IGNORECASE,
)
_HEADING_ONE = re.compile(r"<h1[\s>]", re.IGNORECASE)
_BARE_ONE_BY_ONE = 20
"""More pages without content than this are counted in one finding, so that others can be seen beside it."""

_OWN_IDS = frozenset({"content"})
"""Ids that the page around the content already has."""


@dataclass(frozen=True, slots=True)
class Content:
    """The text of one page. ``name`` is the file's, such as ``content/visit/hours.md``; its suffix tells the kind."""

    name: str
    text: str


Contents = Mapping[str, Content]
"""Content by page key."""


@dataclass(frozen=True, slots=True)
class Body:
    """Content as HTML. ``has_title`` tells whether it brings its own ``<h1>``."""

    html: str
    has_title: bool


def key_of(name: str) -> str | None:
    """The page key that a content file's name gives: ``content/visit/hours.md`` → ``visit/hours``."""
    stem, dot, suffix = name.removeprefix(FOLDER + "/").rpartition(".")
    return stem if dot and "." + suffix in SUFFIXES else None


def _slug(heading: str) -> str:
    slug = re.sub(r"[^\w\s-]", "", heading.strip().lower())
    slug = re.sub(r"[\s_-]+", "-", slug).strip("-") or "section"
    return f"{slug}-section" if slug in _OWN_IDS else slug


_MARKDOWN = MarkdownIt("commonmark").use(anchors_plugin, max_level=6, slug_func=_slug)


@lru_cache(maxsize=4096)
def as_html(content: Content) -> Body:
    """Content as HTML, its links to pages still written by key. Markdown is CommonMark, and its headings get ids."""
    markup = _MARKDOWN.render(content.text) if content.name.endswith(".md") else content.text
    return Body(markup, bool(_HEADING_ONE.search(markup)))


@lru_cache(maxsize=8)
def _lines(text: str) -> Lines:
    return Lines.of(text)


class Linker:
    """Turns links by key into addresses, and collects those that lead to no page."""

    def __init__(self, plan: Plan, findings: Findings) -> None:
        self._plan = plan
        self._references = References(plan.site.pages)
        self._findings = findings

    def body(self, content: Content, key: str) -> Body:
        """The content of page ``key`` with every ``page:`` link as the address it has on that page.

        A link to a page that does not exist keeps its text and loses its ``href``; it becomes a finding with its
        place in the content file.
        """
        body = as_html(content)
        if "page:" not in body.html:
            return body

        searched_to = 0

        def write(match: re.Match[str]) -> str:
            nonlocal searched_to
            written = match["double"] or match["single"] or match["bare"] or ""
            reference, fragment = split_reference(html.unescape(written))
            found = self._references.find(reference)
            if len(found) != 1:
                searched_to = self._say(content, html.unescape(written), reference, found, searched_to)
                return " data-no-page"
            plan = self._plan
            if found[0] not in plan.routes or (found[0] in plan.drafts and key not in plan.drafts):
                searched_to = self._say(content, html.unescape(written), reference, found, searched_to)
                return " data-no-page"
            address = self._plan.addresses.to_page(found[0], key, fragment)
            return f'{match["before"]}"{html.escape(address)}"'

        return Body(_PAGE_LINK.sub(write, body.html), body.has_title)

    def _say(self, content: Content, written: str, reference: str, found: tuple[str, ...], after: int) -> int:
        """Record a link that leads to no page. It is looked for in the text from ``after`` on; returns where it
        ends, so that many such links cost no more than one walk through the text."""
        if len(found) == 1 and found[0] in self._plan.routes:
            code, message = "draft-linked", f"The page `{found[0]}` is a draft, so the link keeps its words alone."
            remedy = "It leads there as soon as the page is no draft."
        elif len(found) == 1:
            code, message = "section-linked", f"The section `{found[0]}` has no page of its own."
            remedy = "Name a page under it."
        elif found:
            code, (message, remedy) = "ambiguous-page", several(reference, found)
        else:
            code = "unknown-page"
            message = f"There is no page `{reference[:80]}`."
            remedy = "Write `page:` and the key of a page of the map."
        offset = content.text.find(f"page:{written}", after)
        place = _lines(content.text).place(offset if offset >= 0 else after)
        self._findings.add(code, place, message, remedy, file=content.name)
        return offset + len(written) if offset >= 0 else after


_REFERENCE = re.compile(r"(?<![\w/-])page:([a-z0-9-]+(?:/[a-z0-9-]+)*)")


def following(contents: Contents, keys: Mapping[str, str], before: Plan, after: Plan) -> Contents:
    """Content in which links to pages whose key changed (``keys``: old to new) lead to them still. A link is mended
    only where it would lead elsewhere, or nowhere."""
    old, new = References(before.site.pages), References(after.site.pages)

    def mend(match: re.Match[str]) -> str:
        found = old.find(match[1])
        target = keys.get(found[0]) if len(found) == 1 else None
        return match[0] if target is None else f"page:{rewritten(match[1], target, new)}"

    return {
        key: replace(content, text=_REFERENCE.sub(mend, content.text)) if "page:" in content.text else content
        for key, content in contents.items()
    }


def references_in(content: Content, key: str, plan: Plan) -> list[tuple[int, int]]:
    """Line and column of every link by key in some content that leads to page ``key``."""
    if "page:" not in content.text:
        return []
    known, lines = References(plan.site.pages), Lines.of(content.text)
    found = _REFERENCE.finditer(content.text)
    return [lines.place(match.start()) for match in found if known.find(match[1]) == (key,)]


def content_findings(plan: Plan, contents: Contents) -> tuple[Finding, ...]:
    """Pages without content, and content without a page."""
    findings = Findings()
    bare = [plan.site.pages[key] for key in plan.builds(drafts=True) if key not in contents]
    for page in bare if len(bare) <= _BARE_ONE_BY_ONE else bare[:1]:
        whose = f"The page `{page.key}` has" if len(bare) <= _BARE_ONE_BY_ONE else f"{len(bare):,} pages have"
        findings.add(
            "no-content",
            plan.site.lines.place(page.at),
            f"{whose} no content; what is built is the title alone.",
            f"Write content/{page.key}.md, or its text in the application.",
        )
    for key, content in contents.items():
        if key not in plan.routes or plan.routes[key].served:
            findings.add(
                "content-unused",
                (1, 1),
                f"There is no page `{key}` for this content."
                if key not in plan.site.pages
                else f"The page `{key}` is not built, so this content stands nowhere.",
                "Rename the file after a page's key, or add the page.",
                file=content.name,
            )
    return findings.done()
