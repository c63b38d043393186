# ruff: noqa: D102 - `Codec` documents what each method does
"""How a value of the map language is written: read from text, written back, said in JSON Schema, and set by a control.

A codec knows nothing of the map around a value. What must be looked up there (a page, a file, an icon) is a text here.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field
from typing import Any, Generic, TypeVar

from coloraide.css.color_names import name2val_map

from basilica.core.language.number_pattern import between
from basilica.core.rules import limits
from basilica.core.shared.dates import is_date
from basilica.core.shared.theme import hex_of

T = TypeVar("T")
Schema = dict[str, Any]
Nearest = Callable[[str, Iterable[str]], str | None]
"""Finds the known name that is most like another."""

TEXT_SCHEMA: Schema = {"type": ["string", "number", "boolean"]}
"""Every scalar is text in a map; readers of plain YAML may take `404` or `no` for something else."""


class Unfit(Exception):
    """A text that is no value of a codec: the ``message``, the ``remedy``, what to write ``instead`` if that is known,
    and whether it ``is_long``, and nothing else is wrong."""

    def __init__(self, message: str, remedy: str = "", instead: str | None = None, is_long: bool = False) -> None:
        super().__init__(message)
        self.message, self.remedy, self.instead, self.is_long = message, remedy, instead, is_long


@dataclass(frozen=True, kw_only=True)
class Codec(Generic[T]):
    """A kind of values. ``name`` is what documents and completion call it; ``control`` is the kind of control that sets
    it: ``text``, ``long``, ``number``, ``colour``, ``choice``, ``several``, ``lines``, ``pairs``, or none."""

    name: str = "text"
    control: str = "text"
    values: tuple[str, ...] = ()
    """The values that it has, or that have a meaning of their own."""
    is_prose: bool = False
    """Whether it is read by people, so that facts can be in it."""
    is_plain: bool = True
    """Whether it is read here; else it is a shape, or names something of the site, and has a reader of its own."""

    def read(self, text: str, what: str, nearest: Nearest) -> T:
        """The value of a text; ``what`` names its place for the person. Raises ``Unfit``."""
        raise NotImplementedError

    def write(self, value: T) -> str:
        """The text of a value, as ``read`` takes it."""
        return str(value)

    def renamed(self, text: str) -> str | None:
        """What a value is called now that was called ``text`` before; None for all others."""
        return None

    def meant(self, text: str) -> str | None:
        """The value that people mean by another text, who come from elsewhere; None where that is not known."""
        return None

    def schema(self) -> Schema:
        """The values in JSON Schema: what ``read`` takes."""
        return TEXT_SCHEMA


@dataclass(frozen=True, kw_only=True)
class TextCodec(Codec[str]):
    """A text, of at most so many characters; ``is_code`` where its lines are kept."""

    most: int = 0
    is_code: bool = False

    def read(self, text: str, what: str, nearest: Nearest) -> str:
        if self.is_code:
            return text
        text = " ".join(text.split())
        if self.most and len(text) > self.most:
            raise Unfit(f"{what} has {len(text):,} characters; at most {self.most} are allowed.", is_long=True)
        return text

    def schema(self) -> Schema:
        return {**TEXT_SCHEMA, "maxLength": self.most} if self.most and not self.is_code else TEXT_SCHEMA


@dataclass(frozen=True, kw_only=True)
class Pattern(TextCodec):
    """A text with names in braces; it must have the one that it ``needs``."""

    needs: str = ""

    def schema(self) -> Schema:
        return {**super().schema(), "type": "string", "pattern": rf"\{{{self.needs}\}}"}


@dataclass(frozen=True, kw_only=True)
class Named(TextCodec):
    """A text of a few characters, some of which have names."""

    names: Mapping[str, str] = field(default_factory=dict)

    def read(self, text: str, what: str, nearest: Nearest) -> str:
        if len(text) > self.most:
            raise Unfit(f"{what} has more than {self.most} characters.", "Shorten it.", is_long=True)
        return self.names.get(text, text)

    def write(self, value: str) -> str:
        return next((name for name, meant in self.names.items() if meant == value), value)


@dataclass(frozen=True, kw_only=True)
class WithLabel(TextCodec):
    """A text with `{}` in the place of a label, such as the ``example``."""

    example: str

    def read(self, text: str, what: str, nearest: Nearest) -> str:
        text = super().read(text, what, nearest)
        if text.count("{}") != 1:
            message = f"{what} needs `{{}}` once, where the label goes."
            raise Unfit(message, f"Write it such as “{self.example}”.")
        return text

    def schema(self) -> Schema:
        return {**super().schema(), "type": "string", "pattern": r"^[^{}]*\{\}[^{}]*$"}


_CLASS = re.compile(r"-?[A-Za-z_][A-Za-z0-9_:/.-]*( +-?[A-Za-z_][A-Za-z0-9_:/.-]*)*")
"""Names of classes, also those of utilities such as `md:px-2`."""


@dataclass(frozen=True, kw_only=True)
class ClassNames(Codec[str]):
    """Names of classes, with spaces between them."""

    def read(self, text: str, what: str, nearest: Nearest) -> str:
        names = text.strip()
        if not _CLASS.fullmatch(names):
            message = f"{what} is `{names[:60]}`, which is not a class name."
            raise Unfit(message, "Use letters, digits and hyphens, such as `wide`.")
        return names

    def schema(self) -> Schema:
        return {"anyOf": [{"type": "string", "pattern": "^ *-?[A-Za-z_][A-Za-z0-9_:/. -]*$"}, {"type": "null"}]}


@dataclass(frozen=True, kw_only=True)
class Choice(Codec[str]):
    """One of several values; ``was`` has what values were called before."""

    name: str = "one of"
    control: str = "choice"
    was: tuple[tuple[str, str], ...] = ()
    synonyms: tuple[tuple[str, str], ...] = ()
    """What people write for values who come from elsewhere."""

    def renamed(self, text: str) -> str | None:
        return dict(self.was).get(text)

    def meant(self, text: str) -> str | None:
        return None if text in self.values else dict(self.synonyms).get(text.lower())

    def read(self, text: str, what: str, nearest: Nearest) -> str:
        text = dict(self.was).get(text, text)
        if text in self.values:
            return text
        near = nearest(text, self.values)
        raise Unfit(
            f"{what} is `{text[:60]}`, which is none of " + ", ".join(f"`{value}`" for value in self.values) + ".",
            f"Did you mean `{near}`?" if near else "",
            near,
        )

    def schema(self) -> Schema:
        return {"enum": [*self.values, *dict(self.was)]}


_TRUTH = {"true": "yes", "on": "yes", "1": "yes", "false": "no", "off": "no", "0": "no"}


@dataclass(frozen=True, kw_only=True)
class Switch(Codec[bool]):
    """One of two values, of which ``on`` is the one that is so."""

    name: str = "yes or no"
    control: str = "choice"
    on: str = "yes"

    def meant(self, text: str) -> str | None:
        return _TRUTH.get(text.strip().lower()) if self.on == "yes" else None

    def read(self, text: str, what: str, nearest: Nearest) -> bool:
        return Choice(values=self.values).read(text, what, nearest) == self.on

    def write(self, value: bool) -> str:
        return self.on if value else next(one for one in self.values if one != self.on)

    def schema(self) -> Schema:
        return {"enum": ["yes", "no", True, False] if self.name == "yes or no" else [*self.values]}


@dataclass(frozen=True, kw_only=True)
class Number(Codec[int]):
    """A whole number from the ``least`` to the ``most``."""

    name: str = "number"
    control: str = "number"
    least: int
    most: int

    def read(self, text: str, what: str, nearest: Nearest) -> int:
        digits = text.strip().removesuffix("px").strip()
        if re.fullmatch(r"-?[0-9]{1,6}", digits) and self.least <= int(digits) <= self.most:
            return int(digits)
        raise Unfit(
            f"{what} is `{text[:40]}`, which is not a whole number from {self.least:,} to {self.most:,}.",
            "Write such a number, in digits.",
        )

    def schema(self) -> Schema:
        return {
            "anyOf": [
                {"type": "integer", "minimum": self.least, "maximum": self.most},
                {"type": "string", "pattern": f"^ *(?:{between(self.least, self.most)}) *(?:px)? *$"},
            ]
        }


@dataclass(frozen=True, kw_only=True)
class Colour(Codec[str]):
    """A colour that covers what is behind it, as ``#rrggbb``."""

    name: str = "colour"
    control: str = "colour"
    remedy: str = "Write it as CSS does, such as `#1f4fa3` or `rebeccapurple`."

    def read(self, text: str, what: str, nearest: Nearest) -> str:
        colour = hex_of(text)
        if colour is None:
            raise Unfit(f"`{text[:40]}` is not a colour that covers what is behind it.", self.remedy)
        return colour

    def schema(self) -> Schema:
        digits = "#([0-9A-Fa-f]{3}|[0-9A-Fa-f]{6}|[0-9A-Fa-f]{6}[fF]{2})"
        named: Schema = {"enum": sorted(set(name2val_map) - {"transparent"})}
        return {"anyOf": [named, {"type": "string", "pattern": f"^({digits}|[a-z-]+\\(.*\\))$"}]}


