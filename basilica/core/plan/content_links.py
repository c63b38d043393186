"""A page's own content: Markdown or HTML, with links to pages written by key."""

from __future__ import annotations

import copy
import html
from collections.abc import Callable, Mapping
from dataclasses import replace
from functools import lru_cache
from urllib.parse import unquote

from basilica.core.content.markup import drawn_icon, rewrite, with_facts, with_icons, with_links
from basilica.core.content.pictures import Picture, with_sizes
from basilica.core.content.source_links import page_links, updated_links
from basilica.core.map.document import Lines
from basilica.core.map.map_files import Files
from basilica.core.map.site import site_rules
from basilica.core.map.site.references import References, query_of, several, split_reference
from basilica.core.plan import Plan, plan_rules
from basilica.core.plan.parameters import filled
from basilica.core.rules import limits
from basilica.core.rules.finding import Findings
from basilica.core.rules.place import START, Place
from basilica.core.shared.markdown import FOLDER, SUFFIXES, Body, Content, Contents, as_html, is_content_name, key_of
from basilica.core.shared.markdown_parser import by_name

__all__ = [
    "FOLDER",
    "NOT_FOUND_KEY",
    "SUFFIXES",
    "Body",
    "Content",
    "Contents",
    "Linker",
    "as_html",
    "following",
    "is_content_name",
    "key_of",
]


NOT_FOUND_KEY = "404"
"""In place of a page's key, that of the content of the page for addresses that do not exist (`content/404.md`)."""


@lru_cache(maxsize=8)
def _lines(text: str) -> Lines:
    return Lines.of(text)


class Linker:
    """Turns links by key into addresses, and collects those that lead to no page."""

    def __init__(
        self,
        plan: Plan,
        findings: Findings,
        file: Callable[[str, str | None], str | None] = lambda name, key: None,
        part: Callable[[str, str | None], str | None] = lambda name, key: None,
        picture: Callable[[str], Picture | None] = lambda name: None,
    ) -> None:
        """``file`` gives the address of a file as it is written on a page, ``part`` a part as it stands there, and
        ``picture`` what is known of one; all None where there is none of the name."""
        self._picture = picture
        self._file = file
        self._part = part
        self._plan = plan
        self._references = References(plan.site.pages)
        self._findings = findings

    def reporting_to(
        self,
        findings: Findings,
        file: Callable[[str, str | None], str | None],
        part: Callable[[str, str | None], str | None],
    ) -> Linker:
        """The same with what it brings up going elsewhere."""
        other = copy.copy(self)
        other._findings, other._file, other._part = findings, file, part
        return other

    def body(self, content: Content, key: str | None) -> Body:
        """The content of page ``key`` (None: of the page for addresses that do not exist) with every ``page:`` and
        ``file:`` link as the address it has on that page, and every ``<part:name>`` as the part.

        A link to what does not exist keeps its text and loses its address; it becomes a finding with its place in the
        content file.
        """
        body = self._settled(content)
        if not any(scheme in body.html for scheme in ("page:", "file:", "part:")):
            return body
        width = self._plan.header.plain.width
        sized = with_sizes(body.html, self._picture, lambda name: html.escape(self._file(name, key) or ""), width)

        searched_to = 0

        def address(scheme: str, written: str) -> str | None:
            nonlocal searched_to
            if scheme == "file":
                found_file = self._file(unquote(written), key)
                if found_file is None:
                    searched_to = self._say_missing("file", content, written, searched_to)
                return None if found_file is None else html.escape(found_file)
            reference, fragment = split_reference(written)
            found = self._references.find(reference)
            plan = self._plan
            if len(found) != 1 or found[0] not in plan.routes or (found[0] in plan.drafts and key not in plan.drafts):
                searched_to = self._say(content, written, reference, found, searched_to)
                return None
            query = query_of(html.unescape(written))
            missing = filled(plan.routes[found[0]].path, query)[2]
            if missing:
                searched_to = self._say_parameters(content, written, found[0], missing, searched_to)
                return None
            return html.escape(plan.addresses.to_page(found[0], key, fragment, query))

        added = 0

        def part(name: str) -> str:
            nonlocal searched_to, added
            if added > limits.PAGE_CHARACTERS:
                return ""
            found = self._part(name, key)
            added += len(found or "")
            if added > limits.PAGE_CHARACTERS:
                self._findings.add(
                    plan_rules.PART_TOO_LARGE,
                    START,
                    f"The parts in this text have more than {limits.PAGE_CHARACTERS:,} characters.",
                    "Let it hold fewer.",
                    file=content.name,
                )
                return ""
            if found is None:
                searched_to = self._say_missing("part", content, name, searched_to)
            return found or ""

        return Body(rewrite(sized, address, part), body.has_title)

    def _settled(self, content: Content) -> Body:
        """Content with what is the same on every page: its relative links by name, its icons and its facts."""
        body = as_html(content)
        markup, here = body.html, key_of(content.name)
        if here is not None and content.name.endswith(".html") and ("../" in markup or ".md" in markup):
            markup = with_links(markup, lambda address: by_name(address, here))
        if "{icon:" in markup:
            markup = self._with_icons(content, markup)
        if "fact:" in markup:
            markup = self._with_facts(content, markup)
        return body if markup is body.html else Body(markup, body.has_title)

    def _with_facts(self, content: Content, markup: str) -> str:
        """Markup with every fact in its place; one that is not known is a finding."""
        searched_to = 0

        def fact(name: str) -> str | None:
            nonlocal searched_to
            found = self._plan.site.facts.get(name)
            if found is None:
                searched_to = self._say_missing("fact", content, name, searched_to)
            return found

        return with_facts(markup, fact)

    def _with_icons(self, content: Content, markup: str) -> str:
        """Markup with every icon in its place; one that is not known is a finding."""
        searched_to = 0

        def icon(name: str) -> str | None:
            nonlocal searched_to
            found = drawn_icon(name)
            if found is None:
                searched_to = self._say_missing("icon", content, name, searched_to)
            return found

        return with_icons(markup, icon)

    def _say_missing(self, what: str, content: Content, written: str, after: int) -> int:
        """Record a file, a part, a fact or an icon that is not there; as ``_say``."""
        offset = _offset(content, what, written, after)
        place = _lines(content.text).place(offset if offset >= 0 else after)
        remedy = {
            "icon": "Their names are listed in docs/icons.md.",
            "file": "Put it into the folder `files` or `public`, or write the name of one that is there.",
            "part": "Write it under `parts:`, or remove this.",
            "fact": "Write it under `facts:`, or remove this.",
        }[what]
        rule = {
            "icon": site_rules.UNKNOWN_ICON,
            "file": site_rules.UNKNOWN_FILE,
            "part": site_rules.UNKNOWN_PART,
            "fact": site_rules.UNKNOWN_FACT,
        }[what]
        self._findings.add(rule, place, f"There is no {what} `{written[:80]}`.", remedy, file=content.name)
        return offset + len(written) if offset >= 0 else after

    def _say_parameters(self, content: Content, written: str, key: str, missing: tuple[str, ...], after: int) -> int:
        """Record a link that lacks values; as ``_say``."""
        offset = content.text.find(f"page:{written}", after)
        place = _lines(content.text).place(offset if offset >= 0 else after)
        self._findings.add(plan_rules.PARAMETER_MISSING, place, *plan_rules.lacks(key, missing), file=content.name)
        return offset + len(written) if offset >= 0 else after

    def _say(self, content: Content, written: str, reference: str, found: tuple[str, ...], after: int) -> int:
        """Record a link that leads to no page. It is looked for in the text from ``after`` on; returns where it
        ends, so that many such links cost no more than one walk through the text."""
        if len(found) == 1 and found[0] in self._plan.routes:
            rule, message = (
                plan_rules.DRAFT_LINKED,
                f"The page `{found[0]}` is a draft, so only the words of the link are shown.",
            )
            remedy = "The link works as soon as the page is not a draft."
        elif len(found) == 1:
            rule, message = plan_rules.SECTION_LINKED, f"The section `{found[0]}` has no page of its own."
            remedy = "Name a page under it."
        elif found:
            rule, (message, remedy) = site_rules.AMBIGUOUS_PAGE, several(reference, found)
        else:
            rule = site_rules.UNKNOWN_PAGE
            message = f"There is no page `{reference[:80]}`."
            remedy = "Write `page:` and the key of a page of the map."
        offset = _offset(content, "page", written, after)
        place = _lines(content.text).place(offset if offset >= 0 else after)
        self._findings.add(rule, place, message, remedy, file=content.name)
        return offset + len(written) if offset >= 0 else after


