"""What a changed list of a site changes, done to its map: each change by itself, so that each can be declined."""

from __future__ import annotations

import re
from collections import defaultdict
from collections.abc import Collection, Iterable, Iterator, Mapping
from contextlib import suppress
from dataclasses import dataclass
from urllib.parse import unquote

from basilica.core.compile import Compiled
from basilica.core.edits import Command, Edited, EditRejected, edit
from basilica.core.edits.command import FollowsPages
from basilica.core.edits.commands.add_entry import AddEntry
from basilica.core.edits.commands.add_page import AddPage
from basilica.core.edits.commands.add_pages import AddPages, ListedPage
from basilica.core.edits.commands.add_to_menu import AddToMenu
from basilica.core.edits.commands.delete_page import DeletePage
from basilica.core.edits.commands.make_group import MakeGroup
from basilica.core.edits.commands.move_entry import MoveEntry
from basilica.core.edits.commands.move_page import MovePage
from basilica.core.edits.commands.name_page import NamePage
from basilica.core.edits.commands.remove_from_menu import RemoveFromMenu
from basilica.core.edits.commands.set_entry import SetEntry
from basilica.core.edits.commands.set_word import SetWord
from basilica.core.edits.kept_addresses import KEEP_NONE, Keeping
from basilica.core.exchange.list_from_site import items_from
from basilica.core.exchange.list_items import Item, ItemKind
from basilica.core.exchange.list_merge import MAIN, Line, ListDifferences, list_differences
from basilica.core.map.site import Entry, EntryKind
from basilica.core.map.site.written_place import cannot
from basilica.core.plan import Plan


@dataclass(slots=True)
class ListChange:
    """One thing that a list changes: its ``name``, by which it can be declined, and its ``words``, as in "Move Hours
    under Learn". ``refused`` says why it cannot be done; empty where it can."""

    name: str
    words: str
    is_declined: bool = False
    refused: str = ""
    is_done: bool = False


@dataclass(slots=True)
class ListMerge:
    """What a list changes, and the map with the changes that were not declined."""

    changes: tuple[ListChange, ...]
    text: str
    compiled: Compiled
    keys: Mapping[str, str]
    """By the key that a page had, the one that it has."""
    files: Mapping[str, bytes]
    """The files beside the map that are another now, by name."""
    deleted: tuple[str, ...] = ()
    """The keys of the pages that are deleted."""

    @property
    def moves(self) -> list[tuple[str, str | None]]:
        """The old and the new key of each page that has another key now; no new one for one that is deleted."""
        changed: list[tuple[str, str | None]] = [(old, new) for old, new in self.keys.items() if old != new]
        return changed + [(old, None) for old in self.deleted]

    @property
    def done(self) -> tuple[ListChange, ...]:
        """The changes that are in the text."""
        return tuple(each for each in self.changes if each.is_done)


def merge_list(
    compiled: Compiled,
    text: str,
    items: tuple[Item, ...],
    declined: Collection[str] = (),
    keeping: Keeping = KEEP_NONE,
) -> ListMerge:
    """Change the pages and entries of a map that a list says otherwise; all else at them stays. Nothing is done that is
    ``declined``, by name, nor what would be below something that is."""
    assert compiled.plan is not None
    return _Merge(compiled, text, items, declined, keeping).done()


