"""Text and edit → text: what a person does, done to the map, its included files and its tables, in few lines."""

from basilica.core.edits.apply import Edited, command_from, edit
from basilica.core.edits.command import Command, EditRejected, FollowsPages
from basilica.core.edits.site_changes import header_words, page_option_values, plain_value

__all__ = [
    "Command",
    "EditRejected",
    "Edited",
    "FollowsPages",
    "command_from",
    "edit",
    "header_words",
    "page_option_values",
    "plain_value",
]
