"""What a person does to a map on the plan. An act says what, in pages and entries; not how the text changes."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class AddPage:
    """A new page named ``title``, below ``parent`` (None: at the top), in place ``index`` among the pages there.
    Its id is made from the title."""

    title: str
    parent: str | None
    index: int


@dataclass(frozen=True, slots=True)
class NamePage:
    """Another name for a page: its label where it has one of its own, else its title."""

    key: str
    name: str


@dataclass(frozen=True, slots=True)
class MovePage:
    """A page, with those under it, goes below ``parent``, in place ``index`` among the other pages there."""

    key: str
    parent: str | None
    index: int


@dataclass(frozen=True, slots=True)
class RenameId:
    """Another id for a page. ``keep_old`` writes its address of now under `was:`."""

    key: str
    id: str
    keep_old: bool


@dataclass(frozen=True, slots=True)
class DeletePage:
    """A page goes, with those under it and every entry that leads to one of them."""

    key: str


@dataclass(frozen=True, slots=True)
class PutInMenu:
    """A page gets an entry in ``menu``, below the entry ``parent`` (by number, None: at the top)."""

    menu: str
    key: str
    parent: int | None
    index: int


@dataclass(frozen=True, slots=True)
class TakeOut:
    """An entry leaves its menu, with those under it."""

    menu: str
    number: int


@dataclass(frozen=True, slots=True)
class MoveEntry:
    """An entry, with those under it, goes below the entry ``parent``, in place ``index`` among the others there."""

    menu: str
    number: int
    parent: int | None
    index: int


@dataclass(frozen=True, slots=True)
class MakeGroup:
    """An entry goes into a new group that takes its place."""

    menu: str
    number: int
    label: str


@dataclass(frozen=True, slots=True)
class SetWord:
    """Another value for one of a page's keys, such as `description`; an empty one, or the default, takes the key out.
    Several values of `hidden` have spaces between them."""

    key: str
    word: str
    value: str


@dataclass(frozen=True, slots=True)
class SetHeader:
    """Another value for one of the header's words; an empty one takes it out. It holds for the site, or (``key``) for
    a page and those under it; and in every window, or (``mobile``) below a width."""

    word: str
    value: str
    key: str | None = None
    mobile: bool = False


@dataclass(frozen=True, slots=True)
class SetPart:
    """Another value for one of the words of a part that is written in the map; an empty one takes it out."""

    part: str
    word: str
    value: str


@dataclass(frozen=True, slots=True)
class MakePart:
    """A new part of a kind, with the one word that it cannot be without (its text, for a part that is a text)."""

    part: str
    kind: str
    value: str


@dataclass(frozen=True, slots=True)
class FillSlot:
    """The parts, by name with spaces between them, that fill a slot: everywhere, or (``key``) on a page and those under
    it. None at all takes the line out; on a page, `none` leaves the slot empty there."""

    slot: str
    parts: str
    key: str | None = None


@dataclass(frozen=True, slots=True)
class SuppressCheck:
    """The reason for which a check says nothing: everywhere, or (``key``) on a page and those under it. An empty one
    lets it speak again."""

    code: str
    reason: str
    key: str | None = None


Edit = (
    AddPage
    | NamePage
    | MovePage
    | RenameId
    | DeletePage
    | SetWord
    | SetHeader
    | SetPart
    | MakePart
    | FillSlot
    | SuppressCheck
    | PutInMenu
    | TakeOut
    | MoveEntry
    | MakeGroup
)
