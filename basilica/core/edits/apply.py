"""The one way from a text and an act to another text, proved before it is given out."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace

from basilica.core.content.source_links import updated_links
from basilica.core.edits import commands as commands
from basilica.core.edits.commands import Edit
from basilica.core.edits.descriptions import describe
from basilica.core.edits.part_changes import names_in, with_part_word, with_slot, written_value
from basilica.core.edits.reference_updater import ReferenceUpdater
from basilica.core.edits.setting_editor import SettingEditor
from basilica.core.edits.site_changes import (
    WORDS,
    Branch,
    Tree,
    at,
    changed,
    changed_without,
    header_words,
    inside,
    leading_to,
    new_page,
    paths,
    plain_value,
    with_header_word,
    with_id,
    with_item,
    with_menus,
    with_name,
    with_rule,
    with_word,
    within,
    without,
    without_item,
    written_out,
)
from basilica.core.edits.source_patcher import NotHere, Snippet, SourcePatcher
from basilica.core.map.document.scalar_writer import write_scalar
from basilica.core.map.schema.part_words import KINDS
from basilica.core.map.site import Entry, EntryKind, Page, Site
from basilica.core.map.site.auto_entries import Path
from basilica.core.map.site.ids import id_from
from basilica.core.map.site.model import Header, LevelSetting
from basilica.core.map.site.part_reader import NEEDS, NONE, is_part_name
from basilica.core.map.site.references import References, shortest
from basilica.core.map.site.shared_values import Part
from basilica.core.pipeline import Compiled, compile_map
from basilica.core.plan import Plan

_BY_HAND = "The text is written in a way that this cannot be done in here. Change it in the code; nothing was changed."


class EditRejected(Exception):
    """An act that is not done; the message says why, and that nothing was changed."""


@dataclass(frozen=True, slots=True)
class Edited:
    """A text after an act. ``keys`` has the new key of every page that was there before and is now; ``words`` say
    what was done, as in "Moved Tides under Visit"; ``chosen`` is the page that the act was about."""

    text: str
    compiled: Compiled
    keys: Mapping[str, str]
    words: str
    chosen: str | None


def edit(compiled: Compiled, text: str, command: Edit) -> Edited:
    """Do an act to the text of a map, of which ``compiled`` is the reading.

    Only the lines that the act must touch are changed. What comes out is read again and held against the act done to
    the site itself. Raises ``EditRejected`` where the act makes no sense, or where the map would have errors after it.
    """
    if compiled.plan is None or compiled.stops:
        raise EditRejected("The text has errors. Mend them first; the plan shows the last good text.")
    edits = _Edits(compiled.plan, SourcePatcher(text))
    try:
        edits.do(command)
    except NotHere as error:
        raise EditRejected(_BY_HAND) from error
    except (KeyError, IndexError, ValueError) as error:
        raise EditRejected("What this is about is not there any more. Nothing was changed.") from error
    after = compile_map(edits.draft.text, compiled.files)
    stopper = next((finding for finding in after.findings if finding.stops), None)
    if stopper:
        raise EditRejected(f"{stopper.message} So nothing was changed.")
    if after.plan is None or after.plan.site != edits.site:
        raise EditRejected(_BY_HAND)
    return Edited(edits.draft.text, after, edits.keys, describe(command, compiled.plan.site), edits.chosen)


class _Edits:
    """Does an act twice: to the site, and to the text."""

    def __init__(self, plan: Plan, draft: SourcePatcher) -> None:
        self.plan = plan
        self.site = plan.site
        self.draft = draft
        self.hand = SettingEditor(draft)
        self.keys: dict[str, str] = {key: key for key in plan.site.pages}
        self.chosen: str | None = None

    def do(self, command: Edit) -> None:
        match command:
            case commands.AddPage():
                self._add(command)
            case commands.NamePage(key, name):
                page = self.site.pages[key]
                self.hand.name_page(key, "label" if page.own_label else "title", name)
                self._change_page(key, lambda page: with_name(page, name))
            case commands.MovePage():
                self._move(command)
            case commands.SetWord():
                self._set(command)
            case commands.SetHeader():
                self._set_header(command)
            case commands.SetPart():
                self._set_part(command)
            case commands.MakePart():
                self._make_part(command)
            case commands.FillSlot():
                self._fill_slot(command)
            case commands.SuppressCheck():
                self._suppress(command)
            case commands.RenameId():
                self._rename(command)
            case commands.DeletePage(key):
                self._delete(key)
            case commands.PutInMenu(menu, key, parent, index):
                path = self._list_path(menu, parent)
                reference = shortest(key, References(self.site.pages))
                entry = Entry(EntryKind.PAGE, "", page=key)
                self._insert(menu, path, index, Snippet((f"- {reference}",), reference), entry)
                self.chosen = key
            case commands.TakeOut(menu, number):
                path = self._entry_path(menu, number)
                self.hand.cut_entry(menu, path)
                self._change_menu(menu, path[:-1], lambda entries: without(entries, path[-1]))
                self.hand.prune([menu])
            case commands.MoveEntry():
                self._move_entry(command)
            case commands.MakeGroup(menu, number, label):
                path = self._entry_path(menu, number)
                self.hand.wrap_entry(menu, path, label)
                group = Entry(EntryKind.GROUP, label, items=(at(self.site.menus[menu].written, path),))
                self._change_menu(menu, path[:-1], lambda e: (*e[: path[-1]], group, *e[path[-1] + 1 :]))

    # Pages

    def _add(self, command: commands.AddPage) -> None:
        tree = Tree(self.site)
        below = tree.below(command.parent)
        page_id = id_from(command.title, {branch.page.id for branch in below})
        index = within(command.index, below)
        below.insert(index, Branch(new_page(page_id, command.title)))
        self.hand.insert_page(command.parent, index, Snippet.of(f"{page_id}: {write_scalar(command.title)}"))
        self._take_tree(tree)
        self.chosen = f"{command.parent}/{page_id}" if command.parent else page_id

    def _set(self, command: commands.SetWord) -> None:
        if command.word not in WORDS:
            raise EditRejected(f"`{command.word}` is no key of a page that can be written here. Nothing was changed.")
        value = written = plain_value(command.word, command.value)
        if command.word == "highlight" and value:
            found = References(self.site.pages).find(value)
            if len(found) != 1:
                raise EditRejected(f"There is no page `{value}`. Nothing was changed.")
            value, written = found[0], shortest(found[0], References(self.site.pages))
        flow = write_scalar(written) if written else None
        if command.word == "hidden" and " " in value:
            flow = f"[{', '.join(value.split())}]"
        self.hand.set_word(command.key, command.word, flow)
        self._change_page(command.key, lambda page: with_word(page, command.word, value))

    def _set_part(self, command: commands.SetPart) -> None:
        known = self.site.parts.get(command.part)
        if known is None:
            raise EditRejected(f"There is no part `{command.part}`. Nothing was changed.")
        if known.file:
            raise EditRejected(
                f"The part `{command.part}` is written in {known.file}. Change it there; nothing was changed."
            )
        value = written_value(command.word, command.value)
        self._take_part(with_part_word(known, command.word, value))
        self.hand.set_part(command.part, command.word, value)

    def _make_part(self, command: commands.MakePart) -> None:
        if not is_part_name(command.part) or command.part in self.site.parts or command.kind not in KINDS:
            taken = "There is one already." if command.part in self.site.parts else "Choose another name."
            raise EditRejected(f"No part `{command.part}` can be made. {taken} Nothing was changed.")
        word = NEEDS.get(command.kind, ("text",))[0]
        value = written_value(word, command.value)
        if not value and (command.kind == "text" or command.kind in NEEDS):
            raise EditRejected(f"A part of the kind `{command.kind}` needs its {word}. Nothing was changed.")
        self._take_part(with_part_word(Part(command.part, command.kind), word, value))
        if command.kind != "text":
            self.hand.set_part(command.part, "kind", command.kind)
        if value:
            self.hand.set_part(command.part, word, value)

    def _take_part(self, part: Part) -> None:
        self.site = replace(self.site, parts={**self.site.parts, part.name: part})

    def _fill_slot(self, command: commands.FillSlot) -> None:
        names = names_in(command.parts)
        empty = command.parts.strip() == NONE
        flow = None if not names else write_scalar(names[0]) if len(names) == 1 else f"[{', '.join(names)}]"
        self.hand.set_under(command.key, ("slots",), command.slot, NONE if empty else flow)
        filled = names if names or empty else None
        if command.key is None:
            self.site = replace(self.site, slots=with_slot(self.site.slots, command.slot, filled))
            return

        def change(page: Page) -> Page:
            extra = replace(page.options.extra, slots=with_slot(page.options.extra.slots, command.slot, filled))
            return page._replace(set_options=replace(page.options, extra=extra))

        self._change_page(command.key, change)

    def _set_header(self, command: commands.SetHeader) -> None:
        value = " ".join(command.value.split())
        if command.word not in header_words(command.key is not None, command.mobile):
            raise EditRejected(f"`{command.word}` is no word of the header here. Nothing was changed.")
        names = ("header", "mobile") if command.mobile else ("header",)
        flow = value if value.isdecimal() else write_scalar(value)
        self.hand.set_under(command.key, names, command.word, flow if value else None)
        if command.key is None:
            self.site = replace(
                self.site, header=with_header_word(self.site.header, command.word, value, command.mobile)
            )
            return

        def change(page: Page) -> Page:
            header = page.options.header
            if header is None and not value:
                return page
            return page._replace(
                set_options=replace(
                    page.options, header=with_header_word(header or Header(), command.word, value, command.mobile)
                )
            )

        self._change_page(command.key, change)

    def _suppress(self, command: commands.SuppressCheck) -> None:
        reason = " ".join(command.reason.split())
        if command.key is None:
            flow = f"{{level: ignore, reason: {write_scalar(reason)}}}" if reason else None
            self.hand.set_under(None, ("checks", "levels"), command.code, flow)
            if flow is None:
                self.hand.prune_under(None, ("checks", "levels"))
            setting = LevelSetting(command.code, "ignore", reason) if reason else None
            self.site = replace(self.site, checks=with_rule(self.site.checks, command.code, setting))
            return
        self.hand.set_under(command.key, ("ignore",), command.code, write_scalar(reason) if reason else None)
        if not reason:
            self.hand.prune_under(command.key, ("ignore",))

        def change(page: Page) -> Page:
            known = dict(page.options.extra.ignored)
            ignored = with_item(page.options.extra.ignored, command.code, reason or None)
            if ignored == tuple(known.items()):
                return page
            return page._replace(set_options=replace(page.options, extra=replace(page.options.extra, ignored=ignored)))

        self._change_page(command.key, change)

    def _move(self, command: commands.MovePage) -> None:
        if command.parent == command.key or (command.parent or "").startswith(command.key + "/"):
            raise EditRejected("A page cannot go below itself. Nothing was changed.")
        tree = Tree(self.site)
        branch = tree.take(command.key)
        below = tree.below(command.parent)
        index = within(command.index, below)
        below.insert(index, branch)
        self.hand.insert_page(command.parent, index, self.hand.cut_page(command.key))
        self._take_tree(tree)
        self.chosen = self.keys[command.key]

    def _rename(self, command: commands.RenameId) -> None:
        old = (
            self.plan.path_of(command.key)
            if command.keep_old and self.site.home != command.key and self._built(command.key)
            else None
        )
        tree = Tree(self.site)
        tree.change(command.key, lambda page: with_id(page, command.id, old))
        if old:
            self.hand.add_old_address(command.key, old)
        self.hand.set_id(command.key, command.id)
        self._take_tree(tree)
        self.chosen = self.keys[command.key]

    def _built(self, key: str) -> bool:
        return self.site.pages[key].options.kind == "page"

    def _delete(self, key: str) -> None:
        tree = Tree(self.site)
        tree.take(key)
        gone = {other for other in self.site.pages if other == key or other.startswith(key + "/")}
        for name, menu in self.site.menus.items():
            if menu.settings.section in gone:
                continue  # it goes as a whole
            for path in reversed(leading_to(menu.written, gone)):
                self.hand.cut_entry(name, path)
        self.hand.prune(self.site.menus)
        self.hand.cut_page(key)
        self.chosen = self.site.pages[key].parent or self.site.home
        self._take_tree(tree)

    def _take_tree(self, tree: Tree) -> None:
        """Take over the tree, and mend references to pages whose key is another now."""
        before = self.site
        self.site, self.keys = tree.done()
        mender = ReferenceUpdater(self.hand, References(before.pages), References(self.site.pages), self.keys)
        for name, menu in before.menus.items():
            if name not in self.site.menus:
                self.hand.cut_menu(name)
            else:
                mender.menu(name, self.site.menus[name].written)
                if menu.settings.section is not None:
                    mender.section(name)
        self._mend_parts(mender, before)
        for old, new in self.keys.items():
            if before.pages[old].options.highlight is not None:
                mender.highlight(new)

    def _mend_parts(self, mender: ReferenceUpdater, before: Site) -> None:
        """Mend links in the texts of parts, which are written in the map."""
        old, new = References(before.pages), References(self.site.pages)
        parts = dict(self.site.parts)
        for name, part in before.parts.items():
            text = updated_links(part.text, part.markup, self.keys, old, new)
            if text != part.text and not part.file:
                mender.part(name, part)
                parts[name] = replace(part, text=text)
        self.site = replace(self.site, parts=parts)

    def _change_page(self, key: str, change) -> None:  # type: ignore[no-untyped-def]
        tree = Tree(self.site)
        tree.change(key, change)
        self.site, self.keys = tree.done()
        self.chosen = key

    # Menus

    def _change_menu(self, menu: str, path: Path, change) -> None:  # type: ignore[no-untyped-def]
        written = {name: known.written for name, known in self.site.menus.items()}
        written[menu] = changed(written.get(menu, ()), path, change)
        self.site = with_menus(self.site, written)

    def _entry_path(self, menu: str, number: int) -> Path:
        """Where an entry is written; where `auto` makes it, that is written out first."""
        path = self._path(menu, number)
        if at(self.site.menus[menu].written, path).kind is EntryKind.AUTO:
            self._write_out(menu, path)
            path = self._path(menu, number)
        return path

    def _list_path(self, menu: str, parent: int | None) -> Path:
        """Where the entries below an entry, or at the top, are written, each by itself."""
        path = self._entry_path(menu, parent) if parent is not None else ()
        if menu in self.site.menus:
            entries = inside(self.site.menus[menu].written, path)
            for index in reversed(range(len(entries))):
                if entries[index].kind is EntryKind.AUTO:
                    self._write_out(menu, (*path, index))
        return path

    def _path(self, menu: str, number: int) -> Path:
        return paths(self.site.menus[menu], self.site)[number]

    def _write_out(self, menu: str, path: Path) -> None:
        known = References(self.site.pages)
        entries = written_out(self.site.menus[menu].written, path, self.site)
        if any(entry.kind is EntryKind.GROUP for entry in entries):
            raise NotHere  # groups by letter are not written out one by one
        self.hand.write_out(menu, path, entries, lambda key: shortest(key, known))
        self._change_menu(menu, path[:-1], lambda e: (*e[: path[-1]], *entries, *e[path[-1] + 1 :]))

    def _insert(self, menu: str, path: Path, index: int, chunk: Snippet, entry: Entry) -> None:
        index = within(index, inside(self.site.menus[menu].written, path) if menu in self.site.menus else ())
        self.hand.insert_entry(menu, path, index, chunk)
        self._change_menu(menu, path, lambda entries: (*entries[:index], entry, *entries[index:]))

    def _move_entry(self, command: commands.MoveEntry) -> None:
        menu = command.menu
        # Both are looked up twice: writing `auto` out for the one may move the other.
        self._entry_path(menu, command.number)
        to = self._list_path(menu, command.parent)
        path = self._entry_path(menu, command.number)
        if to[: len(path)] == path:
            raise EditRejected("An entry cannot go below itself. Nothing was changed.")
        entry = at(self.site.menus[menu].written, path)
        chunk = self.hand.cut_entry(menu, path)
        self.site = without_item(self.site, menu, changed_without(self.site, menu, path))
        depth = len(path) - 1
        if to[:depth] == path[:-1] and len(to) > depth and to[depth] > path[-1]:
            to = (*to[:depth], to[depth] - 1, *to[depth + 1 :])
        index = within(command.index, inside(self.site.menus[menu].written, to))
        self.hand.insert_entry(menu, to, index, chunk)
        self._change_menu(menu, to, lambda entries: (*entries[:index], entry, *entries[index:]))
        self.hand.prune([menu])
        self.chosen = entry.page
