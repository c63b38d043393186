"""The language of own templates: Jinja of which everything that could reach out of a template, or keep a machine busy,
is taken away.

What is left is decided three times. The text may hold only the kinds of statements listed here. An attribute is one
that a `View` shows, and a call is one of a macro, of `loop` or of a function that was handed in. And all that a
template does is counted: loops, calls and the characters they bring are paid from one budget, so that no template takes
longer than its output is long.
"""

from __future__ import annotations

import operator
import re
from collections.abc import Callable, Iterable, Iterator, Mapping
from contextvars import ContextVar
from functools import partial
from typing import Any, ClassVar

from jinja2 import Environment, StrictUndefined, TemplateSyntaxError, Undefined, UndefinedError, nodes
from jinja2.runtime import LoopContext, Macro
from jinja2.visitor import NodeTransformer
from markupsafe import Markup, escape

from basilica.core.rules import limits


class TemplateRefused(Exception):
    """What a template may not do: the ``line`` in it, and a message that says what, and ``remedy`` what to do."""

    def __init__(self, message: str, line: int = 0, remedy: str = "") -> None:
        super().__init__(message)
        self.line = line
        self.remedy = remedy


class TemplateView:
    """A value that a template sees. ``shown`` are the names of what it can ask for."""

    shown: ClassVar[Mapping[str, str]] = {}
    """By the name in a template, that of the attribute."""


class Function:
    """A function that a template can call."""

    def __init__(self, call: Callable[..., object]) -> None:
        self.call = call


Plain = str | int | float | bool | None
_PLAIN = (str, int, float, bool, type(None))

_LOOP = frozenset(["index", "index0", "revindex", "revindex0", "first", "last", "length", "depth", "depth0", "cycle"])
_CAN_HOLD = (
    *(nodes.Template, nodes.Output, nodes.TemplateData, nodes.Const, nodes.Name, nodes.Getattr, nodes.Getitem),
    *(nodes.If, nodes.CondExpr, nodes.For, nodes.Assign, nodes.AssignBlock, nodes.Macro, nodes.Call, nodes.Keyword),
    *(nodes.Compare, nodes.Operand, nodes.Not, nodes.And, nodes.Or, nodes.Neg, nodes.Concat, nodes.List, nodes.Tuple),
    *(nodes.Add, nodes.Sub, nodes.Mod, nodes.Filter, nodes.Test, nodes.With),
)
_WRITTEN = {"Mul": "*", "Div": "/", "FloorDiv": "//", "Pow": "**", "Dict": "{…}", "Slice": "[:]", "CallBlock": "call"}
_WRITTEN |= {"FilterBlock": "filter", "FromImport": "from", "NSRef": "namespace"}
"""How people write what a template may not hold, where that is not what Jinja calls it."""
CAN = (
    "A template has if, for, set, with, macro, comparisons, `~`, `+`, `-`, `%`, lists, the filters "
    "{filters}, and the tests {tests}."
)


class _Budget:
    """What one run of a template may still spend: steps, and characters."""

    def __init__(self, letters: int) -> None:
        """``letters`` is how much text the template itself has."""
        self.letters = letters
        self.steps = limits.TEMPLATE_STEPS
        self.characters = limits.TEMPLATE_OUTPUT

    def spend(self, characters: int, steps: int = 1) -> None:
        """Pay for steps, and for characters; raises ``TemplateRefused`` where there is not enough left."""
        self.steps -= steps
        self.characters -= characters
        if self.steps < 0 or self.characters < 0:
            what = "does more than" if self.steps < 0 else "writes more than"
            how_much = (
                f"{limits.TEMPLATE_STEPS:,} steps" if self.steps < 0 else f"{limits.TEMPLATE_OUTPUT:,} characters"
            )
            raise TemplateRefused(f"The template {what} {how_much}.", remedy="Let it repeat less.")


_budget: ContextVar[_Budget | None] = ContextVar("template budget", default=None)


def _spend(characters: int, steps: int = 1) -> None:
    budget = _budget.get()
    if budget is None:
        raise nodes.Impossible  # while a template is read nothing is worked out
    budget.spend(characters, steps)


