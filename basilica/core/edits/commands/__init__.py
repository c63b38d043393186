"""Every edit: one command, one file. A new one is a file here, and its line in the list."""

from __future__ import annotations

from basilica.core.edits.commands.add_page import AddPage
from basilica.core.edits.commands.add_to_menu import AddToMenu
from basilica.core.edits.commands.delete_page import DeletePage
from basilica.core.edits.commands.fill_slot import FillSlot
from basilica.core.edits.commands.make_group import MakeGroup
from basilica.core.edits.commands.make_part import MakePart
from basilica.core.edits.commands.move_entry import MoveEntry
from basilica.core.edits.commands.move_page import MovePage
from basilica.core.edits.commands.name_page import NamePage
from basilica.core.edits.commands.remove_from_menu import RemoveFromMenu
from basilica.core.edits.commands.rename_id import RenameId
from basilica.core.edits.commands.set_header import SetHeader
from basilica.core.edits.commands.set_part import SetPart
from basilica.core.edits.commands.set_word import SetWord
from basilica.core.edits.commands.suppress_check import SuppressCheck

COMMANDS = (
    AddPage,
    NamePage,
    MovePage,
    RenameId,
    DeletePage,
    AddToMenu,
    RemoveFromMenu,
    MoveEntry,
    MakeGroup,
    SetWord,
    SetHeader,
    SetPart,
    MakePart,
    FillSlot,
    SuppressCheck,
)
"""In the order of the workspaces."""

DRAWN = (AddPage, NamePage, MovePage, RenameId, DeletePage, AddToMenu, RemoveFromMenu, MoveEntry, MakeGroup)
"""Those that are done on the plan: they come from a browser as plain data, by their tags."""

__all__ = [
    "COMMANDS",
    "DRAWN",
    "AddPage",
    "AddToMenu",
    "DeletePage",
    "FillSlot",
    "MakeGroup",
    "MakePart",
    "MoveEntry",
    "MovePage",
    "NamePage",
    "RemoveFromMenu",
    "RenameId",
    "SetHeader",
    "SetPart",
    "SetWord",
    "SuppressCheck",
]
