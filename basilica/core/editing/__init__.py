"""Text and act → text: what a person does on the plan, done to the code, touching only the lines that it must."""

from basilica.core.editing.acts import (
    Act,
    AddPage,
    DeletePage,
    FillSlot,
    LetBe,
    MakeGroup,
    MakePart,
    MoveEntry,
    MovePage,
    NamePage,
    PutInMenu,
    RenameId,
    SetHeader,
    SetPart,
    SetWord,
    TakeOut,
)
from basilica.core.editing.editing import Edited, Refused, edit
from basilica.core.editing.model import header_words, own_words, plain_value
from basilica.core.editing.parsing import act_from

__all__ = [
    "Act",
    "AddPage",
    "DeletePage",
    "Edited",
    "FillSlot",
    "LetBe",
    "MakeGroup",
    "MakePart",
    "MoveEntry",
    "MovePage",
    "NamePage",
    "PutInMenu",
    "Refused",
    "RenameId",
    "SetHeader",
    "SetPart",
    "SetWord",
    "TakeOut",
    "act_from",
    "edit",
    "header_words",
    "own_words",
    "plain_value",
]
