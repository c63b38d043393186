"""The types of the application's script, made from the structures that it is answered."""

from __future__ import annotations

import inspect
from typing import Any

from msgspec import NODEFAULT
from msgspec import inspect as shapes

from basilica.web.answers import ScriptAnswer
from basilica.web.checks import answers as _checks
from basilica.web.header import answers as _header
from basilica.web.map import answers as _map
from basilica.web.preview import answers as _preview
from basilica.web.settings import answers as _settings
from basilica.web.sites import answers as _sites

MODULES = (_checks, _header, _map, _preview, _settings, _sites)
"""Every module with answers; a structure that none of them has would be missing in the script's types."""
_PLAIN = {
    shapes.StrType: "string",
    shapes.IntType: "number",
    shapes.FloatType: "number",
    shapes.BoolType: "boolean",
    shapes.NoneType: "null",
    shapes.AnyType: "unknown",
}


def script_types() -> str:
    """The file ``frontend/src/answers.ts``: an interface for each answer, with what its docstring says."""
    kinds = sorted(_kinds(ScriptAnswer), key=lambda kind: kind.__name__)
    return "// Made by `make docs` from the structures in basilica/web; edit those, not this.\n\n" + "\n".join(
        map(_interface, kinds)
    )


def _kinds(kind: type[ScriptAnswer]) -> set[type[ScriptAnswer]]:
    return {*kind.__subclasses__(), *(each for one in kind.__subclasses__() for each in _kinds(one))}


def _interface(kind: type[ScriptAnswer]) -> str:
    shape = shapes.type_info(kind)
    assert isinstance(shape, shapes.StructType)
    base = kind.__base__
    inherited = base.__struct_fields__ if base and base is not ScriptAnswer else ()
    omits = kind.__struct_config__.omit_defaults
    told = "\n".join(f" * {line}".rstrip() for line in inspect.cleandoc(kind.__doc__ or "").splitlines())
    lines = [
        f"  {field.encode_name}{'?' if omits and _has_default(field) else ''}: {_type(field.type)};"
        for field in shape.fields
        if field.name not in inherited
    ]
    extends = f" extends {base.__name__}" if base and inherited else ""
    return f"/**\n{told}\n */\nexport interface {kind.__name__}{extends} {{\n" + "\n".join(lines) + "\n}\n"


def _has_default(field: shapes.Field) -> bool:
    return field.default is not NODEFAULT or field.default_factory is not NODEFAULT


def _type(shape: Any) -> str:
    if isinstance(shape, shapes.StructType):
        return shape.cls.__name__
    if isinstance(shape, shapes.UnionType):
        return " | ".join(map(_type, shape.types))
    if isinstance(shape, shapes.TupleType):
        return f"[{', '.join(map(_type, shape.item_types))}]"
    if isinstance(shape, shapes.DictType):
        return f"Record<string, {_type(shape.value_type)}>"
    if isinstance(shape, shapes.CollectionType):
        of = _type(shape.item_type)
        return f"({of})[]" if isinstance(shape.item_type, shapes.UnionType) else f"{of}[]"
    return _PLAIN[type(shape)]
