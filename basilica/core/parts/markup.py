"""The text of a part or of a page as HTML, in which links, files, parts and values are still written by name."""

from __future__ import annotations

import html
import re
from collections import Counter
from collections.abc import Callable

ATTRIBUTES = "href|src|poster|action|data"
"""Attributes in which an address by name may stand."""

VALUES = ("title", "label", "section", "description", "site")
"""What `{…}` in a part stands for: a value of the page it stands on."""

_PART = re.compile(
    r"""<p>\s*<a href="part:(?P<block>[a-z0-9-]+)">[^<]*</a>\s*</p>\n?"""
    r"""|<a href="part:(?P<inline>[a-z0-9-]+)">[^<]*</a>|<part:(?P<tag>[a-z0-9-]+)\s*/?>\n?"""
)
_ADDRESS = re.compile(
    rf"""(?P<before>\s(?:{ATTRIBUTES})\s*=\s*)(?P<quote>["']?)(?P<scheme>page|file):(?P<written>(?(quote)[^"']*|[^\s>"']+))(?P=quote)""",
    re.IGNORECASE,
)
_VALUE = re.compile(r"\{(" + "|".join(VALUES) + r")\}")


def references(markup: str) -> tuple[str, ...]:
    """The names of the parts that stand in some markup, each once."""
    found = (match["block"] or match["inline"] or match["tag"] for match in _PART.finditer(markup))
    return tuple(dict.fromkeys(found))


def occurrences(markup: str) -> dict[str, int]:
    """How often each part stands in some markup."""
    return Counter(match["block"] or match["inline"] or match["tag"] for match in _PART.finditer(markup))


def with_addresses(markup: str, write: Callable[[str, str], str | None]) -> str:
    """Markup with every address by name written out. ``write`` gets the scheme (`page` or `file`) and what is behind
    it, and gives the address as markup; None takes the attribute out and leaves the words."""
    if "page:" not in markup and "file:" not in markup:
        return markup

    def put(match: re.Match[str]) -> str:
        address = write(match["scheme"].lower(), html.unescape(match["written"]))
        return f" data-no-{match['scheme'].lower()}" if address is None else f'{match["before"]}"{address}"'

    return _ADDRESS.sub(put, markup)


def with_parts(markup: str, part: Callable[[str], str]) -> str:
    """Markup with every part in its place. In the middle of a sentence a part of one paragraph is the words of it."""
    if "part:" not in markup:
        return markup

    def put(match: re.Match[str]) -> str:
        if match["inline"]:
            return inline(part(match["inline"]))
        return part(match["block"] or match["tag"])

    return _PART.sub(put, markup)


def with_values(markup: str, value: Callable[[str], str]) -> str:
    """Markup with the values of a page in place of `{title}` and the like."""
    return _VALUE.sub(lambda match: value(match[1]), markup) if "{" in markup else markup


_ALONE = re.compile(r"(?:<div class=\"b-part [^>]*>\s*)?<p>((?:(?!</?p>|</?div).)*)</p>\s*(?:</div>\s*)?", re.DOTALL)


def inline(markup: str) -> str:
    """The inside of the one paragraph that some markup is, or the markup."""
    alone = _ALONE.fullmatch(markup)
    return alone[1] if alone else markup


def rewrite(
    markup: str,
    address: Callable[[str, str], str | None],
    part: Callable[[str], str],
    value: Callable[[str], str] | None = None,
) -> str:
    """All three of these, one after the other; without ``value``, `{…}` stays as it is written."""
    written = with_addresses(markup, address)
    if value is not None:
        written = with_values(written, value)
    return with_parts(written, part)
