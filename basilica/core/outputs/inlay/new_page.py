"""A new page made like one that exists: its head, its looks and its marks, with room for a text of its own."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator
from dataclasses import dataclass

from markupsafe import escape

from basilica.core.outputs.inlay.inlay_marks import CannotInlay, regions_in
from basilica.core.outputs.inlay.marked_regions import CONTENT
from basilica.core.outputs.inlay.page_head import Span, in_head, said_of
from basilica.core.shared.html_scanner import Piece, Replacement, attributes, replaced, scan
from basilica.core.shared.locales import is_right_to_left
from basilica.core.shared.moved_links import moved_links
from basilica.core.shared.page_encoding import encoding_of

_HEADING = re.compile(rb"<(h[1-6])\b([^>]*)>", re.IGNORECASE)


@dataclass(frozen=True, slots=True)
class NewPage:
    """What is known of a new page: its file, the title that browsers show, its heading (empty: its text has one), its
    description (empty: none), its text as HTML (empty: none yet), and its language (empty: that of its model)."""

    file: str
    title: str
    heading: str
    description: str = ""
    text: str = ""
    language: str = ""


def page_like(model: bytes, model_file: str, new: NewPage) -> bytes:
    """The bytes of a new page. Links that lead on from where ``model`` stands lead to the same places from the new one.
    Raises ``CannotInlay`` for a model that has no marks, and for one without a place for content."""
    pieces = list(scan(model))
    marked = regions_in(model, pieces)
    if not marked.keys() - {CONTENT}:
        raise CannotInlay("It has no marks, so what it shares with others is not known. Choose a page that has them.")
    content = marked.get(CONTENT) or _main(pieces)
    if content is None:
        raise CannotInlay(
            "It does not say where its own text is. Put `<!-- basilica: content -->` before that, and"
            " `<!-- /basilica: content -->` behind it."
        )
    charset = encoding_of(model)[0]
    shared = [span for name, span in marked.items() if name != CONTENT]
    head = in_head(model, pieces, shared)

    def written(text: str) -> bytes:
        return text.encode(charset, "xmlcharrefreplace")

    changes: list[Replacement] = [(*content, _text(model, content, new, written))]
    described = written(f'<meta name="description" content="{escape(new.description)}">') if new.description else b""
    if "title" in head:
        changes.append((*head["title"], written(str(escape(new.title)))))
    if "description" in head:
        changes.append((*head["description"], described))
    elif "title" in head and described:
        behind = model.index(b">", head["title"][1]) + 1
        changes.append((behind, behind, b"\n" + described))
    if "canonical" in head:
        changes.append((*head["canonical"], b""))
    changes += _in_language(model, pieces, new.language)
    taken = [*shared, content, *(head[name] for name in head)]
    changes += (
        change
        for change in (*moved_links(model, pieces, model_file, new.file), *_passed_on(model, pieces))
        if not any(start <= change[0] < end for start, end in taken)
    )
    return replaced(model, sorted(changes))


def _main(pieces: list[Piece]) -> Span | None:
    """The inside of the element `main`."""
    opens = [piece for piece in pieces if piece.name == b"main" and piece.kind == "open"]
    closes = [piece for piece in pieces if piece.name == b"main" and piece.kind == "close"]
    return (opens[0].end, closes[-1].start) if opens and closes and opens[0].end <= closes[-1].start else None


def _text(model: bytes, content: Span, new: NewPage, written: Callable[[str], bytes]) -> bytes:
    """The text of the new page, under a heading like that of its model."""
    found = _HEADING.search(model, *content)
    name = found[1].lower() if found else b"h1"
    around = b"" if found is None else re.sub(rb"""\s+id\s*=\s*("[^"]*"|'[^']*'|[^\s>]+)""", b"", found[2])
    text = written(new.text.strip("\n") + "\n" if new.text else "")
    if not new.heading:
        return b"\n" + text
    heading = b"<" + name + around + b">" + written(str(escape(new.heading))) + b"</" + name + b">\n"
    return b"\n" + heading + text


def _passed_on(model: bytes, pieces: list[Piece]) -> Iterator[Replacement]:
    """What the head of the model says for pages that pass it on, and of the pages before and after it."""
    for piece in pieces:
        if piece.kind == "close" and piece.name == b"head":
            return
        said = said_of(model, piece) if piece.kind == "open" and piece.name in (b"meta", b"link") else []
        if any(one.startswith("og:") or one in ("prev", "next", "hreflang") for one in said):
            yield piece.start, piece.end, b""


def _in_language(model: bytes, pieces: list[Piece], language: str) -> Iterator[Replacement]:
    """The language of the page and its direction, where its model has others."""
    document = next((piece for piece in pieces if piece.kind == "open" and piece.name == b"html"), None)
    if not language or document is None:
        return
    there = {one.name: one for one in attributes(model, document)}
    wanted = {b"lang": language}
    if is_right_to_left(language) or b"dir" in there:
        wanted[b"dir"] = "rtl" if is_right_to_left(language) else "ltr"
    for name, value in wanted.items():
        written = name + b'="' + value.encode() + b'"'
        if name not in there:
            at = document.start + len(b"<html")
            yield at, at, b" " + written
        elif model[there[name].value_start : there[name].value_end].lower() != value.lower().encode():
            yield there[name].start, there[name].end, written
