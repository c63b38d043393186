"""The text of pages: Markdown or HTML, by page key, and what becomes of it."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache

from markdown_it import MarkdownIt
from mdit_py_plugins.anchors import anchors_plugin

FOLDER = "content"
SUFFIXES = (".md", ".html")

_HEADING_ONE = re.compile(r"<h1[\s>]", re.IGNORECASE)

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


def is_content_name(name: str) -> bool:
    """Whether a name can be that of a file of content: plain pieces below the folder, so that it leads nowhere else."""
    folder, *pieces = name.split("/")
    return folder == FOLDER and name.endswith(SUFFIXES) and bool(pieces) and all(map(_is_piece, pieces))


def _is_piece(piece: str) -> bool:
    return piece.isprintable() and "\\" not in piece and piece.strip(" .") == piece.strip() != ""


def _slug(heading: str) -> str:
    slug = re.sub(r"[^\w\s-]", "", heading.strip().lower())
    slug = re.sub(r"[\s_-]+", "-", slug).strip("-") or "section"
    return f"{slug}-section" if slug in _OWN_IDS else slug


_MARKDOWN = MarkdownIt("commonmark").use(anchors_plugin, max_level=6, slug_func=_slug)
_plainly_valid = _MARKDOWN.validateLink


def _valid(address: str) -> bool:
    """Whether an address may stand in Markdown. `file:` is a file of the site, and never one of somebody's disk."""
    return not address.startswith("file:/") and (address.startswith("file:") or _plainly_valid(address))


_MARKDOWN.validateLink = _valid  # type: ignore[method-assign, assignment]


@lru_cache(maxsize=4096)
def as_html(content: Content) -> Body:
    """Content as HTML, its links to pages still written by key. Markdown is CommonMark, and its headings get ids."""
    text = content.text.replace("\0", "\ufffd")  # no character of a page (HTML, 13.2.3.5); slots are marked by it
    markup = _MARKDOWN.render(text) if content.name.endswith(".md") else text
    return Body(markup, bool(_HEADING_ONE.search(markup)))
