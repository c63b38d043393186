"""Text and act → text: what a person does on the plan, done to the code, touching only the lines that it must."""

from basilica.core.edits.apply import Edited, Refused, edit
from basilica.core.edits.commands import (
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
from basilica.core.edits.decoding import act_from
from basilica.core.edits.site_changes import header_words, own_words, plain_value

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