def _text(value: object) -> str:
    """A value as text; what is no text cannot be written."""
    if isinstance(value, Undefined):
        return str(value)  # raises with its name, or is what an `if` without `else` has
    if hasattr(value, "__html__") and not isinstance(value, str):
        return Markup(value.__html__())
    if not isinstance(value, _PLAIN):
        raise TemplateRefused(
            f"A {_kind(value)} is where a text is expected.", remedy="Name one of its values, such as `.label`."
        )
    return value if isinstance(value, str) else "" if value is None else str(value)


def _kind(value: object) -> str:
    if isinstance(value, list | tuple):
        return "list"
    names = {"LoopContext": "loop", "Function": "function", "TemplateReference": "template", "dict": "set of values"}
    name = type(value).__name__.removeprefix("Shown")
    return names.get(name, name.lower())


def _finalized(value: object) -> object:
    text = _text(value)
    _spend(len(text))
    return text


# What is written in the place of nodes


def _each(cost: int, items: object) -> Iterator[object]:
    if isinstance(items, Undefined):
        iter(items)
    if not isinstance(items, list | tuple):
        raise TemplateRefused(f"A {_kind(items)} cannot be looped over.", remedy="Name a list, such as `entries`.")
    for item in items:
        _spend(cost)
        yield item


def _entered(cost: int) -> str:
    _spend(cost)
    return ""


def _joined(*parts: object) -> str:
    texts = [_text(part) for part in parts]
    _spend(sum(map(len, texts)))
    if any(isinstance(text, Markup) for text in texts):
        return Markup("").join(texts)
    return "".join(texts)


def _reckoned(how: str, left: object, right: object) -> int:
    if not all(isinstance(each, int) and abs(each) < 1_000_000_000 for each in (left, right)):
        raise TemplateRefused(f"`{how}` is for whole numbers.", remedy="Put texts together with `~`.")
    assert isinstance(left, int)
    assert isinstance(right, int)
    if how == "%" and right == 0:
        raise TemplateRefused("Nothing can be divided by 0.")
    return left + right if how == "+" else left - right if how == "-" else left % right


_COMPARED: dict[str, Callable[[Any, Any], Any]] = {
    "eq": operator.eq,
    "ne": operator.ne,
    "gt": operator.gt,
    "gteq": operator.ge,
    "lt": operator.lt,
    "lteq": operator.le,
    "in": lambda item, among: item in among,
    "notin": lambda item, among: item not in among,
}
"""Comparisons, by the names that Jinja has for them."""
_AT_ONCE = 256
"""Characters that are looked at in one step."""


