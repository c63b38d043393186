"""How deep the elements of a page stand in one another, told from its tags before it is parsed.

A parser of HTML takes a time that grows with the square of the depth. So a page is read up to where it is deeper than
any page that browsers show as it is written; they stop at about the same depth.
"""

from __future__ import annotations

import re

from basilica.core.rules.limits import ELEMENT_DEPTH

_TAG = re.compile(rb"<(?:(!--)|(/?)([a-zA-Z][a-zA-Z0-9-]*))")
_NEVER_DEEP = frozenset(
    b"area base br col embed hr img input link meta param source track wbr"  # void elements
    b" p li dt dd option optgroup rt rp rb rtc tr thead tbody tfoot colgroup html head body frameset frame".split()
)
"""Elements that hold nothing, those that the next of their kind ends (HTML, void elements and optional tags), and those
that are not put into a body: of themselves they do not nest."""
_CELLS = frozenset([b"td", b"th", b"caption"])
_ROWS = _CELLS | {b"tr", b"tbody", b"thead", b"tfoot", b"colgroup", b"col"}
"""What begins after a cell, and so ends it."""
_RAW = frozenset([b"script", b"style", b"textarea", b"title", b"xmp"])
"""Elements in which `<` begins no tag."""
_FOREIGN = frozenset([b"svg", b"math"])
_HTML_AGAIN = frozenset(
    b"b big blockquote body br center code dd div dl dt em embed h1 h2 h3 h4 h5 h6 head hr i img li listing menu meta"
    b" nobr ol p pre ruby s small span strong strike sub sup table tt u ul var".split()
)
"""Elements that end a drawing or a formula in which they begin."""
_HTML_WITHIN = frozenset(b"foreignobject desc title annotation-xml mi mo mn ms mtext".split())
"""Elements of drawings and formulas in which HTML can stand."""
_FORMATTING = frozenset(b"a b big code em font i nobr s small strike strong tt u".split())
"""Elements that go on after what they stand in is closed, until they are closed themselves (HTML, the list of active
formatting elements)."""
_BLOCKS = frozenset(
    b"address applet article aside blockquote button center details dialog dir div dl fieldset figcaption figure footer"
    b" form h1 h2 h3 h4 h5 h6 header hgroup iframe listing main marquee menu nav noembed noscript object ol plaintext"
    b" pre search section select summary table template ul".split()
)
"""Elements past which an end tag of others does not reach (HTML, the special category)."""
_REACHING = _BLOCKS - frozenset(b"iframe noembed noscript plaintext select".split())
"""Blocks whose end tag reaches past others."""
_SCOPES = _CELLS | {b"applet", b"marquee", b"object", b"select", b"table", b"template"}
"""Elements in which an end tag reaches nothing outside (HTML, element scope; and that of `select`)."""


_MARK = b"*"
"""Before the name of an element of a drawing or a formula, among those that are open."""


def within_depth(data: bytes, deepest: int = ELEMENT_DEPTH) -> bytes:
    """The HTML up to the first tag that is deeper than ``deepest`` elements; all of it where none is. One walk."""
    if data.count(b"<") <= deepest:
        return data
    stack: list[bytes] = []
    skip = end = 0
    for found in _TAG.finditer(data):
        if found.start() < skip:
            continue
        closing, name = found[2], (found[3] or b"").lower()
        if found[1] or (name in _RAW and not closing and not _is_foreign(stack)):
            skip = data.find(b"-->" if found[1] else b"</" + found[3], found.end())
            if skip < 0:
                return data  # all that follows is inside it
        elif closing:
            _close(stack, name)
        else:
            if end < found.end():
                end = data.find(b">", found.end()) % (len(data) + 1)
            _open(stack, name, data[end - 1 : end] == b"/")
        if len(stack) > deepest:
            return data[: found.start()]
    return data


def _is_foreign(stack: list[bytes]) -> bool:
    """Whether what begins here is of a drawing or a formula."""
    return bool(stack) and stack[-1].startswith(_MARK) and stack[-1][1:] not in _HTML_WITHIN


def _open(stack: list[bytes], name: bytes, ends: bool) -> None:
    """What a start tag adds to the elements that are open: never less than a parser does. ``ends`` tells that it is
    written with `/>`, which closes what is of a drawing or a formula, and nothing else."""
    if name in _HTML_AGAIN:
        _leave(stack)
    if name in _FOREIGN or _is_foreign(stack):
        if not ends:
            stack.append(_MARK + name)
        return
    if name in _ROWS:
        _close_cell(stack)
    if name in (b"a", b"nobr"):
        _close(stack, name)
    if name not in _NEVER_DEEP and name not in _RAW and (name not in _CELLS or b"table" in stack):
        stack.append(name)


def _close(stack: list[bytes], name: bytes) -> None:
    """What an end tag closes of the elements that are open: never more than a parser does."""
    if name in (b"p", b"br"):
        _leave(stack)
    for at in range(len(stack) - 1, -1, -1):
        if stack[at] == _MARK + name:
            del stack[at:]
            return
        if not stack[at].startswith(_MARK):
            break
    if name in _CELLS or name == b"table":
        _close_cell(stack)
    stops = _SCOPES if name in _REACHING or name in _FORMATTING else _BLOCKS | _SCOPES
    for at in range(len(stack) - 1, -1, -1):
        if stack[at] == name:
            alone = name in _FORMATTING or name == b"form"
            above = stack[at + 1 :]
            stack[at:] = above if alone else [each for each in above if each in _FORMATTING]
            return
        if stack[at].removeprefix(_MARK) in _HTML_WITHIN or stack[at] in stops:
            return


def _leave(stack: list[bytes]) -> None:
    """End a drawing or a formula, up to where HTML can stand in it."""
    while _is_foreign(stack):
        stack.pop()


def _close_cell(stack: list[bytes]) -> None:
    """Close the cell of a table that is open, with all that is in it."""
    for at in range(len(stack) - 1, -1, -1):
        if stack[at] in _CELLS and b"table" in stack[:at]:
            del stack[at:]
            return
        if stack[at] in (b"table", b"template"):
            return
