"""Values as they come in a request: what is of the wrong kind, size or encoding is said, or counts as not given."""

from __future__ import annotations

import re
from typing import Any

from flask import request
from flask.json.provider import DefaultJSONProvider
from werkzeug.routing import IntegerConverter, ValidationError

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


def data_of_request() -> dict[str, Any]:
    """The JSON object that came with a request; an empty one for anything else."""
    data = request.get_json()
    return data if isinstance(data, dict) else {}


def text_in(data: dict[str, Any], name: str = "text") -> str:
    """A text of a request, one that UTF-8 can hold: halves of characters, which JSON can bring, are replaced."""
    text = data.get(name)
    return text.encode("utf-16", "surrogatepass").decode("utf-16", "replace") if isinstance(text, str) else ""


def number_in(data: dict[str, Any], name: str) -> int:
    """A whole number of a request; -1 where there is none."""
    value = data.get(name)
    number = whole_number(value) if isinstance(value, int) else None
    return -1 if number is None else number


def whole_number(value: object) -> int | None:
    """A whole number, as text or as itself; None for anything else, and for larger ones than there can be."""
    if isinstance(value, str) and _DIGITS.fullmatch(value):
        return int(value)
    return value if isinstance(value, int) and not isinstance(value, bool) and abs(value) < LARGEST else None
