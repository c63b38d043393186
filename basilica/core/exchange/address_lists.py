"""Lists of addresses that a site answered once: one a line, a table, a sitemap, or the access log of a server."""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Iterator
from contextlib import suppress
from typing import NamedTuple

from lxml import etree

from basilica.core.rules.limits import OLD_ADDRESSES

_LOG = re.compile(r'"(?:GET|HEAD) (\S+) HTTP/[\d.]+" ([23])\d\d ')
"""A request that was answered, in a line of a log in the common format (Apache httpd, Log Files: Common Log Format)."""
_HEADINGS = ("address", "url", "from", "path", "page", "loc", "link", "source")
"""What the column of the addresses may be called in a table, in the order of likelihood."""
_ORIGIN = re.compile(r"https?://[^/?#]+", re.IGNORECASE)


class AddressList(NamedTuple):
    """The addresses of a list, once each, in its order; ``is_cut`` tells that it has more than are taken."""

    addresses: tuple[str, ...]
    is_cut: bool = False


def read_addresses(text: str) -> AddressList:
    """Every address of a list, from the root of its host; at most ``OLD_ADDRESSES``. Whose host it is does not matter:
    an old site may have had another."""
    found: dict[str, None] = {}
    for address in _written(text.removeprefix("\ufeff")):
        short = _ORIGIN.sub("", address.strip(), count=1).partition("#")[0] or "/"
        if len(found) >= OLD_ADDRESSES:
            return AddressList(tuple(found), True)
        found[short if short.startswith("/") else f"/{short}"] = None
    return AddressList(tuple(found))


def _written(text: str) -> Iterator[str]:
    """The addresses as they are written, by what the text looks like."""
    if text.lstrip().startswith("<"):
        yield from _in_sitemap(text)
    elif _LOG.search(text[:20_000]):
        yield from (found[1] for found in _LOG.finditer(text))
    elif re.search(r"[,;\t]", text.partition("\n")[0]):
        yield from _in_table(text)
    else:
        lines = [line.strip() for line in text.splitlines() if line.strip()]
        heading = bool(lines) and lines[0].casefold() in _HEADINGS
        yield from (line for line in lines[heading:] if not line.startswith("# "))


def _in_sitemap(text: str) -> Iterator[str]:
    """The `loc` of every entry (sitemaps.org protocol 0.9), or the addresses of any other XML that has these."""
    parser = etree.XMLParser(recover=True, resolve_entities=False, no_network=True, huge_tree=False)
    root = etree.fromstring(text.encode(), parser)
    for node in root.iter() if root is not None else ():
        if isinstance(node.tag, str) and etree.QName(node).localname == "loc" and node.text:
            yield node.text.strip()


def _in_table(text: str) -> Iterator[str]:
    """The cells of the column of addresses: by its heading, else the first that looks like one."""
    delimiter = max(",;\t", key=text.partition("\n")[0].count)
    rows: list[list[str]] = []
    with suppress(csv.Error):  # what could be read counts
        rows.extend(row for row in csv.reader(io.StringIO(text, newline=None), delimiter=delimiter) if row)
    if not rows:
        return
    headings = [cell.strip().casefold() for cell in rows[0]]
    named = next((headings.index(name) for name in _HEADINGS if name in headings), None)
    column = named
    if column is None:
        column = next((at for at, cell in enumerate(rows[0]) if _looks_like_one(cell)), 0)
    for row in rows if named is None else rows[1:]:
        if column < len(row) and (_looks_like_one(row[column]) or named is not None) and row[column].strip():
            yield row[column]


def _looks_like_one(cell: str) -> bool:
    return cell.strip().startswith(("/", "http://", "https://"))
