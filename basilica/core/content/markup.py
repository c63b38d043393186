"""The text of a part or of a page as HTML, in which links, files, parts and values are still written by name.

The markup is read tag by tag, and only what was found to be an address, a part or a value is replaced: all else stays
letter for letter. What shows code is shown as it is written: nothing is replaced inside ``pre``, ``code``, comments,
scripts, styles and other elements whose text is no markup.
"""

from __future__ import annotations

import html
import re
from collections import Counter
from collections.abc import Callable, Iterator
from urllib.parse import quote

from basilica.core.shared.facts import telephone
from basilica.core.shared.html_scanner import RAW_TEXT, Attribute, Piece, Replacement, attributes, replaced, scan
from basilica.core.shared.icons import drawn, shapes

ATTRIBUTES = frozenset([b"href", b"src", b"poster", b"action", b"data"])
"""Attributes in which an address by name may stand."""

VALUES = ("title", "label", "section", "description", "site")
"""What `{…}` in a part stands for: a value of the page it stands on."""

_CODE = frozenset([b"pre", b"code"])
_PART = re.compile(
    rb"""<p>\s*<a href="part:(?P<block>[a-z0-9-]+)">[^<]*</a>\s*</p>\n?"""
    rb"""|<a href="part:(?P<inline>[a-z0-9-]+)">[^<]*</a>"""
    rb"""|<part:(?P<tag>[a-z0-9-]+)\s*/?>(?:</part:(?P=tag)>)?\n?"""
)
_SCHEME = re.compile(rb"(page|file):", re.IGNORECASE)
_FACT = re.compile(rb"(?P<dials>\btel:)?(?:\{fact:(?P<name>[a-z0-9-]+)\}|%7[Bb]fact:(?P<coded>[a-z0-9-]+)%7[Dd])")
"""As it is written, and as Markdown writes it in an address."""
_ICON = re.compile(rb"\{icon:([a-z0-9-]{1,60})\}")
_VALUE = re.compile(rb"\{(" + "|".join(VALUES).encode() + rb")\}")


def references(markup: str) -> tuple[str, ...]:
    """The names of the parts that stand in some markup, each once."""
    return tuple(dict.fromkeys(_name_of(found) for found in _parts(_encoded(markup))))


def occurrences(markup: str) -> dict[str, int]:
    """How often each part stands in some markup."""
    return Counter(_name_of(found) for found in _parts(_encoded(markup)))


def with_addresses(markup: str, write: Callable[[str, str], str | None]) -> str:
    """Markup with every address by name written out. ``write`` gets the scheme (`page` or `file`) and what is behind
    it, and gives the address as markup; None takes the attribute out and leaves the words."""
    if "page:" not in markup.lower() and "file:" not in markup.lower():
        return markup
    data = _encoded(markup)
    found: list[Replacement] = []
    for attribute, scheme in _addresses(data):
        written = data[attribute.value_start + len(scheme) + 1 : attribute.value_end]
        address = write(scheme, html.unescape(_decoded(written)))
        if address is None:
            found.append((attribute.start, attribute.end, b"data-no-" + scheme.encode()))
        else:
            quoted = attribute.end > attribute.value_end
            found.append((attribute.value_start - quoted, attribute.end, _encoded(f'"{address}"')))
    return _decoded(replaced(data, found))


def with_links(markup: str, change: Callable[[str], str | None]) -> str:
    """Markup with other addresses. ``change`` gets each as it is meant, and gives what is to be written in its place,
    as markup; None leaves it. Those that ``with_addresses`` would not write out, such as in code, are left as well."""
    data = _encoded(markup)
    found: list[Replacement] = []
    for piece, code in _tags(data):
        for one in attributes(data, piece) if piece.kind == "open" and not code else ():
            if one.name not in ATTRIBUTES or one.value_end <= one.value_start:
                continue
            address = change(html.unescape(_decoded(data[one.value_start : one.value_end])))
            if address is not None:
                quoted = one.end > one.value_end
                found.append((one.value_start - quoted, one.end, _encoded(f'"{address}"')))
    return _decoded(replaced(data, sorted(found)))


def address_spans(markup: str) -> list[tuple[int, int]]:
    """Where the addresses by name of pages stand in some markup: the offsets, in characters, of each value."""
    if "page:" not in markup.lower():
        return []
    data = _encoded(markup)
    found: list[tuple[int, int]] = []
    done = characters = 0
    for one, scheme in _addresses(data):
        if scheme == "page":
            start = characters + len(_decoded(data[done : one.value_start]))
            characters = start + len(_decoded(data[one.value_start : one.value_end]))
            done = one.value_end
            found.append((start, characters))
    return found


