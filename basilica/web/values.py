"""Values as they come in a request: what is of the wrong kind, size or encoding is said, or counts as not given."""

from __future__ import annotations

import re
from typing import Any, TypeVar

import msgspec
from flask import abort, request
from flask.json.provider import DefaultJSONProvider
from werkzeug.routing import IntegerConverter, ValidationError

from basilica.core.shared.typed_values import typed

S = TypeVar("S", bound=msgspec.Struct)
LARGEST = 10**15
"""Numbers that come in are smaller than this; those of versions are far from it."""
_DIGITS = re.compile(r"-?[0-9]{1,15}")


class JsonProvider(DefaultJSONProvider):
    """JSON as requests bring it: what is nested too deeply cannot be read, like anything that is no JSON."""

    def loads(self, s: str | bytes, **kwargs: Any) -> Any:
        """The value of a text. Raises ``ValueError``."""
        try:
            return super().loads(s, **kwargs)
        except RecursionError:
            raise ValueError("it is nested too deeply") from None


class NumberConverter(IntegerConverter):
    """Numbers in addresses; larger ones than there can be lead nowhere."""

    def to_python(self, value: str) -> int:
        """The number of some digits. Raises ``ValidationError``."""
        number = whole_number(value)
        if number is None:
            raise ValidationError
        return number


def body(schema: type[S]) -> S:
    """The JSON that came with a request, as a schema says it is. What it does not say is left out; halves of
    characters, which JSON can bring and UTF-8 cannot hold, are replaced. Answers 400 for anything else."""
    try:
        read: S = typed(_whole(request.get_json()), schema)
    except msgspec.ValidationError as error:
        abort(400, f"What came with this request is not as it should be: {error}.")
    except RecursionError:
        abort(400, "What came with this request is nested too deeply.")
    return read


def _whole(value: Any) -> Any:
    if isinstance(value, str):
        return value.encode("utf-16", "surrogatepass").decode("utf-16", "replace")
    if isinstance(value, list):
        return [_whole(each) for each in value]
    if isinstance(value, dict):
        return {_whole(name): _whole(each) for name, each in value.items()}
    return value


def whole_number(value: object) -> int | None:
    """A whole number, as text or as itself; None for anything else, and for larger ones than there can be."""
    if isinstance(value, str) and _DIGITS.fullmatch(value):
        return int(value)
    return value if isinstance(value, int) and not isinstance(value, bool) and abs(value) < LARGEST else None
