"""Values are read as their words declare them."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

from basilica.core.language.codecs import ClassNames, Codec, ListOf, TextCodec, Unfit
from basilica.core.language.word import Word
from basilica.core.map.document import Node, Scalar, Sequence
from basilica.core.map.site import site_rules
from basilica.core.map.site.field_reader import Context, Keys, prose_of, text_of, texts_of


class WordReader:
    """Reads the words of a section that declare how; those that look something up have readers of their own. Of words
    whose fields are right below a ``prefix``, such as `options.`, those alone, by what follows it."""

    def __init__(self, words: Iterable[Word], prefix: str = "") -> None:
        plain = [word for word in words if word.codec.is_plain and word.field.startswith(prefix)]
        fields = [(word, word.field.removeprefix(prefix)) for word in plain]
        self._known = {word.name: (word, field) for word, field in fields if "." not in field}

    def read(self, keys: Keys, context: Context, where: str = "") -> dict[str, Any]:
        """The values of the words that are given and good, by their fields; others become findings. ``where`` names the
        place for the person, such as "the page `visit`"."""
        found: dict[str, Any] = {}
        for name, (_, node) in keys.items():
            if name in self._known:
                word, field = self._known[name]
                value = read_word(node, word, context, where)
                if value is not None:
                    found[field] = value
        return found


def read_words(keys: Keys, section: Iterable[Word], context: Context, where: str = "") -> dict[str, Any]:
    """The same of a section that a map has once."""
    return WordReader(section).read(keys, context, where)


def read_word(node: Node, word: Word, context: Context, where: str = "") -> Any:
    """The value of a word; None, with a finding, for what is none."""
    what = (word.called or f"`{word.name}`") + (f" of {where}" if where else "")
    if isinstance(word.codec, ListOf):
        items = node.items if isinstance(node, Sequence) else (node,)
        values = [_value(item, word.item, word, what, context) for item in items]
        return tuple(dict.fromkeys(value for value in values if value is not None))
    if isinstance(word.codec, ClassNames) and isinstance(node, Sequence):
        names = " ".join(item.value.strip() for item in texts_of(node, what, context))
        return _read(names, node, word.codec, word, what, context) if names else None
    return _value(node, word.codec, word, what, context)


def _value(node: Node, codec: Codec[Any], word: Word, what: str, context: Context) -> Any:
    text = (prose_of if codec.is_prose else text_of)(node, what, context)
    return _read(text, node, codec, word, what, context) if text is not None else None


def _read(text: str, node: Node, codec: Codec[Any], word: Word, what: str, context: Context) -> Any:
    now = codec.renamed(text)
    if now is not None and isinstance(node, Scalar):
        context.say_renamed(node, now)
    meant = codec.meant(text)
    if meant is not None and isinstance(node, Scalar):
        context.say_meant(node, meant, what)
        text = meant
    try:
        return codec.read(text, what, context.nearest)
    except Unfit as unfit:
        rule = site_rules.TOO_LONG if unfit.is_long else site_rules.BAD_VALUE
        remedy = unfit.remedy
        if codec.values and not remedy:
            remedy = f"Write one of them; `{word.default}` is the default." if word.default else "Write one of them."
        fix = context.instead(node, unfit.instead) if isinstance(node, Scalar) else None
        context.say(rule, node.start, unfit.message, remedy, fix)
        is_label = unfit.is_long and isinstance(codec, TextCodec) and codec.is_prose
        return " ".join(text.split())[: codec.most] if is_label and isinstance(codec, TextCodec) else None
