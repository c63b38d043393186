"""Parameters in paths: `/swimmers/{id}/` has one for a piece of an address, `/shop/{rest...}` one for all that follows.

They stand on pages that other code answers. A link gives the values in its query, `page:swimmers?id=7`; what is no
parameter there remains the query.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence
from typing import NamedTuple
from urllib.parse import parse_qsl, quote, urlencode

_PARAMETER = re.compile(r"\{([A-Za-z_][A-Za-z0-9_]*)(\.\.\.)?\}")
_IN_ATTRIBUTE = r'"[^"]*\{[A-Za-z_]\w*(?:\.\.\.)?\}[^"]*"'
_LINK_TO_ONE = re.compile(rf"<a\b[^>]*\bhref={_IN_ATTRIBUTE}[^>]*>(.*?)</a>", re.DOTALL)
_ITEM_OF_ONE = re.compile(rf',"item":{_IN_ATTRIBUTE}')
_NAMES_ONE = re.compile(rf"[ \t]*<(?:link|meta)\b[^>]*{_IN_ATTRIBUTE}[^>]*>\n?")
_IN_PIECE = "!$&'()*+,;=:@-._~"
"""Characters that stand in a piece of a path as they are (RFC 3986, 3.3)."""


class Parameter(NamedTuple):
    """A parameter by its ``name``; ``is_rest`` is one for all pieces that follow."""

    name: str
    is_rest: bool


def parameters_of(path: str) -> tuple[Parameter, ...]:
    """The parameters in a path, in order."""
    return tuple(Parameter(name, bool(rest)) for name, rest in _PARAMETER.findall(path)) if "{" in path else ()


def written_parameter(parameter: Parameter) -> str:
    """A parameter as it is written in a path."""
    return "{" + parameter.name + ("..." if parameter.is_rest else "") + "}"


def without_parameters(markup: str) -> str:
    """Markup without what a parameter in an address makes wrong, for those who cannot fill it: links become their
    text, and elements that only name the address go."""
    return _ITEM_OF_ONE.sub("", _NAMES_ONE.sub("", _LINK_TO_ONE.sub(r"\1", markup)))


def problem_with(path: str) -> str:
    """What is wrong with the parameters of a path, in words; empty where nothing is."""
    names = [parameter.name for parameter in parameters_of(path)]
    if not {"{", "}"}.isdisjoint(_PARAMETER.sub("", path)):
        return "has a brace that belongs to no parameter; write `{id}`, or `{rest...}` for all that follows"
    if len(set(names)) < len(names):
        return f"has the parameter `{next(name for name in names if names.count(name) > 1)}` twice"
    pieces = [piece for piece in path.split("/") if piece]
    for piece in pieces:
        found = parameters_of(piece)
        if len(found) > 1 or (found and found[0].is_rest and (piece != pieces[-1] or not _PARAMETER.fullmatch(piece))):
            return f"has more in `{piece}` than one parameter can match; `{{rest...}}` must be alone, and last"
    return ""


def apart(piece: str) -> tuple[Sequence[str], Sequence[str]]:
    """A piece of a path taken apart: the texts around its parameters, and these as they are written."""
    return _PARAMETER.sub("\0", piece).split("\0"), [found[0] for found in _PARAMETER.finditer(piece)]


def filled(path: str, query: str) -> tuple[str, str, tuple[str, ...]]:
    """A path with the values that a query gives for its parameters; what remains of the query, and the parameters for
    which it gives none."""
    wanted = parameters_of(path)
    if not wanted:
        return path, query, ()
    given = parse_qsl(query, keep_blank_values=True)
    names = {parameter.name for parameter in wanted}
    values = {name: value for name, value in given if name in names and value.strip("/")}
    rest = urlencode([(name, value) for name, value in given if name not in names])

    def value(found: re.Match[str]) -> str:
        known = values.get(found[1])
        if known is None:
            return found[0]
        return quote(known.strip("/"), safe=_IN_PIECE + "/") if found[2] else quote(known, safe=_IN_PIECE)

    missing = tuple(parameter.name for parameter in wanted if parameter.name not in values)
    return _PARAMETER.sub(value, path), rest, missing


class ParameterPaths:
    """Paths with parameters, to be asked which of them an address fits. ``paths`` are pairs of a path and what stands
    for it; those without parameters are left out."""

    def __init__(self, paths: Iterable[tuple[str, str]]) -> None:
        self._patterns = [(re.compile(_pattern(path)), named) for path, named in paths if parameters_of(path)]

    def find(self, address: str) -> str | None:
        """What stands for the first path that an address, written as addresses are, fits; None where none does."""
        return next((named for pattern, named in self._patterns if pattern.fullmatch(address)), None)


def _pattern(path: str) -> str:
    texts, parameters = apart(path)
    values = [".+" if found.endswith("...}") else "[^/]+" for found in parameters]
    return re.escape(texts[0]) + "".join(value + re.escape(text) for value, text in zip(values, texts[1:], strict=True))
