"""The text of pages: Markdown or HTML, by page key, and what becomes of it."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache

from basilica.core.shared.enhanced_markup import enhanced
from basilica.core.shared.markdown_parser import parser

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
    slug = re.sub(r"[^\w\s-]", "", re.sub(r"\{icon:[^}]*\}", "", heading).strip().lower())
    slug = re.sub(r"[\s_-]+", "-", slug).strip("-") or "section"
    return f"{slug}-section" if slug in _OWN_IDS else slug


_MARKDOWN = parser(_slug)
_plainly_valid = _MARKDOWN.validateLink


def _valid(address: str) -> bool:
    """Whether an address may stand in Markdown. `file:` is a file of the site, and never one of somebody's disk."""
    return not address.startswith("file:/") and (address.startswith("file:") or _plainly_valid(address))


_MARKDOWN.validateLink = _valid  # type: ignore[method-assign, assignment]


_HEAD = re.compile(r"\A---[ \t]*\r?\n(.*?)^---[ \t]*(?:\r?\n|\Z)", re.DOTALL | re.MULTILINE)
_HEAD_WORD = re.compile(r"^[A-Za-z][\w-]*:", re.MULTILINE)


def head_of(content: Content) -> str:
    """The head of YAML that a text begins with; empty where there is none. It is not a part of the text."""
    found = _head(content.text)
    return found[1] if found else ""


def _head(text: str) -> re.Match[str] | None:
    """The head with its lines of `---`. Words between two lines across the page are none; nothing between them is."""
    found = _HEAD.match(text)
    return found if found and (_HEAD_WORD.search(found[1]) or not found[1].strip()) else None


@lru_cache(maxsize=4096)
def as_html(content: Content) -> Body:
    """Content as HTML, its links to pages still written by key. Headings of Markdown get ids;
    tables and code are dressed for every screen."""
    head = _head(content.text)
    text = content.text[head.end() :] if head else content.text
    text = text.replace("\0", "\ufffd")  # no character of a page (HTML, 13.2.3.5); slots are marked by it
    here = key_of(content.name) if content.name.startswith(FOLDER) else None
    markup = enhanced(_MARKDOWN.render(text, {"text": here}) if content.name.endswith(".md") else text)
    return Body(markup, bool(_HEADING_ONE.search(markup)))
