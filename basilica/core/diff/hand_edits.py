"""An edit that somebody made in a built page by hand, brought back into the content that the page was made of.

Where the edit belongs in the content is found by the words around it. What comes of it is a proposal: whoever asks
builds the page from it, and takes it only where that gives the edited page.
"""

from __future__ import annotations

import html
import re
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace
from difflib import SequenceMatcher

_TOKEN = re.compile(r"<!--.*?-->|<[^>]*>|[^<\s]+|\s+", re.DOTALL)
_WORD = re.compile(r"[^\W_]+", re.UNICODE)
_BLOCK = re.compile(r"</?(?:p|div|ul|ol|li|h[1-6]|table|section)\b[^>]*>", re.IGNORECASE)
_PARAGRAPH = re.compile(r"<p\b[^>]*>(.*?)</p\s*>", re.IGNORECASE | re.DOTALL)
_AROUND = 8
"""Words before and behind an edit by which its place is found, at most."""
_MOST = 40
"""Edits in one page that are looked for."""


@dataclass(frozen=True, slots=True)
class HandEdit:
    """One edit: what stood in the page and what stands there now, as markup; and the words before it and behind it."""

    old: str
    new: str
    before: tuple[str, ...]
    behind: tuple[str, ...]


def hand_edits(built: str, live: str) -> tuple[HandEdit, ...]:
    """What was edited in a page, from what was built to what is live; white space does not count."""
    ours, theirs = ([one for one in _TOKEN.findall(text) if one.strip()] for text in (built, live))
    found = []
    for kind, a, b, c, d in SequenceMatcher(None, ours, theirs, autojunk=False).get_opcodes():
        if kind != "equal":
            before, behind = _words(ours[:a])[-_AROUND:], _words(ours[b:])[:_AROUND]
            found.append(HandEdit(_joined(built, ours, a, b), _joined(live, theirs, c, d), before, behind))
    return tuple(found)


def _joined(text: str, tokens: Sequence[str], start: int, end: int) -> str:
    """The tokens with single spaces where white space stands between them."""
    at, pieces = 0, list[str]()
    for number, token in enumerate(tokens[:end]):
        place = text.index(token, at)
        if number >= start:
            pieces.append((" " if pieces and place > at else "") + token)
        at = place + len(token)
    return "".join(pieces)


def _words(tokens: Sequence[str]) -> tuple[str, ...]:
    text = html.unescape(" ".join(token for token in tokens if not token.startswith("<")))
    return tuple(_WORD.findall(text))


_Write = Callable[[str, int, int, HandEdit], str]


def taken_over(built: str, live: str, source: str, is_markdown: bool) -> Iterator[str]:
    """Proposals for the content of a page, ``source``, with what was edited in the page; none where an edit has no
    place in it."""
    edits = hand_edits(built, live)
    if not edits or len(edits) > _MOST:
        return
    texts: list[tuple[tuple[int, int], HandEdit]] = []
    words = [(one.group(), one.start(), one.end()) for one in _WORD.finditer(source)]
    for edit in edits:
        place = _place(words, edit, len(source))
        if place is None:
            return
        texts.append((place, edit))
    for write in _IN_MARKDOWN if is_markdown else (_as_written, _before(lambda markup: markup)):
        done = source
        for (start, end), edit in sorted(texts, key=lambda one: -one[0][0]):
            done = write(done, start, end, edit)
        yield done


def _place(words: Sequence[tuple[str, int, int]], edit: HandEdit, size: int) -> tuple[int, int] | None:
    """Where the words that were edited stand in the content, told from others of the same kind by those around them;
    for what is new, from behind the words before it to those behind it."""
    own = _WORD.findall(html.unescape(re.sub(r"<[^>]*>", " ", edit.old)))
    if not words and not own:
        return 0, size  # a page that had no words of its own
    plain = [word for word, _, _ in words]
    found = []
    for start in range(len(plain) - len(own) + 1):
        if plain[start : start + len(own)] == own:
            score = _same(reversed(plain[:start]), reversed(edit.before)) + _same(
                plain[start + len(own) :], edit.behind
            )
            found.append((score, start))
    found.sort(reverse=True)
    if not found or not found[0][0] or (len(found) > 1 and found[1][0] == found[0][0]):
        return None
    start = found[0][1]
    if own:
        return words[start][1], words[start + len(own) - 1][2]
    return (words[start - 1][2] if start else 0), (words[start][1] if start < len(words) else size)


