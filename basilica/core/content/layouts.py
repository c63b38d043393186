"""Layouts: Jinja templates that say which parts stand where, in the piece of that language that can only place.

A layout may place parts and slots, ask whether a slot is filled, extend another layout and fill its blocks. Loops,
filters, assignments and calls of anything else are refused before a layout is ever run, so that what a person
uploads can neither reach the application nor keep it busy.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from functools import lru_cache
from importlib.resources import files as resources
from itertools import chain
from typing import Any

from jinja2 import DictLoader, Environment, StrictUndefined, TemplateError, TemplateSyntaxError, nodes
from markupsafe import Markup

from basilica.core.language.sections.part_words import PLAIN_LAYOUT
from basilica.core.map.map_files import Files
from basilica.core.rules import limits

VALUES = {"page": ("title", "label", "section", "description", "key"), "site": ("name",)}
"""What a layout can say of the page it stands on, and of the site."""

_NAMES = ("content", "reach")
"""What can be said by itself; `reach` only tells, and is not written."""
_PLACES = (
    nodes.Template,
    nodes.Output,
    nodes.TemplateData,
    nodes.Const,
    nodes.If,
    nodes.Not,
    nodes.And,
    nodes.Or,
    nodes.Block,
    nodes.Extends,
)
_DEEPEST = 15
"""How far `if` and `block` may stand in one another."""
_TOO_DEEP = "The layout nests too deeply."
_CAN = "A layout can use part(…), slot(…), content, page.…, site.name, if, block and extends."


@dataclass(frozen=True, slots=True)
class Placed:
    """A part or a slot as a layout names it: ``what`` is `part` or `slot`, ``line`` counts from 1."""

    what: str
    name: str
    line: int


@dataclass(frozen=True, slots=True)
class Problem:
    """Why a layout cannot be used, and what to do."""

    layout: str
    line: int
    message: str
    remedy: str


class Layouts:
    """Every layout by name: the one that ships and those of the site. Frozen once made."""

    def __init__(self, sources: dict[str, str]) -> None:
        self.sources = sources
        self.problems: list[Problem] = []
        self.placed: dict[str, tuple[Placed, ...]] = {}
        """By layout, the parts and slots that it names itself, in the order of the text."""
        self._parents: dict[str, str | None] = {}
        self._blocks: dict[str, frozenset[str]] = {}
        self._supers: dict[str, tuple[tuple[str, int], ...]] = {}
        self.environment = environment()
        good = {name: source for name, source in sources.items() if self._look_at(name, source)}
        while left := [name for name in good if not self._contained(name, good)]:
            good = {name: source for name, source in good.items() if name not in left}
        self.good = tuple(good)
        self.environment.loader = DictLoader(good)
        self.contained = {name: self._all_contained(name) for name in good}
        """By layout, the names of the parts and of the slots that stand in it, those of the layouts it extends too."""
        for name in good:
            if not self.contained[name][2]:
                self._say(name, 1, "The layout has no room for the page's own text.", "Write {{ content }} into it.")

    def render(self, name: str, part: Callable[[str], Markup], slot: Callable[[str], Markup], **values: Any) -> Markup:
        """A layout with its parts and slots in place."""
        return Markup(self.environment.get_template(name).render(part=part, slot=slot, **values))

    def written(self, name: str) -> tuple[str, str]:
        """What a layout itself writes: where something stands in all of its slots, and in none."""

        def nothing(_: str) -> Markup:
            return Markup("")

        def filled(_: str) -> Markup:
            return Markup(" ")

        around: dict[str, Any] = {"content": Markup(""), "reach": "", "page": _Any(), "site": _Any()}
        return self.render(name, nothing, filled, **around), self.render(name, nothing, nothing, **around)

    def _say(self, name: str, line: int, message: str, remedy: str) -> None:
        self.problems.append(Problem(name, line, message, remedy))

    def _look_at(self, name: str, source: str) -> bool:
        """Whether a layout says only what a layout can say."""
        if len(source) > limits.LAYOUT_CHARACTERS:
            message = f"The layout has more than {limits.LAYOUT_CHARACTERS:,} characters."
            self._say(name, 1, message, "Split it into parts.")
            return False
        try:
            tree = self.environment.parse(source)
        except TemplateSyntaxError as error:
            self._say(name, error.lineno, f"The layout cannot be read: {(error.message or '').rstrip('.')}.", _CAN)
            return False
        except RecursionError:
            self._say(name, 1, _TOO_DEEP, "Put it more simply.")
            return False
        placed: list[Placed] = []
        for refused in chain(_refused(tree, placed), _refused_extends(tree)):
            self._say(name, *refused, _CAN)
            return False
        if len(placed) > limits.LAYOUT_PLACES:
            message = f"The layout names more than {limits.LAYOUT_PLACES} parts and slots."
            self._say(name, 1, message, "Put parts into parts.")
            return False
        extended = tree.find(nodes.Extends)
        blocks = [block.name for block in tree.find_all(nodes.Block)]
        twice = next((block for block in blocks if blocks.count(block) > 1), None)
        if twice is not None:
            self._say(name, 1, f"The layout has the block `{twice}` twice.", "Give one of the two another name.")
            return False
        self._blocks[name], self._supers[name] = frozenset(blocks), tuple(_supers(tree))
        self._parents[name] = (
            str(extended.template.value) if extended and isinstance(extended.template, nodes.Const) else None
        )
        self.placed[name] = tuple(placed)
        return True

    def _contained(self, name: str, good: dict[str, str]) -> bool:
        """Whether the layouts that one extends are there, and it is none of them."""
        above = [name]
        while (parent := self._parents[above[-1]]) is not None:
            if parent in above:
                ring = " → ".join([*above, parent])
                self._say(name, 1, f"The layout extends itself: {ring}.", "Let one of them extend another, or none.")
                return False
            if parent not in good or parent not in self._parents:
                message = f"The layout extends `{parent}`, which is not a layout that can be used."
                self._say(name, 1, message, "Name one of: " + ", ".join(f"`{n}`" for n in good if n != name) + ".")
                return False
            above.append(parent)
        for block, line in self._supers[name]:
            if not any(block in self._blocks[other] for other in above[1:]):
                message = (
                    f"`super()` shows the block `{block}` of the layout that is extended, and there is none."
                    if block
                    else "`super()` is outside of any block."
                )
                self._say(name, line, message, "Remove it, or name a block of the layout that is extended.")
                return False
        return True

    def _all_contained(self, name: str) -> tuple[tuple[str, ...], tuple[str, ...], bool]:
        parts: dict[str, None] = {}
        slots: dict[str, None] = {}
        room = Markup("\0")

        def note(names: dict[str, None]) -> Callable[[str], Markup]:
            def placed(asked: str) -> Markup:
                names[asked] = None
                return Markup("x")

            return placed

        try:
            said = self.render(name, note(parts), note(slots), content=room, reach=True, page=_Any(), site=_Any())
        except (TemplateError, RecursionError) as error:
            self._say(name, 1, f"The layout cannot be used: {error}.", _CAN)
            return (), (), True
        return tuple(parts), tuple(slots), "\0" in said


class _Any:
    """Stands for a page, or for the site, of which only the shape matters."""

    def __getattr__(self, name: str) -> str:
        return ""


def environment() -> Environment:
    """How layouts are read."""
    return Environment(
        autoescape=True,
        trim_blocks=True,
        lstrip_blocks=True,
        keep_trailing_newline=True,
        undefined=StrictUndefined,
    )


def _refused(node: nodes.Node, placed: list[Placed], depth: int = 0) -> Iterator[tuple[int, str]]:
    """Line and reason of what a layout cannot say; what it places is noted on the way."""
    if depth > _DEEPEST:
        yield getattr(node, "lineno", 1), _TOO_DEEP
        return
    for child in node.iter_child_nodes():
        line = getattr(child, "lineno", 1)
        if isinstance(child, nodes.Call):
            reason = _refused_call(child, placed, line)
        elif isinstance(child, nodes.Getattr | nodes.Name):
            reason = _refused_name(child, isinstance(node, nodes.Output))
        else:
            reason = _refused_statement(child, isinstance(node, nodes.Output))
            if not reason:
                yield from _refused(child, placed, depth + 1)
        if reason:
            yield line, reason


def _refused_call(call: nodes.Call, placed: list[Placed], line: int) -> str:
    """Why a call cannot be; a part or a slot that it names is noted."""
    called = call.node.name if isinstance(call.node, nodes.Name) else ""
    plain = not (call.kwargs or call.dyn_args or call.dyn_kwargs)
    first = call.args[0] if len(call.args) == 1 else None
    if called in ("part", "slot") and plain and isinstance(first, nodes.Const) and isinstance(first.value, str):
        placed.append(Placed(called, first.value, line))
        return ""
    if called == "super" and plain and not call.args:
        return ""
    return f"`{called or 'This'}` cannot be called here like that."


def _refused_name(name: nodes.Getattr | nodes.Name, written: bool) -> str:
    """Why a name cannot be; ``written`` tells that its text is asked for."""
    if isinstance(name, nodes.Getattr):
        of = name.node.name if isinstance(name.node, nodes.Name) else ""
        return "" if name.attr in VALUES.get(of, ()) else f"There is no `{of or '…'}.{name.attr}` in a layout."
    if name.name == "reach" and written:
        return "`reach` tells whether, and has no text; ask for it with `if`."
    return "" if name.name in _NAMES else f"A layout has no `{name.name}` on its own."


def _refused_statement(child: nodes.Node, written: bool) -> str:
    """Why a statement cannot be; ``written`` tells that its text is asked for."""
    if written and isinstance(child, nodes.Not):
        return "Only `if` can ask what is not there."
    if isinstance(child, nodes.Block) and child.required:
        return "A block of a layout cannot be required."
    if not isinstance(child, _PLACES):
        return f"A layout has no {type(child).__name__.lower()}."
    if isinstance(child, nodes.Extends) and not isinstance(child.template, nodes.Const):
        return "The layout that is extended is not named."
    return ""


def _refused_extends(tree: nodes.Template) -> Iterator[tuple[int, str]]:
    """Line and reason of what is extended where that cannot be: a layout extends one other, and always."""
    found = list(tree.find_all(nodes.Extends))
    outside = [one for one in found if one not in tree.body]
    if outside:
        yield outside[0].lineno, "`extends` is inside something else."
    elif len(found) > 1:
        yield found[1].lineno, "The layout extends two others."


def _supers(node: nodes.Node, block: str = "") -> Iterator[tuple[str, int]]:
    """The blocks in which `super()` stands, each with its line; empty for what stands in none."""
    for child in node.iter_child_nodes():
        if isinstance(child, nodes.Call) and isinstance(child.node, nodes.Name) and child.node.name == "super":
            yield block, child.lineno
        yield from _supers(child, child.name if isinstance(child, nodes.Block) else block)


@lru_cache(maxsize=1)
def plain_layout() -> str:
    """The layout that ships, as it is written."""
    return resources("basilica.core.content").joinpath("plain.html").read_text(encoding="utf-8").rstrip("\n")


@lru_cache(maxsize=16)
def layouts_of(files: Files) -> Layouts:
    """The layouts of a site. One of its own by the name of the one that ships stands in its place."""
    own = {
        name.removesuffix(".html"): files.text(f"page-layouts/{name}")
        for name in files.under("page-layouts")
        if name.endswith(".html")
    }
    return Layouts({PLAIN_LAYOUT: plain_layout(), **own})