@dataclass(frozen=True, kw_only=True)
class Date(Codec[str]):
    """A day of the calendar."""

    name: str = "date"

    def read(self, text: str, what: str, nearest: Nearest) -> str:
        text = text.strip()
        if is_date(text):
            return text
        message = f"{what} is `{text[:40]}`, which is not a date in the calendar."
        raise Unfit(message, "Write year, month and day, such as `2026-03-01`.")

    def schema(self) -> Schema:
        return {"type": "string", "pattern": "^ *[0-9]{4}-(0[1-9]|1[0-2])-(0[1-9]|[12][0-9]|3[01]) *$"}


@dataclass(frozen=True, kw_only=True)
class ReferenceCodec(Codec[str]):
    """The name of something that the map or its files have: it is looked up by its reader."""

    name: str = "reference"
    is_plain: bool = False
    pattern: str = ""

    def schema(self) -> Schema:
        return {"type": "string", "pattern": self.pattern} if self.pattern else TEXT_SCHEMA


@dataclass(frozen=True, kw_only=True)
class ListOf(Codec[tuple[T, ...]]):
    """A list of values, or one in its place."""

    of: Codec[T]
    control: str = "lines"
    least: int = 0
    top: int = 0
    """The most that there can be, and must be in a list; 0 where one can stand for a list."""

    def schema(self) -> Schema:
        item = self.of.schema()
        if self.top:
            return {"type": "array", "items": item, "minItems": self.least, "maxItems": self.top}
        return {"anyOf": [item, {"type": "array", "items": item}]}


