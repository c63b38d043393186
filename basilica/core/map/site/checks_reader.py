"""What the map says of the checks: other hosts, own words, how far is far, and the levels of single checks."""

from __future__ import annotations

from dataclasses import replace

from basilica.core.language.sections.checks_words import CHECKS, LEVEL, Checks, LevelSetting
from basilica.core.map.document import Mapping, Node, Scalar
from basilica.core.map.site import site_rules
from basilica.core.map.site.field_reader import Context, keys_of, kind_of, label_of
from basilica.core.map.site.word_reader import read_word, read_words

_LEVEL = LEVEL[0]


def read_checks(node: Node, context: Context) -> Checks:
    """What stands under `checks:`."""
    keys = keys_of(node, CHECKS, "`checks`", context)
    values = read_words(keys, CHECKS, context)
    values["hosts"] = tuple(host.lower() for host in values.get("hosts", ()))
    return Checks(levels=_levels(keys["levels"][1], context) if "levels" in keys else (), **values)


def read_silent(node: Node, what: str, context: Context) -> tuple[tuple[str, str], ...]:
    """The checks that are ignored on a page, each with the reason."""
    example = 'Write the code of each check on a line of its own, such as `vague-link: "The old words are quoted"`.'
    pairs = _by_code(node, what, "checks with reasons", example, context)
    found = ((name.value, label_of(value, f"The reason for `{name.value[:60]}`", context)) for name, value in pairs)
    return tuple((code, reason) for code, reason in found if reason)


def _levels(node: Node, context: Context) -> tuple[LevelSetting, ...]:
    example = "Write the code of each check on a line of its own, with `level:` and `reason:` below it."
    pairs = _by_code(node, "`levels`", "checks", example, context)
    return tuple(_rule(name, value, context) for name, value in pairs)


def _by_code(node: Node, what: str, expected: str, remedy: str, context: Context) -> tuple[tuple[Scalar, Node], ...]:
    """What is said of each check, by its code."""
    if isinstance(node, Mapping):
        return tuple(node.pairs)
    if not (isinstance(node, Scalar) and node.is_nothing):
        context.say(
            site_rules.WRONG_SHAPE, node.start, f"{what} is {kind_of(node)} where {expected} are expected.", remedy
        )
    return ()


def _rule(name: Scalar, value: Node, context: Context) -> LevelSetting:
    what = f"The check `{name.value[:60]}`"
    if isinstance(value, Scalar):
        level = read_word(value, replace(_LEVEL, called=what), context)
        return LevelSetting(name.value, level or _LEVEL.default, "", name.start)
    keys = keys_of(value, LEVEL, what, context)
    values = {"level": _LEVEL.default, **read_words(keys, LEVEL, context, what)}
    return LevelSetting(name.value, at=name.start, **values)
