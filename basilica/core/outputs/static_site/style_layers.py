"""A style sheet, parted: what is structure stands outside every layer, with the weight of one class, so that no reset
takes it away; what is looks stands in the layer `basilica` and weighs nothing, so that any rule of the site wins.

An unlayered rule beats every layer (CSS Cascade 5, 6.4.4), also `* { padding: 0 }`; a class beats elements, however
many (Selectors 4, 17).
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator
from functools import lru_cache
from typing import NamedTuple

import tinycss2

from basilica.core.shared.css_text import selectors

LAYER = "basilica"
_OURS = ".b-"
"""Only what is said of our own classes is structure; what is said of a page's text gives way to the site."""
_WEIGHT = ":not(.b-0)"
"""Nothing has that class: it matches always, and weighs one class."""
_LETTERS = ("font", "font-family", "font-style", "font-weight", "letter-spacing", "text-wrap")
_LOOKS = frozenset([*_LETTERS, "accent-color", "border-radius", "box-shadow", "color", "color-scheme", "cursor"])
_LOOKS_BEGIN = ("background", "outline", "text-decoration", "text-underline", "text-emphasis", "--")
_SUBJECT = re.compile(r"(?:\.|> )(b-[a-z-]+|span)$")
_HEADER = ("b-header-space", "b-header", "b-bar", "b-name", "b-tagline", "b-identity", "b-main", "b-utility")
_MENUS = ("b-utility-menu", "b-section", "b-footer-menu")
_ALONE = frozenset([*_HEADER, *_MENUS, "b-breadcrumbs", "b-skip", "b-footer", "b-parts", "span"])
"""Classes of which no element has two, and what is told by its element alone."""
_BLOCKS = ("media", "supports")


@lru_cache(maxsize=16)
def parted(css: str) -> str:
    """A style sheet of rules that weigh nothing (`:where`) as structure and layer. Its comments are left out."""
    rules = tinycss2.parse_stylesheet(css, skip_comments=True, skip_whitespace=True)
    structure = _text_of(_merged(list(_written(rules, looks=False))))
    looks = _text_of(_merged(list(_written(rules, looks=True))), "  ")
    return (
        f"@layer {LAYER};\n"
        "/* Structure: with the weight of one class. */\n"
        f"{structure}"
        "/* Looks: with no weight. */\n"
        f"@layer {LAYER} {{\n{looks}}}\n"
    )


class _Rule(NamedTuple):
    """A rule as it will stand in the sheet: its selector with its declarations, or the head of a block with what is
    inside."""

    head: str
    said: tuple[tuple[str, str], ...] = ()
    inside: tuple[_Rule, ...] = ()

    def names(self) -> frozenset[str]:
        """Every property that is said of anything."""
        return frozenset(name for name, _ in self.said).union(*(rule.names() for rule in self.inside))


def _written(rules: Iterable[tinycss2.ast.Node], looks: bool) -> Iterator[_Rule]:
    for rule in rules:
        if rule.type == "at-rule" and rule.lower_at_keyword in _BLOCKS:
            nested = tinycss2.parse_rule_list(rule.content, skip_comments=True, skip_whitespace=True)
            inside = tuple(_merged(list(_written(nested, looks))))
            if inside:
                yield _Rule(f"@{rule.at_keyword} {tinycss2.serialize(rule.prelude).strip()}", inside=inside)
        elif rule.type == "qualified-rule":
            yield from _of_rule(rule, looks)


def _of_rule(rule: tinycss2.ast.QualifiedRule, looks: bool) -> Iterator[_Rule]:
    selector = " ".join(tinycss2.serialize(rule.prelude).split())
    ours = _OURS in selector
    said = tuple(
        (one.name, f"{_text(one.value)}{' !important' if one.important else ''}")
        for one in tinycss2.parse_blocks_contents(rule.content, skip_comments=True, skip_whitespace=True)
        if one.type == "declaration" and (_is_looks(one.name) or not ours) is looks
    )
    if said:
        yield _Rule(selector if looks else ", ".join(_weighed(part) for part in selectors(selector)), said)


def _merged(rules: list[_Rule]) -> list[_Rule]:
    """The same with rules of one selector in one place, where nothing between them says the same of anything."""
    found: list[_Rule] = []
    for rule in rules:
        at = next((at for at, other in enumerate(found) if rule.said and other.head == rule.head), None)
        between = found[at + 1 :] if at is not None else []
        if at is not None and not any(_conflict(rule, other) for other in between):
            found[at] = found[at]._replace(said=found[at].said + rule.said)
            continue
        if at is not None and not any(_conflict(found[at], other) for other in between):
            rule = rule._replace(said=found.pop(at).said + rule.said)
        found.append(rule)
    return found


def _conflict(one: _Rule, other: _Rule) -> bool:
    """Whether the order of two rules may count: they may be about one element, and set the same or a part of it."""
    if other.inside:
        return any(_conflict(one, rule) for rule in other.inside)
    mine, others = _subjects(one.head), _subjects(other.head)
    if mine and others and mine.isdisjoint(others):
        return False
    return any(a == b or a.startswith(f"{b}-") or b.startswith(f"{a}-") for a in one.names() for b in other.names())


def _subjects(head: str) -> frozenset[str]:
    """The classes that a selector is about; none where it is about anything else, or about what has another as well."""
    plain = head.replace(":where(", "").replace(_WEIGHT, "").replace(")", "")
    found = [_SUBJECT.search(part) for part in selectors(plain)]
    names = frozenset(match[1] for match in found if match)
    return names if all(found) and names <= _ALONE else frozenset()


def _text_of(rules: Iterable[_Rule], indent: str = "") -> str:
    lines = []
    for rule in rules:
        if rule.inside:
            lines.append(f"{indent}{rule.head} {{\n{_text_of(rule.inside, indent + '  ')}{indent}}}\n")
        else:
            said = " ".join(f"{name}: {value};" for name, value in rule.said)
            lines.append(f"{indent}{rule.head} {{ {said} }}\n")
    return "".join(lines)


def _text(value: list[tinycss2.ast.Node]) -> str:
    """A value as it stands in the sheet. `<` is in strings alone, and could end the element that has the sheet."""
    return str(tinycss2.serialize(value)).strip().replace("<", "\\3c ")


def _is_looks(name: str) -> bool:
    return name in _LOOKS or name.startswith(_LOOKS_BEGIN)


def _weighed(selector: str) -> str:
    """A selector that weighs nothing, with the weight of one class; a pseudo-element stays behind."""
    body, mark, pseudo = selector.partition("::")
    return f"{body}{_WEIGHT}{mark}{pseudo}" if ":where(" in body else selector
