"""What the script of the Map workspace is answered."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

import msgspec

from basilica.web.answers import ScriptAnswer
from basilica.web.map.forms import ChangedFile

Moves = Sequence[tuple[str, str | None]]
"""Old and new key of pages that moved; no new one for a page that is gone."""
Position = tuple[int, int]
"""A line and a column, from 1."""
TextFix = tuple[Position, Position, str]
"""What is replaced, from and to, and by what."""


class UnderlinedFinding(ScriptAnswer, frozen=True, kw_only=True):
    """A finding as the editor underlines it."""

    line: int
    column: int
    level: str
    message: str
    remedy: str
    fix: TextFix | None


class KnownPage(ScriptAnswer, frozen=True, kw_only=True, omit_defaults=True):
    """A page as the editor and the plan need it: where it is written, its number in the main menu, and why it, or what
    is below it, cannot be edited in the map, less by the acts of ``cells``."""

    key: str
    title: str
    path: str
    line: int
    column: int
    main: int | None = None
    elsewhere: str | None = None
    below: str | None = None
    cells: list[str] | None = None


class KnownNames(ScriptAnswer, frozen=True, kw_only=True):
    """What can be named in the map, for completion; ``colours`` by their names."""

    files: list[str]
    facts: Sequence[str] = ()
    parts: Sequence[str] = ()
    menus: Sequence[str] = ()
    layouts: Sequence[str] = ()
    ends: Sequence[str] = ()
    colours: dict[str, str] = msgspec.field(default_factory=dict)


class Facts(ScriptAnswer, frozen=True, kw_only=True):
    """What the script knows of the map. ``places`` are lines and columns with the page that is written from there on;
    ``auto`` the numbers of entries that follow the pages, by menu."""

    good: bool
    findings: list[UnderlinedFinding]
    places: list[tuple[int, int, str | None]] | None
    pages: list[KnownPage]
    auto: dict[str, list[int]]
    names: KnownNames


class SchemaWord(ScriptAnswer, frozen=True, kw_only=True, omit_defaults=True):
    """A word of the map language, with the section ``below`` it; ``named`` where people's own names come first."""

    name: str
    meaning: str
    type: str
    values: list[str]
    below: str | None = None
    named: bool = False
    of: str | None = None


class SchemaSection(ScriptAnswer, frozen=True, kw_only=True, omit_defaults=True):
    """The words of a section, and the section of the ``items`` of its list."""

    words: list[SchemaWord]
    items: str | None = None


class MapState(Facts, frozen=True, kw_only=True):
    """The Map workspace as it is opened."""

    slug: str
    text: str
    revision: int
    contents: str
    files: str
    saved: bool
    chosen: str | None
    folder: str | None
    words: dict[str, SchemaSection]


class SavedText(Facts, frozen=True, kw_only=True):
    """The text was saved; ``folder`` is what is the matter with the site's folder, ``drawing`` the plan where the map
    has no errors."""

    revision: int
    saved: bool
    folder: str
    lists: str
    status: str
    drawing: str | None


class WrittenContent(ScriptAnswer, frozen=True, kw_only=True):
    """The content of a page was saved; ``merged`` is the text with somebody else's words, ``redraw`` whether the plan
    says something else now."""

    saved: bool
    status: str
    folder: str
    redraw: bool
    merged: str | None


class CopiedContent(ScriptAnswer, frozen=True, kw_only=True):
    """How many contents were copied."""

    copied: int


class Done(ScriptAnswer, frozen=True, kw_only=True):
    """It was done."""

    done: bool = True


class Undone(ScriptAnswer, frozen=True, kw_only=True):
    """What was taken back, in words."""

    words: str


class SavedVersion(ScriptAnswer, frozen=True, kw_only=True):
    """A version was saved."""

    revision: int
    saved: bool
    status: str


class MergedTexts(ScriptAnswer, frozen=True, kw_only=True):
    """Two texts put together, and both shown where they meet; ``clean`` where no line meets, and where the map has no
    errors that neither text had."""

    text: str
    theirs: str
    revision: int
    shown: str
    clean: bool


class EditedText(ScriptAnswer, frozen=True, kw_only=True):
    """The text of a map after an edit, in words for Undo; ``ended`` and ``redirected`` count addresses."""

    text: str
    words: str
    chosen: str | None
    moves: Moves
    ended: int
    redirected: int
    files: list[ChangedFile]


class Deletion(ScriptAnswer, frozen=True, kw_only=True):
    """What goes with a page: shown, with the edit that deletes it, and how many addresses would move."""

    shown: str
    edit: dict[str, Any]
    moving: int


class ListedChanges(ScriptAnswer, frozen=True, kw_only=True):
    """What a list makes of the map, shown before it is done."""

    text: str
    empty: bool
    moves: Moves = ()
    words: str = ""
    shown: str
    files: Sequence[ChangedFile] = ()


class UploadedIcon(ScriptAnswer, frozen=True, kw_only=True):
    """An icon is a file of the site; ``added`` is its text where it was not there before."""

    name: str
    added: str | None


class FoundPage(ScriptAnswer, frozen=True, kw_only=True):
    """A page that was looked for, with the labels of the pages ``above`` it."""

    key: str
    label: str
    path: str
    above: list[str]
    href: str


class VersionImpact(ScriptAnswer, frozen=True, kw_only=True):
    """What has changed since the latest version: in a line, in full, and as marks for the plan."""

    bar: str
    full: str
    marks: dict[str, str]
    same: bool


class VersionText(ScriptAnswer, frozen=True, kw_only=True):
    """The text of a version."""

    text: str


class Proof(ScriptAnswer, frozen=True, kw_only=True):
    """What the built files say; all but the revision is empty while they are being built."""

    revision: int
    findings: Sequence[UnderlinedFinding] = ()
    lists: str = ""
    status: str = ""


class Changes(ScriptAnswer, frozen=True, kw_only=True):
    """The state of the site: its text where that is another than the one asked from."""

    revision: int
    text: str | None
    saved: bool
    contents: str
    files: str