class _Merge:
    def __init__(
        self, compiled: Compiled, text: str, items: tuple[Item, ...], declined: Collection[str], keeping: Keeping
    ) -> None:
        self.compiled, self.text, self.keeping, self.declined = compiled, text, keeping, declined
        assert compiled.plan is not None
        self.plan: Plan = compiled.plan
        self.found: ListDifferences = list_differences(items_from(compiled.plan), items)
        self.keys = {key: key for key in compiled.plan.site.pages}
        self.place = {line: at for at, line in enumerate(self.found.lines)}
        self.made: dict[Line, str] = {}
        self.changes: dict[str, ListChange] = {}
        self.before, self.pages = compiled.files, tuple(compiled.plan.site.pages)

    def done(self) -> ListMerge:
        found = self.found
        self._look_at_size()
        differing = sorted([*found.added, *found.moved], key=lambda line: self.place[line])
        for line in differing:
            self._place_page(line)
        self._settle()
        for line in found.renamed:
            self._rename(line)
        for line in found.led:
            self._lead(line)
        for line in differing:
            if line.menu is not None:
                self._place_entry(line)
        for line in found.moved:
            was = line.old
            if was is not None and line.is_page and was.menu not in (None, line.menu):
                self._take_out(self._change("move", line), was.menu, self._key(line) or "")
        for line in sorted(found.gone, key=lambda line: (line.is_page, -line.order)):
            self._remove(line)
        changes = tuple(each for each in self.changes.values() if each.is_done or each.is_declined or each.refused)
        files = self.compiled.files.changed_since(self.before)
        deleted = tuple(key for key in self.pages if key not in self.keys)
        return ListMerge(changes, self.text, self.compiled, self.keys, files, deleted)

    def _look_at_size(self) -> None:
        """Raise ``EditRejected`` where so much is moved or left out that it would take minutes."""
        pages = len(self.plan.site.pages)
        gone = len(self.found.gone)
        placed = len(self.found.moved) + sum(not line.is_page for line in self.found.added)
        most = max(_LEAST, _MOST // pages)
        if gone + placed > most:
            raise EditRejected(
                f"The list leaves {gone:,} lines out, and moves or adds {placed:,} entries and pages. In a site of "
                f"{pages:,} pages it can change {most:,} at once, besides new and renamed pages. Change it in several "
                "steps. Nothing was changed."
            )

    # Changes

    def _change(self, kind: str, line: Line) -> ListChange:
        """The change of a kind that a line is."""
        was = line.old.item if line.old is not None else line.item
        about = f"{kind}:{line.menu or ''}:{was.key or _way(line)}"
        if about not in self.changes:
            key = self.keys.get(was.key) if line.is_page and kind != "add" else None
            reason = cannot(self.plan.site, key, _ACTS.get(kind, kind)) if key is not None else ""
            refused = f"{reason}." if reason else ""
            self.changes[about] = ListChange(about, self._words(kind, line), about in self.declined, refused)
        return self.changes[about]

    def _words(self, kind: str, line: Line) -> str:
        under = f" under {line.page.label}" if line.page is not None else ""
        of_menu = "" if line.is_page else f" in the menu {line.menu}"
        was = line.old.label if line.old is not None else line.label
        if kind == "add":
            sort = "the group " if line.item.kind is ItemKind.GROUP else ""
            return f"Add {sort}{line.label}{under if line.is_page else f' to the menu {line.menu}'}"
        if kind == "move" and line.is_page and line.old is not None and line.page is line.old.page is None:
            to_menu = f" to the menu {line.menu}" if line.menu is not None else " out of the menus"
            return f"Move {was}{to_menu if line.menu != line.old.menu else ''}"
        if kind == "move":
            return f"Move {was}{of_menu or under}"
        if kind == "rename":
            return f"Rename {was} to {line.label}"
        if kind == "lead":
            return f"Change the address of {line.label} to {line.item.address}"
        if not line.is_page:
            return f"Remove {line.label} from the menu {line.menu}"
        below = sum(key.startswith(f"{line.item.key}/") for key in self.plan.site.pages)
        with_those = f" and the {below} pages under it" if below > 1 else " and the page under it" * below
        return f"Delete {line.label}{with_those}"

    def _settle(self) -> None:
        """Give pages their names and addresses by one reading of the map, where none of them is refused."""
        named = [(self._change("rename", line), line) for line in self.found.renamed if line.is_page]
        led = [(self._change("lead", line), line) for line in self.found.led if line.is_page]

        def wanted(pairs: Iterable[tuple[ListChange, Line]]) -> Iterator[tuple[str, Line]]:
            for change, line in pairs:
                key = self._key(line)
                if key is not None and not (change.is_declined or change.refused):
                    yield key, line

        commands: list[Command] = [NamePage(key, line.label) for key, line in wanted(named)]
        commands += [SetWord(key, "path", line.item.address or "") for key, line in wanted(led)]
        with suppress(EditRejected):
            if commands and self._edit(*commands):
                for change, _ in (*named, *led):
                    change.is_done = not (change.is_declined or change.refused)

    def _do(self, change: ListChange, command: Command) -> bool:
        """Do a command for a change, unless that is declined; tells whether it was done."""
        if change.is_declined or change.refused:
            return False
        try:
            edited = self._edit(command)
        except FollowsPages:
            return False  # it is where its page is
        except EditRejected as rejected:
            change.refused = _ENDING.sub("", str(rejected)) + "."
            return False
        change.is_done = True
        for note in edited.words.split("; "):
            if note.startswith("removed the group") and note not in change.words:
                change.words += f"; {note}"
        return True

    def _edit(self, *commands: Command) -> Edited:
        """Do commands together. Raises ``EditRejected``."""
        edited = edit(self.compiled, self.text, *commands, keeping=self.keeping)
        assert edited.compiled.plan is not None
        self.keys = {old: edited.keys[key] for old, key in self.keys.items() if key in edited.keys}
        self.made = {line: edited.keys[key] for line, key in self.made.items() if key in edited.keys}
        self.compiled, self.text, self.plan = edited.compiled, edited.text, edited.compiled.plan
        return edited

    def _key(self, line: Line | None) -> str | None:
        """The key of the page of a line now; None where it is not there."""
        if line is None:
            return None
        return self.made.get(line) or (self.keys.get(line.old.item.key) if line.old is not None else None)

    # Pages

    def _place_page(self, line: Line) -> None:
        """Put a page where its line is, among the pages; a new one is made."""
        if not line.is_page:
            return
        change, parent = self._change("move" if line.old is not None else "add", line), self._key(line.page)
        if line.page is not None and parent is None:
            change.refused = change.refused or f"{line.page.label} is not there."
            return
        if line in self.made:
            return  # the one before it brought it
        key = self._key(line)
        among = [each for each in self._children(parent) if each != key]
        index = self._index(line, among)
        if key is None:
            self._add_pages(line, parent, among, index)
        elif line.old is not None and line.old.page is line.page is None and line.old.menu != line.menu:
            return  # it is in another menu, or in none, and stays where it is among the pages
        elif self.plan.site.pages[key].parent != parent or self._children(parent).index(key) != index:
            self._do(change, MovePage(key, parent, index))

    def _add_pages(self, line: Line, parent: str | None, among: list[str], index: int) -> None:
        """Add the page of a line, with the new ones below it and behind it."""
        run = [*self._run(line)]
        if not run:
            return
        changes = [self._change("add", each) for each in run]
        menu = MAIN if line.menu == MAIN and line.above is line.page and self._is_shown(line) else ""
        beside = among[index - 1] if index else None if among else parent
        command: Command
        if beside is None:  # the first of several
            run, command = run[:1], AddPage(line.label, parent, index, menu)
        else:
            below: dict[Line | None, list[ListedPage]] = defaultdict(list)
            for each in reversed(run):
                page = ListedPage(each.label, each.item.address or "", tuple(reversed(below[each])))
                below[each.page if each.page is not line.page else None].append(page)
            over = self._number(menu, line.above) if menu and line.above is not None else None
            place = self._entry_index(line, over, None) if menu else None
            command = AddPages(tuple(reversed(below[None])), beside, "after" if index else "under", menu, place)
        before = {*self.keys.values(), *self.made.values()}
        if not self._do(changes[0], command):
            return
        for change in changes[: len(run)]:
            change.is_done = True
        fresh = (key for key in self.plan.site.pages if key not in before)
        self.made.update(zip(run, fresh, strict=False))
        if beside is None and line.item.address and line in self.made:
            self._do(changes[0], SetWord(self.made[line], "path", line.item.address))

    def _run(self, first: Line) -> Iterator[Line]:
        """A new page with those new ones that follow it below the same page, and all of them that are below these."""
        run: set[Line] = set()
        for line in self.found.lines[self.place[first] :]:
            is_new = line.old is None and line.is_page and line.above is line.page and line not in self.made
            is_here = line is first or (line.page is first.page and first.above is line.above) or line.page in run
            is_new = is_new or line is first
            if not (is_new and is_here and line.menu == first.menu) or self._change("add", line).is_declined:
                return
            run.add(line)
            yield line

    def _children(self, parent: str | None) -> tuple[str, ...]:
        return self.plan.site.pages[parent].children if parent is not None else self.plan.site.top

    def _index(self, line: Line, among: list[str]) -> int:
        """The place behind the nearest line before it that is among some pages."""
        before = [each for each in self._beside(line) if each.is_page]
        for each in reversed(before):
            key = self._key(each)
            if key in among:
                return among.index(key) + 1
        return 0 if line.menu == MAIN or line.page is not None else len(among)

    def _beside(self, line: Line) -> list[Line]:
        """The lines before one that are below the same page, in the same menu."""
        return [
            each for each in self.found.lines[: self.place[line]] if each.page is line.page and each.menu == line.menu
        ]

    def _rename(self, line: Line) -> None:
        change, key = self._change("rename", line), self._key(line)
        if change.is_done:
            return
        if line.is_page and key is not None:
            self._do(change, NamePage(key, line.label))
        elif line.old is not None and line.menu is not None:
            number = self._number(line.menu, line.old)
            word = "group" if line.item.kind is ItemKind.GROUP else "label"
            if number is not None:
                self._do(change, SetEntry(line.menu, number, {word: line.label}))

    def _lead(self, line: Line) -> None:
        change, key, address = self._change("lead", line), self._key(line), line.item.address or ""
        if change.is_done:
            return
        if line.is_page and key is not None:
            self._do(change, SetWord(key, "path", address))
        elif line.old is not None and line.menu is not None:
            number = self._number(line.menu, line.old)
            if number is not None:
                self._do(change, SetEntry(line.menu, number, _lead(line.item)))

    # Entries

    def _place_entry(self, line: Line) -> None:
        """Put the entry of a line where the line is, in its menu; a new one is made."""
        assert line.menu is not None
        change = self._change("move" if line.old is not None else "add", line)
        number = self._number(line.menu, line)
        parent = self._number(line.menu, line.above) if line.above is not None else None
        if line.above is not None and parent is None:
            return  # what is above it has no entry, as pages below those that a menu shows
        if line.item.kind is ItemKind.GROUP and number is None:
            self._make_group(change, line)
        elif number is not None:
            index = self._entry_index(line, parent, number)
            if index is not None:
                self._move_entry(change, line, MoveEntry(line.menu, number, parent, index))
        elif line.is_page:
            key = self._key(line)
            if key is not None and self._is_shown(line):
                self._do(change, AddToMenu(line.menu, key, parent, self._entry_index(line, parent, None) or 0))
        else:
            self._add_entry(change, line, parent)

    def _move_entry(self, change: ListChange, line: Line, command: MoveEntry) -> None:
        """Move an entry. Among entries that `auto` makes it is by itself, once it is nowhere else."""
        was = next(above for number, _, above in self._entries(command.menu) if number == command.number)
        if self._do(change, command) or change.refused or change.is_declined or was == command.parent:
            return
        before = self.keys, self.made, self.compiled, self.text, self.plan
        was_done = change.is_done
        if line.is_page and self._do(change, RemoveFromMenu(command.menu, command.number)):
            if self._number(command.menu, line) is None:  # `auto` does not make it: its own entry stays where it is
                self.keys, self.made, self.compiled, self.text, self.plan = before
                change.is_done = was_done
            else:
                change.words += f"; its own entry in the menu {command.menu} becomes an automatic one"

    def _is_shown(self, line: Line) -> bool:
        """Whether a page without an entry in its menu is to have one: at the top or in a group, and where those beside
        it have one."""
        if line.above is None or not line.above.is_page:
            return True
        beside = [each for each in self.found.lines if each.above is line.above and each.menu == line.menu]
        known = [each for each in beside if each is not line and each.old is not None and each.old.menu == line.menu]
        return not known or any(self._number(line.menu or "", each) is not None for each in known)

    def _make_group(self, change: ListChange, line: Line) -> None:
        assert line.menu is not None
        for each in self.found.lines:
            number = self._number(line.menu, each) if each.above is line else None
            if number is not None:
                self._do(change, MakeGroup(line.menu, number, line.label))
                return
        change.refused = change.refused or "A group begins with a page that is in the menu. Put it there first."

    def _add_entry(self, change: ListChange, line: Line, parent: int | None) -> None:
        assert line.menu is not None
        index = self._entry_index(line, parent, None) or 0
        if line.is_reference:
            page = next((each for each in self.found.lines if each.is_page and each.label == line.label), None)
            key = self._key(page)
            if key is not None:
                self._do(change, AddToMenu(line.menu, key, parent, index))
            return
        words = {"label": line.label, **_lead(line.item)}
        kind = next(kind for kind in ("url", "file", "page") if kind in words)
        self._do(change, AddEntry(line.menu, parent, kind, words, index))

    def _number(self, menu: str, line: Line | None) -> int | None:
        """The number of the entry of a line in a menu; None where it has none."""
        if line is None:
            return None
        return next((number for number, entry, _ in self._entries(menu) if self._is_of(entry, line)), None)

    def _is_of(self, entry: Entry, line: Line) -> bool:
        item = line.item
        if line.is_page:
            key = self._key(line) or self.keys.get(item.key, "")
            return entry.kind is EntryKind.PAGE and entry.page == key
        if item.kind is ItemKind.GROUP:
            return entry.kind is EntryKind.GROUP and entry.label == item.label
        if item.kind is ItemKind.LINK:
            return entry.kind is EntryKind.OUTSIDE and (entry.url, entry.label) == (item.address, item.label)
        return entry.label == item.label and entry.kind not in (EntryKind.GROUP, EntryKind.OUTSIDE)

    def _entries(self, menu: str) -> Iterator[tuple[int, Entry, int | None]]:
        """The entries of a menu with their numbers, and the number of the one that each is below."""
        known, counted = self.plan.site.menus.get(menu), 0

        def walk(entries: tuple[Entry, ...], above: int | None) -> Iterator[tuple[int, Entry, int | None]]:
            nonlocal counted
            for entry in entries:
                number = counted
                counted += 1
                yield number, entry, above
                yield from walk(entry.items, number)

        yield from walk(known.entries if known is not None else (), None)

    def _entry_index(self, line: Line, parent: int | None, number: int | None) -> int | None:
        """The place of a line among the entries below ``parent``, without its own ``number``; None where it is there
        already."""
        assert line.menu is not None
        among = [n for n, _, above in self._entries(line.menu) if above == parent]
        others = [n for n in among if n != number]
        lines = self.found.lines
        before = [each for each in lines[: self.place[line]] if each.above is line.above and each.menu == line.menu]
        index = 0
        for each in reversed(before):
            found = self._number(line.menu, each)
            if found in others:
                index = others.index(found) + 1
                break
        return None if number in among and among.index(number) == index else index

    def _take_out(self, change: ListChange, menu: str | None, key: str) -> None:
        for number, entry, _ in self._entries(menu or ""):
            if entry.kind is EntryKind.PAGE and entry.page == key:
                self._do(change, RemoveFromMenu(menu or "", number))
                return

    def _remove(self, line: Line) -> None:
        change = self._change("remove", line)
        if line.is_page:
            key = self.keys.get(line.item.key)
            below = (
                each for each in self.found.lines if each.is_page and (self._key(each) or "").startswith(f"{key}/")
            )
            left = next(below, None)
            if left is not None:  # its own change was declined, or refused
                change.refused = change.refused or f"{left.label} is still under it."
            if key is not None:
                self._do(change, DeletePage(key))
            return
        for number, entry, _ in self._entries(line.menu or ""):
            if self._is_of(entry, line):
                if entry.items:
                    change.refused = change.refused or "There are still entries in it."
                self._do(change, RemoveFromMenu(line.menu or "", number))
                return


_ACTS = {"rename": "name", "lead": "rename", "remove": "delete"}
"""By the kind of a change the act that it is to a page."""
_MOST, _LEAST = 60_000, 20
"""How many pages are read again, at most, for a list; and how many lines can be changed in a site of any size."""
_ENDING = re.compile(r"[;.]?(?: So)? nothing was changed\.$|\.$", re.IGNORECASE)
"""How refusals end; of a list all else is done."""


def _lead(item: Item) -> dict[str, str]:
    """Where an entry leads, as words of the map."""
    address = item.address or ""
    if item.kind is ItemKind.LINK:
        return {"url": address}
    if address.startswith("file:"):
        return {"file": unquote(address.removeprefix("file:"))}
    return {"page": address.removeprefix("page:")}


def _way(line: Line) -> str:
    return f"{_way(line.above)}/{line.label}" if line.above is not None else line.label
