"""Every edit: one command, one file. What a view makes itself is imported from its file; what comes from a browser as
plain data is listed here."""

from __future__ import annotations

from basilica.core.edits.commands.add_entry import AddEntry
from basilica.core.edits.commands.add_page import AddPage
from basilica.core.edits.commands.add_pages import AddPages
from basilica.core.edits.commands.add_to_menu import AddToMenu
from basilica.core.edits.commands.change_menus import DeleteMenu, NewMenu, RenameMenu
from basilica.core.edits.commands.delete_page import DeletePage
from basilica.core.edits.commands.duplicate_page import DuplicatePage
from basilica.core.edits.commands.follow_pages import FollowPages
from basilica.core.edits.commands.make_group import MakeGroup
from basilica.core.edits.commands.move_entry import MoveEntry
from basilica.core.edits.commands.move_page import MovePage
from basilica.core.edits.commands.name_page import NamePage
from basilica.core.edits.commands.remove_from_menu import RemoveFromMenu
from basilica.core.edits.commands.rename_id import RenameId
from basilica.core.edits.commands.set_entry import SetEntry
from basilica.core.edits.commands.set_settings import SetSettings
from basilica.core.edits.commands.translate_page import TranslatePage

DRAWN = (
    AddPage,
    AddPages,
    NamePage,
    MovePage,
    RenameId,
    DeletePage,
    AddToMenu,
    RemoveFromMenu,
    MoveEntry,
    MakeGroup,
    DuplicatePage,
    FollowPages,
    AddEntry,
    SetEntry,
    NewMenu,
    RenameMenu,
    DeleteMenu,
    SetSettings,
    TranslatePage,
)
"""Those that are done on the plan: they come from a browser as plain data, by their tags."""
