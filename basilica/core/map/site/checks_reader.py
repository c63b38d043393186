"""What the map says of the checks: other hosts, own words, how far is far, and the levels of single checks."""

from __future__ import annotations

from basilica.core.language.sections.checks_words import CHECKS, CLICKS, LEVEL, Checks, LevelSetting
from basilica.core.map.document import Mapping, Node, Scalar
from basilica.core.map.site import site_rules
from basilica.core.map.site.field_reader import Context, choice_of, keys_of, kind_of, label_of, number_in, texts_of

_LEVEL = LEVEL[0]


def read_checks(node: Node, context: Context) -> Checks:
    """What stands under `checks:`."""
    keys = keys_of(node, CHECKS, "`checks`", context)
    clicks = number_in(keys, CHECKS, "clicks", context)

    def texts(name: str) -> tuple[str, ...]:
        found = texts_of(keys[name][1], f"`{name}`", context) if name in keys else []
        return tuple(item.value.strip() for item in found)

    return Checks(
        hosts=tuple(host.lower() for host in texts("hosts")),
        spelling=texts("spelling"),
        clicks=clicks or CLICKS,
        levels=_levels(keys["levels"][1], context) if "levels" in keys else (),
    )


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
        return LevelSetting(name.value, choice_of(value, _LEVEL, what, context), "", name.start)
    keys = keys_of(value, LEVEL, what, context)
    level = choice_of(keys["level"][1], _LEVEL, f"`level` of {what}", context) if "level" in keys else _LEVEL.default
    reason = label_of(keys["reason"][1], f"The reason for {what}", context) if "reason" in keys else None
    return LevelSetting(name.value, level, reason or "", name.start)
