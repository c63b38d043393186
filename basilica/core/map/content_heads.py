"""What the text of a page says of it: the head of YAML that the text begins with, between two lines of `---`."""

from __future__ import annotations

import re
from collections.abc import Mapping
from functools import lru_cache
from typing import NamedTuple

from basilica.core.map.document import Lines, Scalar, read
from basilica.core.map.document import Mapping as Keys
from basilica.core.rules import limits
from basilica.core.rules.place import START, Place
from basilica.core.shared.dates import is_date
from basilica.core.shared.markdown import Content, Contents, head_of

WORDS = ("title", "label", "description", "draft", "date", "updated")
"""What is read of a head. All else that it says is somebody else's."""

_MOMENT = re.compile(r"\d{4}-\d{2}-\d{2}([T ].*)?")
_YES = frozenset(("yes", "true", "on"))
_NO = frozenset(("no", "false", "off"))


class Head(NamedTuple):
    """What a head says of its page; empty where it does not. ``draft`` is `yes` or `no`; ``date`` and ``updated`` are
    days, such as `2026-03-01`."""

    title: str = ""
    label: str = ""
    description: str = ""
    draft: str = ""
    date: str = ""
    updated: str = ""


Heads = Mapping[str, Head]
"""Heads by page key; only those that say something."""


class ReadHead(NamedTuple):
    """A head as it was read: ``lines`` has each word that holds with its first line and the line behind it, ``others``
    the words that are not read, and ``problems`` what cannot be read."""

    head: Head = Head()
    lines: tuple[tuple[str, int, int], ...] = ()
    others: tuple[tuple[str, Place], ...] = ()
    problems: tuple[tuple[str, Place], ...] = ()


@lru_cache(maxsize=4096)
def read_head(content: Content) -> ReadHead:
    """The head of a text. Never raises: of one that is no YAML nothing is taken, and its problem says so."""
    text = head_of(content)
    if not text:
        return ReadHead()
    document, findings = read(text)
    stop = next((finding for finding in findings if finding.stops), None)
    if stop is not None or not isinstance(document.root, Keys):
        where = Place(stop.line + 1, stop.column) if stop is not None else START
        return ReadHead(problems=((stop.message if stop is not None else "It is not a set of keys.", where),))
    found: dict[str, str] = {}
    lines, others, problems = [], [], []
    for name, value in document.root.pairs:
        at = _below(document.lines, name.start)
        if name.value not in WORDS:
            others.append((name.value, at))
            continue
        said = " ".join(value.value.split()) if isinstance(value, Scalar) else None
        problem = _problem(name.value, said)
        if problem:
            problems.append((problem, at))
        elif said and isinstance(value, Scalar):
            found[name.value] = _value(name.value, said)
            ends = _below(document.lines, value.end)
            lines.append((name.value, at.line, ends.line + (ends.column > 1)))
    return ReadHead(Head(**found), tuple(lines), tuple(others), tuple(problems))


def heads_of(contents: Contents) -> Heads:
    """The heads of some texts, by page key."""
    found = {key: read_head(content).head for key, content in contents.items() if content.text.startswith("---")}
    return {key: head for key, head in found.items() if any(head)}


def _below(lines: Lines, offset: int) -> Place:
    """The place in the text of an offset in its head, which begins on the second line."""
    place = lines.place(offset)
    return Place(place.line + 1, place.column)


def _value(word: str, said: str) -> str:
    """A value as the map would have it. Of a moment the day is taken."""
    if word == "draft":
        return "yes" if said.lower() in _YES else "no"
    return said[:10] if word in ("date", "updated") else said


def _problem(word: str, said: str | None) -> str:
    """Why a value cannot be taken; empty where it can, or where there is none."""
    if said is None:
        return f"`{word}` is not text."
    if said and word == "draft" and said.lower() not in _YES | _NO:
        return f"`draft` is `{said[:60]}`, which is neither `yes` nor `no`."
    if said and word in ("date", "updated") and not _MOMENT.fullmatch(said):
        return f"`{word}` is `{said[:60]}`, which is not a date such as `2026-03-01`."
    if said and word in ("date", "updated") and not is_date(said[:10]):
        return f"`{word}` is `{said[:60]}`, which is not a date in the calendar."
    if re.search(r"[^\S ]", said) or not said.isprintable():
        return f"`{word}` has an invisible character."
    if word in ("title", "label") and len(said) > limits.LABEL_CHARACTERS:
        return f"`{word}` has {len(said):,} characters; at most {limits.LABEL_CHARACTERS} are allowed."
    return ""