def _offset(content: Content, scheme: str, written: str, after: int) -> int:
    """Where an address by name is written in a text, from a place on; -1 where it is not. One that was relative is
    found by the end of it."""
    named = content.text.find(f"{scheme}:{written}", after)
    return named if named >= 0 else content.text.find(written.partition("#")[0].rpartition("/")[2], after)


def markup_of(content: Content) -> str:
    """The language that content is written in: `markdown` or `html`."""
    return "markdown" if content.name.endswith(".md") else "html"


def following(
    contents: Contents, files: Files, keys: Mapping[str, str], before: Plan, after: Plan
) -> tuple[Contents, Files]:
    """Content, and parts that are files, in which links to pages whose key changed (``keys``: old to new) lead to them
    still. A link is mended only where it would lead elsewhere, or nowhere."""
    old, new = References(before.site.pages), References(after.site.pages)
    texts = {
        key: replace(content, text=updated_links(content.text, markup_of(content), keys, old, new))
        for key, content in contents.items()
    }
    parts = {name: data for name, data in files.items() if name.startswith("parts/") and b"page:" in data}
    found = {
        name: updated_links(files.text(name), "html" if name.endswith(".html") else "markdown", keys, old, new)
        for name in parts
    }
    changed = {name: text.encode() for name, text in found.items() if text != files.text(name)}
    return texts, Files({**files, **changed}) if changed else files


def references_in(content: Content, key: str, plan: Plan) -> list[Place]:
    """The place of every link by key in some content that leads to page ``key``."""
    if "page:" not in content.text:
        return []
    known, lines = References(plan.site.pages), Lines.of(content.text)
    found = page_links(content.text, markup_of(content))
    return [lines.place(match.start()) for _, match in found if known.find(match[1]) == (key,)]
