"""Text and act → text: what a person does on the plan, done to the code, touching only the lines that it must."""

from basilica.core.edits.apply import Edited, EditRejected, edit
from basilica.core.edits.commands import (
    AddPage,
    DeletePage,
    Edit,
    FillSlot,
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
    SuppressCheck,
    TakeOut,
)
from basilica.core.edits.decoding import act_from
from basilica.core.edits.site_changes import header_words, page_option_values, plain_value

__all__ = [
    "AddPage",
    "DeletePage",
    "Edit",
    "EditRejected",
    "Edited",
    "FillSlot",
    "MakeGroup",
    "MakePart",
    "MoveEntry",
    "MovePage",
    "NamePage",
    "PutInMenu",
    "RenameId",
    "SetHeader",
    "SetPart",
    "SetWord",
    "SuppressCheck",
    "TakeOut",
    "act_from",
    "edit",
    "header_words",
    "page_option_values",
    "plain_value",
]