def with_parts(markup: str, part: Callable[[str], str]) -> str:
    """Markup with every part in its place. In the middle of a sentence a part of one paragraph is the words of it."""
    if "part:" not in markup:
        return markup
    data = _encoded(markup)
    found: list[Replacement] = []
    for match in _parts(data):
        text = part(_name_of(match))
        found.append((match.start(), match.end(), _encoded(inline(text) if match["inline"] else text)))
    return _decoded(replaced(data, found))


def with_values(markup: str, value: Callable[[str], str]) -> str:
    """Markup with the values of a page in place of `{title}` and the like, in text and in attributes."""
    if "{" not in markup:
        return markup
    data = _encoded(markup)
    found: list[Replacement] = []
    for start, end in _outside_code(data):
        for match in _VALUE.finditer(data, start, end):
            found.append((match.start(), match.end(), _encoded(value(match[1].decode()))))
    return _decoded(replaced(data, found))


def with_facts(markup: str, fact: Callable[[str], str | None]) -> str:
    """Markup with every fact in place of `{fact:name}`, in text and in attributes; where ``fact`` gives None it stays
    as it is written. In a link that dials, a number is written as it is dialled."""
    if "fact:" not in markup:
        return markup
    data = _encoded(markup)
    found: list[Replacement] = []
    for start, end in _outside_code(data):
        for match in _FACT.finditer(data, start, end):
            text = fact((match["name"] or match["coded"]).decode())
            if text is None:
                continue
            if match["dials"]:
                text = match["dials"].decode() + telephone(text)
            elif match["coded"]:
                text = quote(text, safe="@:/?=&+,;")
            found.append((match.start(), match.end(), _encoded(html.escape(text))))
    return _decoded(replaced(data, found))


def with_icons(markup: str, icon: Callable[[str], str | None]) -> str:
    """Markup with a drawing in place of every `{icon:name}` that stands between tags; where ``icon`` gives None it
    stays as it is written."""
    if "{icon:" not in markup:
        return markup
    data = _encoded(markup)
    found: list[Replacement] = []
    for start, end in _outside_code(data):
        for match in _ICON.finditer(data, start, end) if data[start : start + 1] != b"<" else ():
            drawing = icon(match[1].decode())
            if drawing is not None:
                found.append((match.start(), match.end(), _encoded(drawing)))
    return _decoded(replaced(data, found))


def drawn_icon(name: str) -> str | None:
    """The drawing of an icon; None where there is none of the name."""
    return drawn(name) if name in shapes() else None


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
    fact: Callable[[str], str | None] = lambda name: None,
) -> str:
    """All of these, one after the other; without ``value``, `{title}` and the like stay as they are written."""
    written = with_icons(with_facts(with_addresses(markup, address), fact), drawn_icon)
    if value is not None:
        written = with_values(written, value)
    return with_parts(written, part)


def _encoded(text: str) -> bytes:
    return text.encode("utf-8", "surrogatepass")


def _decoded(data: bytes) -> str:
    return data.decode("utf-8", "surrogatepass")


def _tags(data: bytes) -> Iterator[tuple[Piece, bool]]:
    """Every piece of some markup, and whether it stands in code."""
    depth = 0
    for piece in scan(data):
        if piece.kind == "close" and piece.name in _CODE:
            depth = max(depth - 1, 0)
        yield piece, depth > 0
        if piece.kind == "open" and piece.name in _CODE:
            depth += 1


def _outside_code(data: bytes) -> Iterator[tuple[int, int]]:
    """The stretches of some markup that show no code: tags, and text that is no comment and no script."""
    done, in_code = 0, False
    for piece, code in _tags(data):
        if not in_code:
            yield done, piece.start
        if piece.kind in ("open", "close") and not code:
            yield piece.start, piece.end
        # Behind the opening tag of a script comes its closing tag, and what is between them is no markup.
        in_code = code or (piece.kind == "open" and (piece.name in _CODE or piece.name in RAW_TEXT))
        done = piece.end
    if not in_code:
        yield done, len(data)


def _addresses(data: bytes) -> Iterator[tuple[Attribute, str]]:
    """Every attribute whose value is an address by name, and the scheme of it."""
    for piece, code in _tags(data):
        if code or piece.kind != "open" or not _SCHEME.search(data, piece.start, piece.end):
            continue
        for attribute in attributes(data, piece):
            scheme = _SCHEME.match(data, attribute.value_start, attribute.value_end)
            if scheme and attribute.name in ATTRIBUTES:
                yield attribute, scheme[1].decode().lower()


def _parts(data: bytes) -> Iterator[re.Match[bytes]]:
    """Every part by name, outside code."""
    if b"part:" not in data:
        return
    done = 0
    for piece, code in _tags(data):
        match = _PART.match(data, piece.start) if piece.kind == "open" and not code and piece.start >= done else None
        if match:
            done = match.end()
            yield match


def _name_of(found: re.Match[bytes]) -> str:
    return (found["block"] or found["inline"] or found["tag"]).decode()
