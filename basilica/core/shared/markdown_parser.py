"""The Markdown that content is written in: CommonMark, and what people write beside it.

Tables, task lists, strikethrough and bare links are those of GitHub Flavored Markdown 0.29, an open specification;
footnotes, lists of terms, ids of headings and notices are those in common use.
"""

from __future__ import annotations

import posixpath
import re
from collections.abc import Callable, Sequence
from functools import cache
from typing import Any
from urllib.parse import unquote

from markdown_it import MarkdownIt
from markdown_it.common.utils import escapeHtml
from markdown_it.renderer import RendererHTML
from markdown_it.rules_core import StateCore
from markdown_it.token import Token
from mdit_py_plugins.anchors import anchors_plugin
from mdit_py_plugins.container import container_plugin
from mdit_py_plugins.deflist import deflist_plugin
from mdit_py_plugins.footnote import footnote_plugin
from mdit_py_plugins.gfm_autolink import gfm_autolink_plugin

NOTICE = "notice"
_OWN_ID = re.compile(r"\s*\{#([A-Za-z][\w-]*)\}\s*$")
_TEXT = re.compile(r"(?P<path>(?!/)[^:?#]+)\.md(?P<anchor>#[^#]*)?")
"""The address of another text, relative to this one."""
_TEXTS, _BESIDE = "content", ("files/", "public/")
"""The folder of the texts, and those beside it to whose files a text can lead."""
_CELLS = {"text-align:right": "b-end", "text-align:center": "b-center"}
"""How a column stands, as the class that says it: inline style has no place in a page."""


@cache
def parser(slug: Callable[[str], str] | None = None) -> MarkdownIt:
    """A parser of that Markdown; with ``slug``, which makes ids of words, headings get ids."""
    markdown = MarkdownIt("commonmark", {"tasklists": True, "strikethrough_single_tilde": False})
    markdown.enable(["table", "strikethrough"])
    markdown.use(gfm_autolink_plugin).use(footnote_plugin, inline=False).use(deflist_plugin)
    markdown.use(container_plugin, NOTICE, render=_notice)
    if slug is not None:
        markdown.use(anchors_plugin, max_level=6, slug_func=slug)
    markdown.core.ruler.push("links_to_texts", _links_to_texts)
    markdown.core.ruler.push("own_ids", _own_ids)
    markdown.core.ruler.push("cells_and_boxes", _cells_and_boxes)
    for name, rule in _RULES.items():
        markdown.add_render_rule(name, rule)
    return markdown


def _links_to_texts(state: StateCore) -> None:
    """`[the calendar](../milling/calendar.md#march)` leads to the page of that text, and `../public/timetable.pdf` to
    the file. Which text this is, stands in the environment as `text`, such as `visit/hours`."""
    here = state.env.get("text")
    if here is None:
        return
    for token in state.tokens:
        for child in token.children or ():
            for name in ("href", "src"):
                better = by_name(str(child.attrs.get(name, "")), here)
                if better is not None:
                    child.attrSet(name, better)


def by_name(address: str, here: str) -> str | None:
    """A relative address in the text ``here``, such as `visit/hours`, as one by name: of the page of another text, or
    of a file in a folder beside the texts; None where it leads to neither."""
    found = _TEXT.fullmatch(address)
    if found:
        key = posixpath.normpath(posixpath.join(posixpath.dirname(here), unquote(found["path"])))
        return f"page:{key.removesuffix('/index')}{found['anchor'] or ''}"
    path = posixpath.normpath(posixpath.join(_TEXTS, posixpath.dirname(here), address))
    return f"file:{path}" if address.startswith("../") and path.startswith(_BESIDE) else None


def _own_ids(state: StateCore) -> None:
    """`## Opening hours {#hours}`: the heading has that id, and its words lack it."""
    for heading, inline in zip(state.tokens, state.tokens[1:], strict=False):
        if heading.type != "heading_open" or not inline.children:
            continue
        found = _OWN_ID.search(inline.children[-1].content) if inline.children[-1].type == "text" else None
        if found:
            heading.attrSet("id", found[1])
            inline.children[-1].content = inline.children[-1].content[: found.start()]


def _cells_and_boxes(state: StateCore) -> None:
    """Cells have their alignment by class; the words of a task are the label of its box."""
    for at, token in enumerate(state.tokens):
        if token.type in ("th_open", "td_open") and "style" in token.attrs:
            named = _CELLS.get(str(token.attrs.pop("style")))
            if named:
                token.attrSet("class", named)
        if "task-list" in str(token.attrs.get("class", "")):
            token.attrSet("class", "b-tasks" if token.type.endswith("list_open") else "b-task")
        if token.type == "list_item_open" and "checked" in token.meta:
            checked = " checked" if token.meta.pop("checked") else ""
            words = next((each for each in state.tokens[at + 1 : at + 3] if each.type == "inline"), None)
            if words is not None:
                box = Token("html_inline", "", 0, content=f'<label><input type="checkbox" disabled{checked}> ')
                words.children = [box, *(words.children or []), Token("html_inline", "", 0, content="</label>")]


def _notice(renderer: RendererHTML, tokens: Sequence[Token], at: int, options: Any, environment: Any) -> str:
    """`::: notice Bring boots`, some Markdown, `:::`: a notice with that title."""
    if tokens[at].nesting < 0:
        return "</div>\n"
    title = tokens[at].info.strip().removeprefix(NOTICE).strip()
    said = f"<p><strong>{escapeHtml(title)}</strong></p>\n" if title else ""
    return f'<div class="b-notice" role="note">\n{said}'


Rule = Callable[[RendererHTML, Sequence[Token], int, Any, Any], str]


def _number(tokens: Sequence[Token], at: int) -> int:
    return int(tokens[at].meta["id"]) + 1


def _reference(_: RendererHTML, tokens: Sequence[Token], at: int, *__: Any) -> str:
    number, again = _number(tokens, at), int(tokens[at].meta.get("subId", 0))
    own = f"{number}-{again}" if again else str(number)
    return f'<sup><a href="#note-{number}" id="note-of-{own}">{number}</a></sup>'


def _back(_: RendererHTML, tokens: Sequence[Token], at: int, *__: Any) -> str:
    number, again = _number(tokens, at), int(tokens[at].meta.get("subId", 0))
    own = f"{number}-{again}" if again else str(number)
    return f' <a href="#note-of-{own}" aria-label="{own}">↩</a>'


_RULES: dict[str, Rule] = {
    "s_open": lambda *_: "<del>",
    "s_close": lambda *_: "</del>",
    "footnote_ref": _reference,
    "footnote_block_open": lambda *_: '<section class="b-notes">\n<ol>\n',
    "footnote_block_close": lambda *_: "</ol>\n</section>\n",
    "footnote_open": lambda _, tokens, at, *__: f'<li id="note-{_number(tokens, at)}">',
    "footnote_close": lambda *_: "</li>\n",
    "footnote_anchor": _back,
}
