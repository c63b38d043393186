"""A site's own style sheet, declaration by declaration, so that what it says against what is generated can be told."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator
from typing import NamedTuple

import tinycss2
from selectolax.lexbor import LexborHTMLParser, LexborNode, SelectolaxError

from basilica.core.shared.css_text import selectors

_BLOCKS = ("media", "supports", "layer", "container", "scope")


class Declaration(NamedTuple):
    """A declaration of a style sheet, for one selector of its rule: its ``line`` from 1, and whether it is
    ``important``, stands in a cascade ``layer``, or holds under a ``condition`` alone, such as a width."""

    line: int
    selector: str
    name: str
    value: str
    important: bool
    layer: bool
    condition: bool = False

    def __str__(self) -> str:
        """The rule as one writes it."""
        return f"{self.selector} {{ {self.name}: {self.value} }}"


def declarations(css: str) -> Iterator[Declaration]:
    """Every declaration of a style sheet, once for each selector of its rule."""
    return _of_rules(tinycss2.parse_stylesheet(css, skip_comments=True, skip_whitespace=True), False, False)


def _of_rules(rules: Iterable[tinycss2.ast.Node], layer: bool, condition: bool) -> Iterator[Declaration]:
    for rule in rules:
        if rule.type == "at-rule" and rule.lower_at_keyword in _BLOCKS and rule.content:
            inside = tinycss2.parse_rule_list(rule.content, skip_comments=True, skip_whitespace=True)
            is_layer = rule.lower_at_keyword == "layer"
            yield from _of_rules(inside, layer or is_layer, condition or not is_layer)
        if rule.type != "qualified-rule":
            continue
        block = tinycss2.parse_blocks_contents(rule.content, skip_comments=True, skip_whitespace=True)
        said = [part for part in block if part.type == "declaration"]
        for selector in selectors(" ".join(tinycss2.serialize(rule.prelude).split())):
            for part in said:
                value = " ".join(tinycss2.serialize(part.value).lower().split())
                yield Declaration(part.source_line, selector, part.lower_name, value, part.important, layer, condition)


_HIDDEN = {"display": ("none",), "visibility": ("hidden", "collapse"), "content-visibility": ("hidden",)}
"""By property, the values with which nothing of an element is shown, nor comes into the order of the keys."""
_STATE = re.compile(
    r":(?!:)(?!is\b|where\b|not\b|root\b|(?:first|last|nth|only)-)[\w-]+(?:\([^)]*\))?|\[(?:open|aria-)[^\]]*\]"
)
"""What holds of an element only at times: where it has the focus, say, or is open."""
_ALWAYS = ":not(x-none)"
_MOUSE = re.compile(r":hover\b")


class HidingStyles:
    """What the style sheets of a site hide, and show again at times that a key can bring about, or not at all."""

    def __init__(self, styles: Iterable[str]) -> None:
        self._hiding: list[Declaration] = []
        self._showing: dict[str, list[str]] = {}
        """By property, the selectors that show something, without what holds at times."""
        for css in styles:
            for one in declarations(css):
                if one.name not in _HIDDEN or "::" in one.selector:
                    continue
                if one.value in _HIDDEN[one.name]:
                    if not one.condition and not _STATE.search(one.selector):
                        self._hiding.append(one)
                elif not _MOUSE.search(one.selector):
                    self._showing.setdefault(one.name, []).append(_STATE.sub(_ALWAYS, one.selector))

    def hidden(self, tree: LexborHTMLParser) -> dict[int, str]:
        """The elements of some markup that a rule hides and none shows, by their numbers in the tree; each with that
        rule as one writes it."""
        found: dict[int, str] = {}
        for one in self._hiding:
            nodes = {node.mem_id for node in matching(tree, one.selector)}
            for selector in self._showing.get(one.name, ()) if nodes else ():
                nodes -= {node.mem_id for node in matching(tree, selector)}
            found |= {number: str(one) for number in nodes if number not in found}
        return found


def matching(tree: LexborHTMLParser, selector: str) -> list[LexborNode]:
    """The elements that a selector is about; none for one that browsers may know and this library does not."""
    try:
        return tree.css(selector)
    except (ValueError, SelectolaxError):
        return []