@dataclass(frozen=True, kw_only=True)
class Structure(Codec[Any]):
    """Keys, pages, menus and the like, which have a reader and a schema of their own; ``names`` where people give the
    names below it."""

    name: str = "keys"
    control: str = ""
    is_plain: bool = False


# The codecs that many words have

LABEL = TextCodec(most=limits.LABEL_CHARACTERS, is_prose=True)
PROSE = TextCodec(is_prose=True)
PLAIN = TextCodec()
CODE = TextCodec(is_code=True, control="long")
CLASSES = ClassNames()
DATE = Date()
COLOUR = Colour()
NO_OR_YES = Switch(values=("no", "yes"))
YES_OR_NO = Switch(values=("yes", "no"))
PAGE_KEY = ReferenceCodec()
FILE = ReferenceCodec(name="file")
ADDRESS = ReferenceCodec(name="address")
PATH = ReferenceCodec(name="path")
LANGUAGE = ReferenceCodec(name="language tag", pattern="^ *[A-Za-z]{2,3}(-[A-Za-z0-9]{1,8})* *$")
KEYS = Structure()
NAMED_TEXTS = Structure(name="texts", control="pairs")


def one_of(*values: str, was: Mapping[str, str] | None = None, synonyms: Mapping[str, str] | None = None) -> Choice:
    """One of some values; ``was`` has today's by what they were called before, ``synonyms`` those that people mean by
    other texts."""
    return Choice(values=values, was=tuple((was or {}).items()), synonyms=tuple((synonyms or {}).items()))


def named(kind: str) -> ReferenceCodec:
    """A reference to something of another kind than a page."""
    return ReferenceCodec(name=kind)


def several(of: Codec[Any], name: str) -> ListOf[Any]:
    """A list, or one in its place."""
    return ListOf(of=of, name=name, values=of.values, control="several" if of.values else "lines", is_plain=of.is_plain)
