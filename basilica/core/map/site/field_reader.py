"""Reading the keys of one mapping against the words that may stand there."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable
from collections.abc import Mapping as Map
from types import MappingProxyType

import ada_url
from rapidfuzz import process
from rapidfuzz.distance import DamerauLevenshtein

from basilica.core.language.word import Word
from basilica.core.map.document import Lines, Mapping, Node, Scalar, Sequence
from basilica.core.map.document.scalar_writer import write_scalar
from basilica.core.map.map_files import NO_FILES, Files
from basilica.core.map.site import site_rules
from basilica.core.rules import limits
from basilica.core.rules.finding import Findings, Fix
from basilica.core.rules.rule import Rule
from basilica.core.shared.facts import Facts, unknown_facts, with_facts

UNSEEN = re.compile(r"[\x00-\x08\x0b\x0c\x0e-\x1f\x7f-\x84\x86-\x9f\ufdd0-\ufdef\ufffe\uffff\ud800-\udfff]")
"""Control characters and what is no character: escapes can write them, pages and sitemaps cannot hold them."""

_PART = re.compile(r"<part:([a-z0-9-]+)\s*/?>")

Keys = dict[str, tuple[Scalar, Node]]
InLanguage = Callable[[Mapping, str], Mapping]
"""The keys of a mapping by name, each with its key node and its value."""


class Context:
    """What every reader of a piece of the map needs: where lines begin, and where findings go.

    ``complete`` is False where the text broke off, so that what is missing may be in the part not read.
    """

    def __init__(self, lines: Lines, complete: bool, files: Files = NO_FILES) -> None:
        self.lines = lines
        self.files = files
        self.complete = complete
        self.facts: Facts = {}
        """What `{fact:…}` says in a text, once that is read."""
        self.in_language: InLanguage = lambda node, _: node
        """What an included file says of a page, by its key, in the language that is read."""
        self.findings = Findings()
        self._lookups = 0

    def say(self, rule: Rule, at: int, message: str, remedy: str = "", fix: Fix | None = None) -> None:
        """Record a finding at a character offset; without a ``remedy`` that of the rule."""
        self.findings.add(rule, self.lines.place(at), message, remedy, fix=fix)

    def say_renamed(self, node: Scalar, now: str) -> None:
        """Record that a word of the map language is called otherwise today; it is read as what it is now."""
        old = node.value[:60]
        self.say(
            site_rules.OLD_WORD,
            node.start,
            f"`{old}` is called `{now}` now.",
            f"Write `{now}`.",
            self.instead(node, now),
        )

    def say_meant(self, node: Scalar, word: str, what: str = "") -> None:
        """Record that a word, or the value of ``what``, is called otherwise in a map; it is read as what is meant."""
        said = f"{what} is `{node.value[:60]}`, which" if what else f"`{node.value[:60]}`"
        message = f"{said} is called `{word}` here."
        self.say(site_rules.OTHER_WORD, node.start, message, f"Write `{word}`.", self.instead(node, word))

    def instead(self, node: Scalar, text: str | None) -> Fix | None:
        """The remedy that writes another text in the place of one; None where there is no such text."""
        if text is None:
            return None
        return Fix(self.lines.place(node.start), self.lines.place(node.end), text)

    def nearest(self, name: str, among: Iterable[str]) -> str | None:
        """The known name that is most like ``name``, if one is like it at all."""
        self._lookups += 1
        if self._lookups > limits.SUGGESTIONS or len(name) > 100:
            return None
        found = process.extractOne(
            name, list(among), scorer=DamerauLevenshtein.normalized_similarity, score_cutoff=0.55
        )
        return found[0] if found else None


def kind_of(node: Node) -> str:
    """What a node is, in words."""
    if isinstance(node, Mapping):
        return "a set of keys"
    if isinstance(node, Sequence):
        return "a list"
    return "nothing" if node.is_nothing else "a text"


NO_SENTENCES: Map[str, str] = MappingProxyType({})
_NAMES: dict[int, tuple[tuple[Word, ...], tuple[dict[str, None], dict[str, str], dict[str, str]]]] = {}


def _names(words: tuple[Word, ...]) -> tuple[dict[str, None], dict[str, str], dict[str, str]]:
    """The names of words; and the names by those they had before, and by what people call them. Sections are a few that
    are asked for at every page, so each is looked through once."""
    known = _NAMES.get(id(words))
    if known is None or known[0] is not words:
        names = (
            dict.fromkeys(word.name for word in words),  # in their order, so that of two as near the first is meant
            {word.old_name: word.name for word in words if word.old_name},
            {synonym: word.name for word in words for synonym in word.synonyms},
        )
        known = _NAMES[id(words)] = words, names
    return known[1]


def keys_of(
    node: Node, words: tuple[Word, ...], where: str, context: Context, elsewhere: Map[str, str] = NO_SENTENCES
) -> Keys:
    """The known keys of ``node``, each with its key node and its value; the unknown become findings.

    ``where`` names the place for the person, such as "the page `visit`"; ``elsewhere`` says by some unknown keys how a
    map says such a thing.
    """
    if isinstance(node, Scalar) and node.is_nothing:
        return {}
    if not isinstance(node, Mapping):
        _say_no_keys(node, words, where, context)
        return {}
    known, renamed, meant = _names(words)
    found = {}
    for key, value in node.pairs:
        if key.value in known:
            found[key.value] = (key, value)
            continue
        if key.value in meant:
            now = meant[key.value]
            if any(other.value == now for other, _ in node.pairs) or now in found:
                message = f"`{key.value}` is called `{now}` here, which is here as well."
                context.say(site_rules.OTHER_WORD, key.start, message, "Remove one of the two.")
            else:
                context.say_meant(key, now)
                found[now] = (key, value)
            continue
        if key.value in renamed:
            now = renamed[key.value]
            if any(other.value == now for other, _ in node.pairs):
                message = f"`{key.value}` is called `{now}` now, which is here as well."
                context.say(site_rules.OLD_WORD, key.start, message, "Remove one of the two.")
            else:
                context.say_renamed(key, now)
                found[now] = (key, value)
            continue
        if key.value in elsewhere:
            context.say(site_rules.UNKNOWN_KEY, key.start, f"{where} has no key `{key.value}`.", elsewhere[key.value])
            continue
        if key.value.startswith(_NO_BREAK):
            message = f"The line of `{key.value.strip(_NO_BREAK)[:60]}` begins with no-break spaces (U+00A0)."
            fix = context.instead(key, key.value.replace(_NO_BREAK, " "))
            context.say(site_rules.UNKNOWN_KEY, key.start, message, "Indent with the space bar.", fix)
            continue
        near = context.nearest(key.value, known)
        context.say(
            site_rules.UNKNOWN_KEY,
            key.start,
            f"{where} has no key `{key.value}`.",
            f"Did you mean `{near}`?" if near else "Known here: " + ", ".join(word.name for word in words) + ".",
            context.instead(key, near),
        )
    return found


_NO_BREAK = "\u00a0"
_NO_SPACE = re.compile(r"([a-z][a-z0-9-]*):[\u00a0]*([^\s\u00a0/].*)", re.DOTALL)


def _say_no_keys(node: Scalar | Sequence, words: tuple[Word, ...], where: str, context: Context) -> None:
    """Record that something stands where keys are expected; with the fix where that is a key without a space behind its
    colon, or the value of the first one alone."""
    remedy = "Write " + ", ".join(f"`{word.name}:`" for word in words[:3]) + " and so on below it, indented."
    message, fix = f"{where} is {kind_of(node)} where keys are expected.", None
    text = node.value if isinstance(node, Scalar) and not node.quoted else ""
    joined = _NO_SPACE.fullmatch(text)
    if joined and joined[1] in _names(words)[0] and "\n" not in text:
        message = f"`{joined[1]}:` has no space behind its colon."
        remedy = f"Write `{joined[1]}: {joined[2][:60]}`."
        fix = context.instead(node, f"{joined[1]}: {joined[2]}") if isinstance(node, Scalar) else None
    elif text and words[0].name == "name" and isinstance(node, Scalar):
        remedy = f"Write `name: {text[:60]}` below it, indented."
        fix = context.instead(node, f"{{name: {write_scalar(text)}}}")
    context.say(site_rules.WRONG_SHAPE, node.start, message, remedy, fix)


def text_of(node: Node, where: str, context: Context) -> str | None:
    """The text of a scalar with something in it, else None and a finding."""
    if not isinstance(node, Scalar):
        context.say(
            site_rules.WRONG_SHAPE,
            node.start,
            f"{where} is {kind_of(node)} where a text is expected.",
            "Write one text.",
        )
        return None
    if not node.value.strip():
        is_comment = where.startswith("The colour") and node.is_nothing  # `link: #14204a`
        remedy = 'Write it in quotes, such as `"#14204a"`: what follows `#` without them is a comment.'
        context.say(site_rules.EMPTY_TEXT, node.start, f"{where} is empty.", remedy if is_comment else "")
        return None
    unseen = UNSEEN.search(node.value)
    if unseen:
        context.say(
            site_rules.BAD_VALUE,
            node.start,
            f"{where} has the invisible character U+{ord(unseen.group()):04X}.",
            "Remove it; pages cannot contain it.",
        )
        return UNSEEN.sub("", node.value) or None
    return node.value


def prose_of(node: Node, where: str, context: Context) -> str | None:
    """As ``text_of``, with every fact in its place. A part cannot stand in such a text, which is no Markdown."""
    text = text_of(node, where, context)
    if text is None or not isinstance(node, Scalar):
        return text
    part = _PART.search(text)
    if part:
        message = f"{where} contains `{part[0]}`, but parts are not allowed there: readers would see the code."
        remedy = f"Write what it says under `facts:`, and `{{fact:{part[1]}}}` here."
        context.say(site_rules.PART_IN_FIELD, node.start, message, remedy)
    for name, _ in unknown_facts(text, context.facts):
        context.say(site_rules.UNKNOWN_FACT, node.start, *no_fact(name, context.nearest(name, context.facts)))
    return with_facts(text, context.facts)


def web_address(text: str, schemes: tuple[str, ...] = ("https:", "http:")) -> str | None:
    """A full address as browsers write it (WHATWG URL), or None where it is none, or not of ``schemes``."""
    try:
        url = ada_url.URL(text.strip())
    except ValueError:
        return None
    return str(url.href) if url.protocol in schemes and url.pathname else None


def no_fact(name: str, near: str | None) -> tuple[str, str]:
    """The message and the remedy for a fact that there is not."""
    remedy = f"Did you mean `{{fact:{near}}}`?" if near else f"Write `{name}:` under `facts:`, or remove it."
    return f"There is no fact `{name}`.", remedy


def plain_label(node: Node) -> str | None:
    """The text of a label with nothing to say about it; None for all that ``label_of`` must look at."""
    if not isinstance(node, Scalar):
        return None
    text = node.value
    plain = text.isprintable() and text.strip() == text and "  " not in text and len(text) <= limits.LABEL_CHARACTERS
    return text if text and plain and "{fact:" not in text and "<part:" not in text else None


def label_of(node: Node, where: str, context: Context) -> str | None:
    """As ``prose_of``, no longer than a label may be; a longer one is cut and becomes a finding."""
    text = prose_of(node, where, context)
    if text is None:
        return None
    text = " ".join(text.split())
    if len(text) > limits.LABEL_CHARACTERS:
        context.say(
            site_rules.TOO_LONG,
            node.start,
            f"{where} has {len(text):,} characters; at most {limits.LABEL_CHARACTERS} are allowed.",
        )
        text = text[: limits.LABEL_CHARACTERS]
    return text


def texts_of(node: Node, where: str, context: Context) -> list[Scalar]:
    """The texts of a list, or the one text that stands in its place; what is no text becomes a finding."""
    items = node.items if isinstance(node, Sequence) else (node,)
    return [item for item in items if text_of(item, where, context) is not None and isinstance(item, Scalar)]
