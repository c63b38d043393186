"""What the text of a page needs to be right on every screen: tables that scroll by themselves, and code in colours."""

from __future__ import annotations

import html
import re
from functools import lru_cache

from basilica.core.shared.html_scanner import Piece, Replacement, replaced, scan

CODE_CLASS = "b-code"
"""On code that has colours."""

_CODE = re.compile(r'<pre><code class="language-([\w+#.-]{1,40})">(.*?)</code></pre>', re.DOTALL)
_TAG = re.compile(r"<[^>]*>")
_HEADINGS = frozenset(f"h{level}".encode() for level in range(1, 7))
_BOXED = _HEADINGS | {b"table"}
_CAPTION = re.compile(rb"\s*<caption[^>]*>(.*?)</caption>", re.DOTALL | re.IGNORECASE)
_MOST_CODE = 100_000
"""Characters of a piece of code that gets colours; longer ones stay plain."""
CODE_NAMES = {
    "keyword": ("k", "kd", "kn", "kr", "kt", "ow", "nt"),
    "name": ("nf", "nc", "na", "nb", "nd", "fm"),
    "string": ("s", "s1", "s2", "sb", "sd", "sr", "l", "ld"),
    "number": ("m", "mi", "mf", "mh", "kc", "no"),
    "comment": ("c", "c1", "cm", "cp", "cpf"),
}
"""The short names that Pygments has for what stands in code, by what they look like here."""
CODE_COLOURS = {"keyword": "link", "name": "current", "string": "hover", "number": "current", "comment": "quiet"}
"""The colours of the theme that these have."""


def enhanced(markup: str) -> str:
    """Markup whose tables stand in a box that scrolls by itself and can be reached by keys, and whose code, where it
    says its language, has colours by classes. All else stays letter for letter."""
    if "<table" in markup:
        markup = _with_boxes(markup)
    markup = markup.replace("<pre><code>", '<pre tabindex="0"><code>')  # what scrolls is reached by keys
    if 'class="language-' in markup:
        markup = _CODE.sub(lambda found: coloured(found[1], html.unescape(found[2])) or found[0], markup)
    return markup


def _with_boxes(markup: str) -> str:
    """Every outermost table in its box, which is called by its caption, or else by the heading above it."""
    data = markup.encode("utf-8", "surrogatepass")
    found: list[Replacement] = []
    heading = b""
    begins: list[Piece] = []
    """The tables, captions and headings that are open."""
    for piece in scan(data, _BOXED):
        if piece.kind == "open":
            begins.append(piece)
            continue
        if not begins or begins[-1].name != piece.name:
            return markup  # a table without an end would take the rest of the page into its box
        begun = begins.pop()
        outermost = not any(each.name == b"table" for each in begins)
        if piece.name == b"table" and outermost:
            words = _caption(data[begun.end : piece.start]) or heading
            found += [(begun.start, begun.start, _box(words)), (piece.end, piece.end, b"</div>")]
        elif piece.name in _HEADINGS and outermost:
            heading = data[begun.end : piece.start]
    return markup if begins else replaced(data, found).decode("utf-8", "surrogatepass")


def _caption(table: bytes) -> bytes:
    found = _CAPTION.match(table)
    return found[1] if found else b""


def _box(label: bytes) -> bytes:
    words = " ".join(html.unescape(_TAG.sub("", label.decode("utf-8", "replace"))).split())
    named = f' aria-label="{html.escape(words)}"' if words else ""
    return f'<div class="b-table" role="group" tabindex="0"{named}>'.encode()


_SPECIAL = re.compile(
    r"<(?:pre|code|kbd|table|figure|blockquote|input|select|textarea)\b|class=\"b-(?:wide|full|notice|notes)\b"
)


def has_special(markup: str) -> bool:
    """Whether there is more in a text than headings, paragraphs, lists and pictures."""
    return _SPECIAL.search(markup) is not None


@lru_cache(maxsize=2048)
def coloured(language: str, code: str) -> str | None:
    """Code with colours by classes; None for a language that is not known."""
    from pygments import highlight
    from pygments.formatters import HtmlFormatter
    from pygments.lexers import get_lexer_by_name
    from pygments.util import ClassNotFound

    if len(code) > _MOST_CODE:
        return None
    try:
        lexer = get_lexer_by_name(language, stripnl=False)
    except ClassNotFound:
        return None
    inside = highlight(code, lexer, HtmlFormatter(nowrap=True))
    return f'<pre class="{CODE_CLASS}" tabindex="0"><code class="language-{language}">{inside}</code></pre>'
