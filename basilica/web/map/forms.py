"""What the script of the Map workspace sends."""

from __future__ import annotations

from collections import Counter
from typing import Any, Literal

import msgspec


class View(msgspec.Struct):
    """How the plan is looked at: its ``width`` in px, the ``chosen`` page, and the folds that were ``turned``, as keys
    with spaces between them."""

    width: float | str = 640
    chosen: str | None = None
    turned: str = ""


ChangedFile = tuple[str, str, str]
"""The name of a file beside the map, its text as it was, and as it is now."""


class SaveText(View):
    """The text as it is typed; ``words`` say what was done since it was saved last. ``moves`` are old and new keys of
    pages whose content goes along: no new one for a page that is gone, no old one for one that is back. ``files`` are
    those beside the map that were changed with it."""

    text: str = ""
    revision: int = -1
    moves: list[tuple[str | None, str | None]] = []
    files: list[ChangedFile] = []
    words: str = "Typing in the map"

    def __post_init__(self) -> None:
        """Raises ``ValueError`` where one page would move twice, or two to one key, whose content there is once."""
        for keys in zip(*self.moves, strict=True):
            twice = [key for key, count in Counter(keys).items() if key is not None and count > 1]
            if twice:
                raise ValueError(f"`moves` names the page `{twice[0][:80]}` twice")


class UndoStep(msgspec.Struct):
    """The step that is to be taken back, by the state after it; ``others`` where it may be that of somebody else."""

    step: str
    others: bool = False


class SaveContent(msgspec.Struct):
    """The content of a page as it is typed; ``was`` is the text that was there before."""

    key: str
    text: str
    was: str = ""


class CopyContent(msgspec.Struct):
    """The content of page ``key`` is copied ``to`` another."""

    key: str
    to: str


class MendContent(msgspec.Struct):
    """A fix of a finding in the text of a page: the file, and the line of the finding."""

    file: str
    line: int


class SaveVersion(msgspec.Struct):
    """A version to be kept, with a short note."""

    revision: int = -1
    note: str = ""


class Merging(msgspec.Struct):
    """The text that both began with, and mine."""

    base: str = ""
    mine: str = ""


class ApplyEdit(msgspec.Struct):
    """An edit to be done to a text; the edit is told apart by its name (``core.edits.command_from``). Addresses that it
    ends are kept where ``keep`` says so; ``lead`` is where those of deleted pages lead: to a page, a full address, or
    `gone`; empty where they lead nowhere."""

    text: str = ""
    edit: Any = None
    keep: bool = True
    lead: str = ""


class Going(msgspec.Struct):
    """A page that is to be deleted from a text."""

    text: str = ""
    key: str = ""


class FromList(msgspec.Struct):
    """A list of the whole site, of which the changes that are ``declined``, by name, are left out; or one whose pages
    come ``under`` the page ``key``, or ``after`` it, and, where it is said, into a ``menu``."""

    text: str = ""
    list: str = ""
    place: Literal["all", "under", "after"] = "all"
    declined: tuple[str, ...] = ()
    key: str = ""
    menu: str = ""
