"""Acts from plain data, as a browser sends them."""

from __future__ import annotations

from dataclasses import fields
from typing import Any, cast

from basilica.core.edits import commands as commands
from basilica.core.edits.commands import Edit

EDITS: dict[str, type[Edit]] = {
    "add": commands.AddPage,
    "name": commands.NamePage,
    "move": commands.MovePage,
    "rename": commands.RenameId,
    "delete": commands.DeletePage,
    "put": commands.PutInMenu,
    "take-out": commands.TakeOut,
    "move-entry": commands.MoveEntry,
    "group": commands.MakeGroup,
}
_TYPES: dict[str, tuple[type, ...]] = {
    "str": (str,),
    "int": (int,),
    "bool": (bool,),
    "str | None": (str, type(None)),
    "int | None": (int, type(None)),
}


def act_from(data: Any) -> Edit:
    """The act that ``{"act": name, field: value, …}`` says. Raises ``ValueError`` where it says none. Texts are put
    on one line; one with nothing in it is refused."""
    if not isinstance(data, dict) or data.get("act") not in EDITS:
        raise ValueError("no such act")
    kind = EDITS[data["act"]]
    values: dict[str, Any] = {}
    for field in fields(kind):
        value = data.get(field.name)
        allowed = _TYPES[str(field.type)]
        if not isinstance(value, allowed) or (isinstance(value, bool) and bool not in allowed):
            raise ValueError(f"{field.name} is missing, or of the wrong kind")
        if isinstance(value, int) and value < 0:
            raise ValueError(f"{field.name} counts from 0")
        if isinstance(value, str):
            value = " ".join(value.split())
            if not value or not value.isprintable():
                raise ValueError(f"{field.name} is empty, or holds what cannot be seen")
        values[field.name] = value
    return cast(Any, kind)(**values)  # type: ignore[no-any-return]