def _same(one: object, two: object) -> int:
    count = 0
    for mine, theirs in zip(one, two, strict=False):  # type: ignore[call-overload]
        if mine != theirs:
            break
        count += 1
    return count


def _as_text(source: str, start: int, end: int, edit: HandEdit) -> str:
    """The words of the edit in place of those that were there, or behind the words before it."""
    new = _text_of(edit.new)
    if not edit.old:
        return source[:start] + " " + new + source[start:]
    start, end = _spelled(source, start, end, _text_of(edit.old))
    if not new and source[end : end + 1].isspace():
        end += 1
    return source[:start] + new + source[end:]


def _before(spelled: Callable[[str], str]) -> _Write:
    """New words before those behind the edit: at the beginning of a block. Of others, the words alone."""

    def write(source: str, start: int, end: int, edit: HandEdit) -> str:
        if edit.old:
            return _as_text(source, start, end, edit)
        return source[:end] + spelled(edit.new) + " " + source[end:]

    return write


def _text_of(markup: str) -> str:
    return html.unescape(re.sub(r"<[^>]*>", "", markup)).strip()


def _spelled(source: str, start: int, end: int, old: str) -> tuple[int, int]:
    """Where some words stand with what is between and around them, however their lines are broken."""
    pattern = r"\s+".join(re.escape(word) for word in old.split())
    for found in re.finditer(pattern, source[max(0, start - 20) :]):
        first, last = (at + max(0, start - 20) for at in found.span())
        if first <= start and last >= end:
            return first, last
    return start, end


def _as_block(source: str, start: int, end: int, edit: HandEdit) -> str:
    """New paragraphs behind the block of the words before them; or one that is gone, with its block."""
    if not edit.new:
        begins, closes = source.rfind("\n\n", 0, start) + 1, source.find("\n\n", end)
        return source[:begins].rstrip("\n") + ("\n" if closes < 0 else source[closes:])
    texts = [" ".join(one.split()) for one in _PARAGRAPH.findall(edit.new)] or [_BLOCK.sub(" ", edit.new).strip()]
    closes = source.find("\n\n", start)
    at = closes if closes >= 0 else len(source.rstrip("\n"))
    new = "".join(f"\n\n{html.unescape(text)}" for text in texts)
    return (source[:at] + new + (source[at:] or "\n")).lstrip("\n")


def _as_written(source: str, start: int, end: int, edit: HandEdit) -> str:
    """The markup of the edit as it stands in the page."""
    at = source.find(edit.old, max(0, start - 200)) if edit.old else -1
    if at >= 0:
        return source[:at] + edit.new + source[at + len(edit.old) :]
    if not edit.old:
        closes = re.compile(r"\s*</[a-zA-Z0-9]+\s*>|[.,;:!?)]").match(source, start)
        start = end = closes.end() if closes else start
        return source[:start] + ("\n" if edit.new.startswith("<") else " ") + edit.new + source[end:]
    return source[:start] + edit.new + source[end:]


def _as_marked(source: str, start: int, end: int, edit: HandEdit) -> str:
    """New words as Markdown, behind the words before them."""
    return _as_written(source, start, end, replace(edit, new=_markdown_of(edit.new)))


_SIGNS = {"em": "*", "strong": "**", "code": "`"}
_SIGNED = re.compile(r"<(em|strong|code)>(.*?)</\1>", re.DOTALL)
_LINKED = re.compile(r'<a href="([^"]*)">(.*?)</a>', re.DOTALL)


def _markdown_of(markup: str) -> str:
    """The words of a piece of a page with their emphasis, code and links."""
    linked = _LINKED.sub(lambda found: f"[{found[2]}]({found[1]})", markup)
    signed = _SIGNED.sub(lambda found: _SIGNS[found[1]] + found[2] + _SIGNS[found[1]], linked)
    return html.unescape(signed).strip()


_IN_MARKDOWN: tuple[_Write, ...] = (
    _as_text,
    _before(_text_of),
    _as_block,
    _as_marked,
    _before(_markdown_of),
    _as_written,
)
