"""The settings of the header, as the map gives them: for the site, below a width, or on some pages."""

from __future__ import annotations

from dataclasses import replace

from basilica.core.language.codecs import NO_OR_YES, Unfit
from basilica.core.language.sections.header_words import BELOW, HEADER, HEADER_ELSEWHERE, MOBILE
from basilica.core.language.word import Word
from basilica.core.map.document import Node, Scalar
from basilica.core.map.site.field_reader import Context, Keys, keys_of
from basilica.core.map.site.model import Header, Value
from basilica.core.map.site.word_reader import read_word

_MOBILE = (BELOW, *MOBILE)


def read_header(node: Node, where: str, known: tuple[Word, ...], context: Context) -> Header:
    """The header's settings at one place; ``known`` are the words that may stand there. A text alone is its
    behaviour."""
    if isinstance(node, Scalar) and not node.is_nothing:
        behaviour = read_word(node, replace(known[0], called=where), context) or known[0].default
        return Header((("behaviour", behaviour),), (), {"": node.start, "behaviour": node.start})
    places = {"": node.start}
    keys = keys_of(node, known, where, context, HEADER_ELSEWHERE)
    own = _read(keys, known, "", places, context)
    mobile: tuple[tuple[str, Value], ...] = ()
    if "mobile" in keys:
        below = keys_of(keys["mobile"][1], _MOBILE, "`mobile`", context)
        mobile = _read(below, _MOBILE, "mobile.", places, context)
    return Header(own, mobile, places)


def value_from(word: str, text: str) -> Value:
    """The value that a text has for a word, as reading makes it."""
    known = next(one for one in (BELOW, *HEADER) if one.name == word)
    try:
        return _plain(known.codec.read(text, word, lambda _, __: None))
    except Unfit:
        return text


def _plain(value: Value) -> Value:
    return NO_OR_YES.write(value) if isinstance(value, bool) else value


def _read(
    keys: Keys, known: tuple[Word, ...], prefix: str, places: dict[str, int], context: Context
) -> tuple[tuple[str, Value], ...]:
    found: list[tuple[str, Value]] = []
    for word in known:
        if word.name not in keys or not word.codec.is_plain:
            continue
        value = read_word(keys[word.name][1], word, context)
        if value is not None:
            places[prefix + word.name] = keys[word.name][1].start
            found.append((word.name, _plain(value)))
    return tuple(found)