def _compared(value: object, *others: object) -> bool:
    """A comparison, or a chain of them: after the first value the name of each comparison and the value behind it. What
    must be looked at is paid for."""
    for name, other in zip(others[::2], others[1::2], strict=True):
        _spend(0, 1 + (_weight(value) + _weight(other)) // _AT_ONCE)
        if not _COMPARED[str(name)](value, other):
            return False
        value = other
    return True


def _weight(value: object) -> int:
    """How many characters a value has, with those of what is in it."""
    if isinstance(value, list | tuple):
        return sum(1 + _weight(item) for item in value)
    return len(value) if isinstance(value, str) else 1


def _listed(*items: object) -> tuple[object, ...]:
    if any(isinstance(item, list | tuple) for item in items):
        raise TemplateRefused("There is a list inside a list.", remedy="Write its texts one by one.")
    _spend(len(items))
    return items


# Filters, each on texts or on one list


def _filtered(name: str, function: Callable[..., object], value: object, *given: object, **named: object) -> object:
    """A filter, with its result paid for."""
    if isinstance(value, Undefined) and name != "default":
        str(value)
    found = function(value, *given, **named)
    _spend(len(found) if isinstance(found, str | list | tuple) else 1)
    return found


def _items(value: object) -> tuple[object, ...]:
    if not isinstance(value, list | tuple):
        raise TemplateRefused(f"A {_kind(value)} is not a list.")
    return tuple(value)


def _default(value: object, other: object = "", empty: bool = False) -> object:
    return other if isinstance(value, Undefined) or (empty and not value) else value


def _join(value: object, between: object = "") -> str:
    texts, gap = [_text(item) for item in _items(value)], _text(between)
    _spend(sum(map(len, texts)) + len(gap) * len(texts))
    return Markup(gap if isinstance(gap, Markup) else escape(gap)).join(texts) if texts else ""


def _replace(value: object, old: object, new: object) -> str:
    text, before, after = _text(value), _text(old), _text(new)
    _spend(len(text) + text.count(before) * len(after) if before else limits.TEMPLATE_OUTPUT + 1)
    return text.replace(before, after)


def _select(value: object, name: object = "", wanted: object = None) -> tuple[object, ...]:
    """Items of a list that are there; with a name, those of which that value is."""
    return tuple(item for item in _items(value) if (_shown(item, name) if name else item))


def _shown(item: object, name: object) -> object:
    if not isinstance(item, TemplateView) or name not in item.shown:
        raise TemplateRefused(f"There is no `{str(name)[:60]}` there.")
    return getattr(item, item.shown[str(name)])


FILTERS: dict[str, Callable[..., object]] = {
    "capitalize": lambda value: _text(value).capitalize(),
    "default": _default,
    "escape": lambda value: escape(_text(value)),
    "first": lambda value: next(iter(_items(value)), ""),
    "join": _join,
    "last": lambda value: next(iter(_items(value)[::-1]), ""),
    "length": lambda value: len(_text(value) if isinstance(value, str) else _items(value)),
    "lower": lambda value: _text(value).lower(),
    "replace": _replace,
    "reverse": lambda value: _items(value)[::-1],
    "select": _select,
    "title": lambda value: _text(value).title(),
    "trim": lambda value: _text(value).strip(),
    "upper": lambda value: _text(value).upper(),
}
TESTS: dict[str, Callable[..., bool]] = {
    "defined": lambda value: not isinstance(value, Undefined),
    "even": lambda value: _reckoned("%", value, 2) == 0,
    "none": lambda value: value is None,
    "number": lambda value: isinstance(value, int) and not isinstance(value, bool),
    "odd": lambda value: _reckoned("%", value, 2) == 1,
    "string": lambda value: isinstance(value, str),
    "undefined": lambda value: isinstance(value, Undefined),
}


class TemplateEnvironment(Environment):
    """Reads and runs own templates."""

    def __init__(self) -> None:
        super().__init__(
            autoescape=True,
            trim_blocks=True,
            lstrip_blocks=True,
            keep_trailing_newline=True,
            undefined=StrictUndefined,
            finalize=_finalized,
            extensions=[],
            cache_size=0,
            optimized=False,  # constants are worked out while a template runs, where they are counted
        )
        self.globals = {}
        self.filters = {name: partial(_filtered, name, function) for name, function in FILTERS.items()}
        self.tests = dict(TESTS)
        # What `_Counted` writes into templates asks for these.
        self.each, self.entered, self.joined = _each, _entered, _joined
        self.reckoned, self.listed, self.called, self.compared = _reckoned, _listed, _called, _compared

    def getattr(self, obj: Any, attribute: str) -> Any:
        """What a template asks for by `.name`."""
        if isinstance(obj, TemplateView) and attribute in obj.shown:
            return getattr(obj, obj.shown[attribute])
        if isinstance(obj, LoopContext) and attribute in _LOOP:
            return getattr(obj, attribute)
        if isinstance(obj, Undefined):
            str(obj)
        of = obj if isinstance(obj, TemplateView | LoopContext) else None
        names = sorted(of.shown) if isinstance(of, TemplateView) else sorted(_LOOP) if of is not None else []
        raise TemplateRefused(
            f"There is no `.{attribute}` there.",
            remedy=f"There are {', '.join(f'`{name}`' for name in names)}." if names else "Remove it.",
        )

    def getitem(self, obj: Any, argument: Any) -> Any:
        """What a template asks for by `["name"]` or `[0]`."""
        if isinstance(obj, Words) and isinstance(argument, str):
            return obj.find(argument)
        if isinstance(obj, list | tuple) and isinstance(argument, int) and -len(obj) <= argument < len(obj):
            return obj[argument]
        if isinstance(obj, TemplateView) and isinstance(argument, str):
            return self.getattr(obj, argument)
        if isinstance(obj, Undefined):
            str(obj)
        raise TemplateRefused(f"There is no `[{str(argument)[:60]}]` there.")

    def from_text(self, text: str, name: str) -> Any:
        """A template that can be run. Raises ``TemplateRefused`` with the line."""
        try:
            tree = self._parse(text, name, name)
        except TemplateSyntaxError as error:
            message = (error.message or "").rstrip(".")
            raise TemplateRefused(f"The template cannot be read: {message}.", error.lineno, can()) from None
        except RecursionError:
            raise TemplateRefused("The template nests too deeply.", 1, "Put it more simply.") from None
        _look_at(tree)
        letters = _letters(tree)
        counted = _Counted().visit(tree)
        counted.set_environment(self)
        try:
            code = self.compile(counted, name, name)
        except (TemplateSyntaxError, SyntaxError, RecursionError, MemoryError, ValueError, AssertionError):
            raise TemplateRefused("The template cannot be read.", 1, "Put it more simply.") from None
        template = self.template_class.from_code(self, code, {})
        template.letters = letters  # type: ignore[attr-defined]
        return template


class Words(TemplateView):
    """Texts by name, asked for by `["name"]`."""

    def __init__(self, words: Mapping[str, str]) -> None:
        self._words = words

    def find(self, name: str) -> str:
        """One of them. Raises ``TemplateRefused``."""
        if name not in self._words:
            raise TemplateRefused(
                f"There is no `{name[:60]}` among them.", remedy=f"There are {', '.join(sorted(self._words))}."
            )
        return self._words[name]


def _called(thing: object, *given: object, **named: object) -> object:
    """A call: of a macro, of `loop`, or of a function that was handed in."""
    _spend(0)
    if isinstance(thing, Function):
        if named or not all(isinstance(each, str) for each in given):
            raise TemplateRefused("What is called here takes texts.")
        try:
            return thing.call(*given)
        except TypeError:
            raise TemplateRefused("What is called here takes another number of texts.") from None
    if isinstance(thing, LoopContext):
        budget = _budget.get()
        return thing(*(_each(budget.letters if budget else 0, items) for items in given))
    if isinstance(thing, Macro) or isinstance(getattr(thing, "__self__", None), LoopContext):
        return thing(*given, **named)  # type: ignore[operator]
    if isinstance(thing, Undefined):
        str(thing)
    raise TemplateRefused(f"A {_kind(thing)} cannot be called.")


class _Counted(NodeTransformer):
    """Writes what counts into a template: around what loops go through, into macros, and in place of operators. Its
    functions are called by the names that Jinja has for nodes."""

    def visit_For(self, node: nodes.For) -> nodes.Node:  # noqa: N802
        """What a loop goes through is counted; each turn costs what stands in it."""
        cost = _letters(node)
        self.generic_visit(node)
        node.iter = _call("each", nodes.Const(cost), node.iter, line=node.lineno)
        return node

    def visit_Macro(self, node: nodes.Macro) -> nodes.Node:  # noqa: N802
        """A macro costs what stands in it."""
        cost = _letters(node)
        self.generic_visit(node)
        node.body.insert(0, nodes.Output([_call("entered", nodes.Const(cost), line=node.lineno)], lineno=node.lineno))
        return node

    def visit_Call(self, node: nodes.Call) -> nodes.Node:  # noqa: N802
        """Calls are looked at while they are made."""
        self.generic_visit(node)
        called = nodes.EnvironmentAttribute("called", lineno=node.lineno)
        return nodes.Call(called, [node.node, *node.args], node.kwargs, None, None, lineno=node.lineno)

    def visit_Concat(self, node: nodes.Concat) -> nodes.Node:  # noqa: N802
        """Texts put together."""
        self.generic_visit(node)
        return _call("joined", *node.nodes, line=node.lineno)

    def _reckoned(self, node: nodes.BinExpr) -> nodes.Node:
        self.generic_visit(node)
        return _call("reckoned", nodes.Const(node.operator), node.left, node.right, line=node.lineno)

    visit_Add = visit_Sub = visit_Mod = _reckoned  # noqa: N815

    def visit_Compare(self, node: nodes.Compare) -> nodes.Node:  # noqa: N802
        """What is compared is looked at, which costs."""
        self.generic_visit(node)
        given = [each for operand in node.ops for each in (nodes.Const(operand.op), operand.expr)]
        return _call("compared", node.expr, *given, line=node.lineno)

    def visit_List(self, node: nodes.List) -> nodes.Node:  # noqa: N802
        """Lists hold no lists."""
        self.generic_visit(node)
        return _call("listed", *node.items, line=node.lineno)

    def visit_Tuple(self, node: nodes.Tuple) -> nodes.Node:  # noqa: N802
        """The same, but for those that are set."""
        self.generic_visit(node)
        return node if node.ctx == "store" else _call("listed", *node.items, line=node.lineno)


def _call(name: str, *given: nodes.Node, line: int) -> nodes.Call:
    return nodes.Call(nodes.EnvironmentAttribute(name, lineno=line), list(given), [], None, None, lineno=line)


def _letters(node: nodes.Node) -> int:
    return sum(len(data.data) for data in node.find_all(nodes.TemplateData))


def _look_at(tree: nodes.Template) -> None:
    """Refuse what a template may not hold. Raises ``TemplateRefused``."""
    waiting: list[tuple[nodes.Node, int]] = [(tree, 0)]
    while waiting:
        node, depth = waiting.pop()
        line = getattr(node, "lineno", 1) or 1
        if depth > limits.TEMPLATE_DEPTH:
            raise TemplateRefused("The template nests too deeply.", line, "Put it more simply.")
        if not isinstance(node, _CAN_HOLD):
            kind = type(node).__name__
            raise TemplateRefused(f"A template has no `{_WRITTEN.get(kind, kind.lower())}`.", line, can())
        name = getattr(node, "name", None)
        if isinstance(node, nodes.Filter) and name not in FILTERS:
            raise TemplateRefused(f"There is no filter `{name}`.", line, can())
        if isinstance(node, nodes.Test) and name not in TESTS:
            raise TemplateRefused(f"There is no test `{name}`.", line, can())
        if isinstance(node, nodes.Call) and (node.dyn_args or node.dyn_kwargs):
            raise TemplateRefused("What is handed over is written one by one.", line, "Remove the `*`.")
        if isinstance(node, nodes.Filter) and node.node is None:
            raise TemplateRefused("A filter comes after a value.", line, "Write `value|filter`.")
        if isinstance(node, nodes.Getattr) and node.attr.startswith("_"):
            raise TemplateRefused(f"There is no `.{node.attr}` there.", line, "Remove it.")
        waiting += ((child, depth + 1) for child in node.iter_child_nodes())


def can() -> str:
    """What a template can say, in a sentence."""
    return CAN.format(filters=", ".join(FILTERS), tests=", ".join(TESTS))


def run(template: Any, values: Mapping[str, object]) -> str:
    """What a template writes. Raises ``TemplateRefused``, with the line, for what it may not do and cannot find."""
    token = _budget.set(_Budget(template.letters))
    try:
        return str(template.render(values))
    except TemplateRefused as refused:
        refused.line = refused.line or _line_of(refused, template)
        raise
    except RecursionError:
        raise TemplateRefused("A macro of the template calls itself without end.", 1, "Let it end somewhere.") from None
    except UndefinedError as error:
        message = re.sub(r"^'(.*)' is undefined$", r"There is no `\1` here", (error.message or "").rstrip("."))
        remedy = f"There are {', '.join(f'`{name}`' for name in sorted(values))}."
        raise TemplateRefused(f"{message}.", _line_of(error, template), remedy) from None
    except Exception as error:  # whatever a template brings about is said of the template
        raise TemplateRefused(f"The template cannot be used: {str(error)[:200]}.", _line_of(error, template)) from None
    finally:
        _budget.reset(token)


def _line_of(error: BaseException, template: Any) -> int:
    """The line of a template at which something went wrong."""
    trace, line = error.__traceback__, 0
    while trace is not None:
        if trace.tb_frame.f_code.co_filename == template.filename:
            line = trace.tb_lineno  # Jinja has put the lines of the template in the place of its own
        trace = trace.tb_next
    return line or 1


def names_asked(text: str, attribute: str) -> Iterable[int]:
    """The lines of a template that ask for an attribute, such as `address`; none where it cannot be read."""
    try:
        tree = Environment().parse(text)
    except (TemplateSyntaxError, RecursionError):
        return ()
    return sorted(node.lineno for node in tree.find_all(nodes.Getattr) if node.attr == attribute)
