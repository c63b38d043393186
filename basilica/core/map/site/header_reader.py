"""The settings of the header, as the map gives them: for the site, below a width, or on some pages."""

from __future__ import annotations

from basilica.core.language.sections.header_words import BELOW, MOBILE, RANGES
from basilica.core.language.word import Word
from basilica.core.map.document import Node, Scalar
from basilica.core.map.site import site_rules
from basilica.core.map.site.field_reader import Context, Keys, choice_of, keys_of, label_of, number_of, text_of
from basilica.core.map.site.model import Header, Value
from basilica.core.shared.theme import hex_of

_MOBILE = (BELOW, *MOBILE)


def read_header(node: Node, where: str, known: tuple[Word, ...], context: Context) -> Header:
    """The header's settings at one place; ``known`` are the words that may stand there. A text alone is its
    behaviour."""
    if isinstance(node, Scalar) and not node.is_nothing:
        behaviour = choice_of(node, known[0], where, context)
        return Header((("behaviour", behaviour),), (), {"": node.start, "behaviour": node.start})
    places = {"": node.start}
    keys = keys_of(node, known, where, context)
    own = _read(keys, known, "", places, context)
    mobile: tuple[tuple[str, Value], ...] = ()
    if "mobile" in keys:
        below = keys_of(keys["mobile"][1], _MOBILE, "`mobile`", context)
        mobile = _read(below, _MOBILE, "mobile.", places, context)
    return Header(own, mobile, places)


def value_from(word: str, text: str) -> Value:
    """The value that a text has for a word, as reading makes it."""
    if word in RANGES:
        digits = text.removesuffix("px").strip()
        return int(digits) if digits.removeprefix("-").isdecimal() else text
    return (hex_of(text) or text) if word == "ground" else text


def _read(
    keys: Keys, known: tuple[Word, ...], prefix: str, places: dict[str, int], context: Context
) -> tuple[tuple[str, Value], ...]:
    found: list[tuple[str, Value]] = []
    for word in known:
        if word.name not in keys or word.value_type == "keys":
            continue
        value = _value(keys[word.name][1], word, context)
        if value is not None:
            places[prefix + word.name] = keys[word.name][1].start
            found.append((word.name, value))
    return tuple(found)


def _value(node: Node, word: Word, context: Context) -> Value | None:
    what = f"`{word.name}`"
    if word.name in RANGES:
        return number_of(node, what, *RANGES[word.name], context)
    if word.values:
        value = choice_of(node, word, what, context)
        given = node.value if isinstance(node, Scalar) else ""
        return value if given in word.values or given in dict(word.old_values) else None
    if word.value_type != "colour":
        return label_of(node, what, context)
    text = text_of(node, f"The colour {what}", context)
    colour = hex_of(text) if text is not None else None
    if text is not None and colour is None:
        context.say(
            site_rules.BAD_VALUE,
            node.start,
            f"`{text[:40]}` is not a colour that covers what is behind it.",
            "Write it as CSS does, such as `#1f4fa3`; use `opacity:` to let the page shine through.",
        )
    return colour
