"""What an edit is: a command that changes the site, patches the text in the same way, and says what it did.

The two changes are made apart, and an edit is accepted only when the text that was patched, read again, says the site
that was changed.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace
from itertools import chain
from typing import ClassVar

from msgspec import Struct

from basilica.core.compile import Compiled, compile_map
from basilica.core.content.source_links import updated_links
from basilica.core.edits.accounted_words import WordPlace, targets_of
from basilica.core.edits.fields import numbered
from basilica.core.edits.map_data import MapData, auto_words, data_of, entries_in, take_in_included, text_of
from basilica.core.edits.reference_updater import ReferenceUpdater
from basilica.core.edits.row_editor import RowEditor
from basilica.core.edits.setting_editor import SettingEditor
from basilica.core.edits.site_changes import (
    Tree,
    at,
    changed,
    inside,
    paths,
    with_menus,
    with_pages,
    within,
    written_out,
)
from basilica.core.edits.source_patcher import Snippet, SourcePatcher
from basilica.core.language.sections.menu_words import AUTO_WORD, AutoOptions
from basilica.core.map.map_files import Files
from basilica.core.map.site import Entry, EntryKind, Page, Site
from basilica.core.map.site.auto_entries import Expansion, Path
from basilica.core.map.site.page_reader import with_heads
from basilica.core.map.site.references import References, shortest
from basilica.core.map.site.shared_values import Part
from basilica.core.map.site.written_place import not_here
from basilica.core.plan import Plan, other_languages
from basilica.core.plan.redirects import parsed
from basilica.core.plan.routes import Route, make_routes


class EditRejected(Exception):
    """An edit that is not done; the message says why, and that nothing was changed."""


class FollowsPages(EditRejected):
    """An edit that would write the entries of a menu out which `auto` makes, and to which nobody agreed."""

    def __init__(self, menu: str) -> None:
        super().__init__(
            f"The menu {menu} follows the pages. For this its entries would be written out one by one, and new pages "
            "would not join it any more. Nothing was changed."
        )


class Command(Struct, frozen=True, tag_field="edit"):
    """What a person does to a map, in pages and entries; not how the text changes. Its tag names it in data."""

    settles: ClassVar[bool] = False
    """Whether it leaves every page and entry where it is, so that another edit can follow in the same reading."""

    def change(self, work: EditInProgress) -> None:
        """Do it, to the site and to the text. What its fields name is there. Raises ``EditRejected`` where it makes no
        sense."""
        raise NotImplementedError

    def describe(self, before: Site) -> str:
        """What was done to the site ``before``, as in "Moved Tides under Visit"."""
        raise NotImplementedError


class MenuEdit(Command, frozen=True, kw_only=True):
    """An edit of the entries of a menu. With ``write_out``, those that `auto` makes may be written out for it."""

    write_out: bool = False


class EditInProgress:
    """An edit on its way: the ``site`` and the ``text`` that it changes, and which page it is about."""

    def __init__(self, plan: Plan, patcher: SourcePatcher) -> None:
        self.plan = plan
        self.site = plan.site
        self.patcher = patcher
        self.text = SettingEditor(patcher, plan.site.files)
        self.rows = RowEditor(plan.site.files)
        self.keys: dict[str, str] = {key: key for key in plan.site.pages}
        """By the key that a page had, the one that it has."""
        self.chosen: str | None = None
        self.may_write_out = False
        """Whether the entries that `auto` makes may be written out, so that the menu follows the pages no more."""
        self.notes: list[str] = []
        """What was not done, and why, beside what was."""
        self.removed: set[WordPlace] = set()
        """The words that the edit names as removed; it is refused if it removes others."""

    def accountable(self) -> tuple[MapData, list[str]]:
        """What an edit must keep where it does not name it: the data of the map and of the files that it includes, and
        their comments."""
        data = self.data()  # this looks into each file
        of_files = (editor.draft.comments for editor in self.text.included.values())
        return data, [*self.patcher.comments, *chain.from_iterable(of_files)]

    def compiled(self) -> Compiled:
        """What was patched, read again. From then on the site has the files that were patched with the map."""
        self.site = replace(self.site, files=self.site.files.replaced(self.changed_files()))
        return compile_map(self.patcher.text, self.site.files)

    def changed_files(self) -> dict[str, bytes]:
        """The files beside the map that are others now, by name."""
        return {**self.text.changed_files(), **self.rows.changed_files()}

    def removes(self, *places: WordPlace) -> None:
        """Name words that the edit removes, with all that is below them."""
        self.removed.update(places)

    # Pages

    def take_tree(self, tree: Tree) -> None:
        """Take over the tree, and update references to pages whose key is another now."""
        self._take_pages(*tree.done())

    def _take_pages(self, site: Site, keys: dict[str, str]) -> None:
        """Take over a site with other ``keys`` of pages, and update the references to these in the text."""
        before = self.site
        self._take(site, keys)
        updater = ReferenceUpdater(self.text, References(before.pages), References(self.site.pages), self.keys)
        for name, menu in before.menus.items():
            if name not in self.site.menus:
                self.text.cut_menu(name)
            else:
                updater.menu(name, self.site.menus[name].written)
                if menu.settings.section is not None:
                    updater.section(name)
        self._update_parts(updater, before)
        if before.redirects:
            updater.redirects()
        for old, new in self.keys.items():
            options = before.pages[old].options
            if options.highlight is not None:
                updater.highlight(new)
            if options.trail_parent is not None or options.trail:
                updater.trail(new)

    def _update_parts(self, updater: ReferenceUpdater, before: Site) -> None:
        """Update links in the texts of parts, which are written in the map."""
        old, new = References(before.pages), References(self.site.pages)
        parts = dict(self.site.parts)
        for name, part in before.parts.items():
            text = updated_links(part.text, part.markup, self.keys, old, new)
            if text != part.text and not part.file:
                updater.part(name, part)
                parts[name] = replace(part, text=text)
        self.site = replace(self.site, parts=parts)

    def change_page(self, key: str, change: Callable[[Page], Page]) -> None:
        """Put another page in the place of one."""
        tree = Tree(self.site)
        tree.change(key, change)
        self._take(*tree.done())
        self.chosen = key

    def _take(self, site: Site, keys: dict[str, str]) -> None:
        self.keys = keys
        files = site.files.moved(self.keys)
        self.site = replace(site, files=files, pages=with_heads(site.pages, files.heads))

    # Rows of tables

    def set_cell(self, key: str, word: str, value: str) -> bool:
        """Write a word of a page into the cell of the table whose row the page is; False if it is none. Raises
        ``EditRejected`` for what the cell cannot say."""
        if key not in self.site.rows:
            return False
        problem = not_here(self.site, key, word) or self.rows.set_word(self.site, key, word, " ".join(value.split()))
        if problem:
            raise EditRejected(f"{problem}. Nothing was changed.")
        self.chosen = key
        return True

    def take_rows(self) -> None:
        """Take over the pages that the tables make which were changed, and update references to those whose key is
        another now. The pages of rows are those that the tables say, read again; all others stay."""
        if not self.rows.has_changes:
            return
        files = self.site.files.replaced(self.rows.changed_files())
        now = self._with_tables(files)
        before = self.site
        keys = {key: key for key, page in before.pages.items() if not page.options.from_table}
        keys |= {key: key for key in before.pages.keys() - before.rows.keys() if key in now.pages}
        keys |= self.rows.keys(before.rows, now.rows)
        moved = files.moved(keys)
        if moved.heads != files.heads:
            now = self._with_tables(moved)  # a text goes with its page
        pages = {
            key: page if page.options.from_table else before.pages[key]._replace(children=page.children)
            for key, page in now.pages.items()
        }
        if self.chosen is not None:
            self.chosen = keys.get(self.chosen)
        self._take_pages(with_pages(replace(before, files=files), pages, keys), keys)
        self.site = replace(self.site, texts=now.texts)

    def _with_tables(self, files: Files) -> Site:
        """The site as it is with other tables, in which references may lead nowhere. Raises ``EditRejected`` where
        there is none."""
        compiled = compile_map(self.patcher.text, files)
        if compiled.plan is None:
            raise EditRejected("The table cannot be read any more with this. Nothing was changed.")
        return compiled.plan.site

    # Old addresses

    def drop_own_addresses(self) -> None:
        """Take out old and further addresses that their pages have as their own now."""
        if not any(page.was or page.also for page in self.site.pages.values()):
            return
        routes = make_routes(self.site)
        own = self._own_addresses(self.site, routes)
        for key, word, number in reversed(own):
            self.removes(("pages", key, word))
            self.text.drop_address(key, word, number)
            page = self.site.pages[key]
            known = getattr(page, word)
            page = page._replace(**{word: known[:number] + known[number + 1 :]})
            self.site = replace(self.site, pages={**self.site.pages, key: page})

    @staticmethod
    def _own_addresses(site: Site, routes: Mapping[str, Route]) -> list[tuple[str, str, int]]:
        """The old and further addresses at which their pages stand: key of the page, word, and number among those."""
        return [
            (key, word, number)
            for key, page in site.pages.items()
            for word in ("was", "also")
            for number, given in enumerate(getattr(page, word) if key in routes else ())
            if parsed(given.path, site.base)[:2] == (routes[key].path, "")
        ]

    def drop_own_addresses_in_other_languages(self, after: Plan) -> bool:
        """The same in other languages than the first, of which ``after`` is the plan; whether there were any."""
        own = [
            (plan.site.language, *found)
            for plan in other_languages(after)
            for found in self._own_addresses(plan.site, plan.routes)
        ]
        for language, key, word, number in reversed(own):
            self.removes(("pages", key, language, word))
            self.text.drop_address(key, word, number, language)
        return bool(own)

    # Menus

    def change_menu(self, menu: str, path: Path, change: Callable[[tuple[Entry, ...]], tuple[Entry, ...]]) -> None:
        """Change the entries that are written at a place of a menu."""
        written = {name: known.written for name, known in self.site.menus.items()}
        written[menu] = changed(written.get(menu, ()), path, change)
        self.site = with_menus(self.site, written)

    def entry_path(self, menu: str, number: int) -> Path:
        """Where an entry is written; where `auto` makes it, that is written out first. Raises ``FollowsPages`` if
        nobody agreed to that."""
        path = self.path_of(menu, number)
        if self.is_auto(menu, path):
            self._write_out(menu, path)
            path = self.path_of(menu, number)
        return path

    def list_path(self, menu: str, parent: int | None) -> Path:
        """Where the entries below an entry, or at the top, are written, each by itself. Raises ``FollowsPages`` if
        some are made by `auto` and nobody agreed to write them out."""
        path = self.entry_path(menu, parent) if parent is not None else ()
        if menu in self.site.menus:
            for index in reversed(range(len(inside(self.site.menus[menu].written, path)))):
                if self.is_auto(menu, (*path, index)):
                    self._write_out(menu, (*path, index))
        return path

    def place_beside(self, menu: str, parent: int | None, index: int) -> tuple[Path, int]:
        """Where a new entry is written below an entry, or at the top, in place ``index`` of the entries there: the list
        and the place in it. An `auto` before or behind it stays; one that it would be in the midst of is written out,
        and ``FollowsPages`` raised if nobody agreed to that."""
        path = self.entry_path(menu, parent) if parent is not None else ()
        if menu not in self.site.menus:
            return path, 0
        made = Expansion(self.site.menus[menu].written, self.site.pages).made
        before = 0
        entries = inside(self.site.menus[menu].written, path)
        for place in range(len(entries)):
            count = len(made[*path, place]) if self.is_auto(menu, (*path, place)) else 1
            if index <= before:
                break
            if index < before + count:
                path = self.list_path(menu, parent)
                return path, within(index, inside(self.site.menus[menu].written, path))
            before += count
        else:
            place = len(entries)
        if entries and all(entry.kind is EntryKind.AUTO for entry in entries):
            self.text.list_auto(menu, path)
        return path, place

    def path_of(self, menu: str, number: int) -> Path:
        """Where an entry of a menu is written, or the `auto` that makes it."""
        return paths(self.site.menus[menu], self.site)[number]

    def is_auto(self, menu: str, path: Path) -> bool:
        """Whether there is an `auto` at a place of a menu."""
        return at(self.site.menus[menu].written, path).kind is EntryKind.AUTO

    def set_auto(self, menu: str, path: Path, exceptions: Sequence[str]) -> None:
        """Give the `auto` at a place of a menu other pages that it leaves out."""
        data = self.data()
        entries = entries_in(data, menu, path[:-1])
        words = auto_words(entries[path[-1]] if entries else AUTO_WORD)
        known = References(self.site.pages)
        names = [shortest(key, known) for key in exceptions]
        words["except"] = names[0] if len(names) == 1 else names
        if not names:
            del words["except"]
        entries[path[-1] :] = [{AUTO_WORD: words}, *entries[path[-1] + 1 :]]
        self.removes(("menus", menu, "entries", AUTO_WORD, "except"))
        self.text.set_auto(menu, path, words)
        self.take_data(data)

    def leave_in(self, menu: str, key: str) -> bool:
        """Let `auto` make the entry of a page again that is one of its exceptions; False if it is not."""
        for path, made in self._autos(menu):
            if made is not None and key in made.without:
                self.set_auto(menu, path, [each for each in made.without if each != key])
                return True
        return False

    def _autos(self, menu: str) -> list[tuple[Path, AutoOptions | None]]:
        """The places of a menu at which there is an `auto`, each with its words."""
        known = self.site.menus.get(menu)
        written = known.written if known is not None else ()
        return [(path, at(written, path).auto_options) for path in Expansion(written, self.site.pages).made]

    def _write_out(self, menu: str, path: Path) -> None:
        if not self.may_write_out:
            raise FollowsPages(menu)
        self.removes(("menus", menu, "entries", AUTO_WORD))
        known = References(self.site.pages)
        entries = written_out(self.site.menus[menu].written, path, self.site)
        if any(entry.kind is EntryKind.GROUP for entry in entries):
            raise EditRejected(
                f"The menu {menu} has its pages in groups by letter, which are made from the pages. For this it would "
                "have to be without `by: letter`. Nothing was changed."
            )
        self.text.write_out(menu, path, entries, lambda key: shortest(key, known))
        self.change_menu(menu, path[:-1], lambda e: (*e[: path[-1]], *entries, *e[path[-1] + 1 :]))

    def removes_entry(self, menu: str, path: Path) -> None:
        """Name an entry of a menu, and those under it, as removed."""
        entry = entries_in(self.data(), menu, path[:-1])[path[-1]]
        targets = targets_of(entry, References(self.site.pages))
        self.removes(*(("menus", menu, "entries", target) for target in targets))

    def removes_empty_groups(self, menu: str, path: Path) -> None:
        """Name the groups on the way to a list of entries that nothing is in any more; they are removed with what was
        the last in them."""
        written = self.site.menus[menu].written
        for depth in range(len(path), 0, -1):
            group = at(written, path[:depth])
            if group.kind is not EntryKind.GROUP or inside(written, path[:depth])[1 if depth < len(path) else 0 :]:
                return
            self.removes(("menus", menu, "entries", f"group:{group.label}"))
            self.notes.append(f"removed the group {group.label}, which is empty without it")

    def insert(self, menu: str, path: Path, index: int, snippet: Snippet, entry: Entry) -> None:
        """Put an entry in at a place of a menu."""
        self.text.insert_entry(menu, path, index, snippet)
        self.change_menu(menu, path, lambda entries: (*entries[:index], entry, *entries[index:]))

    def data(self) -> MapData:
        """The map as plain data, as it is now, with what it includes in its place."""
        data = data_of(self.patcher.root)
        take_in_included(data, lambda file: data_of(self.text.file(file).draft.root))
        return data

    def take_data(self, data: MapData) -> None:
        """Take over the site that data say. Raises ``EditRejected`` where they say none; other errors show when the
        text is read again."""
        compiled = compile_map(text_of(data), self.site.files)
        if compiled.plan is None:
            stopper = next((finding for finding in compiled.findings if finding.stops), None)
            raise EditRejected(f"{stopper.message if stopper else 'It cannot be read.'} So nothing was changed.")
        self.site = compiled.plan.site

    def add_where_it_belongs(self, menu: str, key: str) -> None:
        """Give a page an entry in a menu: below that of the page above it, behind that of the page before it. Nothing
        where it is there by itself, or where the page above is not in the menu."""
        self.add_run_where_it_belongs(menu, [key])

    def add_run_where_it_belongs(self, menu: str, keys: Sequence[str], place: int | None = None) -> None:
        """The same for new pages that stand side by side, with those under them; in a ``place`` among the entries
        there, where that is given."""
        shown = numbered(self.site.menus[menu].entries) if menu in self.site.menus else []
        numbers = {entry.page: number for number, entry in enumerate(shown) if entry.kind is EntryKind.PAGE}
        pages = self.site.pages
        parent = pages[keys[0]].parent
        if keys[0] in numbers or (parent is not None and parent not in numbers):
            return
        beside = numbers[parent] if parent is not None else None
        if self._follows_pages(menu, beside):
            self.notes.append(f"it is not in the menu {menu}, whose `auto` has fewer levels")
            return
        path = self.list_path(menu, beside)
        among = pages[parent].children if parent is not None else self.site.top
        before = set(among[: among.index(keys[0])])
        there = inside(self.site.menus[menu].written, path) if menu in self.site.menus else ()
        behind = next((at + 1 for at in reversed(range(len(there))) if there[at].page in before), 0)
        index = behind if place is None else within(place, there)
        references = References(pages)

        def entry(key: str) -> Entry:
            return Entry(EntryKind.PAGE, "", page=key, items=tuple(map(entry, pages[key].children)))

        def flow(key: str) -> str:
            below = ", ".join(map(flow, pages[key].children))
            return shortest(key, references) + (f": [{below}]" if below else "")

        flows, entries = [flow(key) for key in keys], tuple(map(entry, keys))
        snippet = Snippet(tuple(f"- {one}" for one in flows), ", ".join(flows))
        self.text.insert_entry(menu, path, index, snippet)
        self.change_menu(menu, path, lambda known: (*known[:index], *entries, *known[index:]))

    def _follows_pages(self, menu: str, parent: int | None) -> bool:
        """Whether `auto` makes an entry, or an entry below it (None: at the top)."""
        if menu not in self.site.menus:
            return False
        path = self.path_of(menu, parent) if parent is not None else ()
        if path and self.is_auto(menu, path):
            return True
        there = inside(self.site.menus[menu].written, path)
        return any(entry.kind is EntryKind.AUTO for entry in there)

    def take_part(self, part: Part) -> None:
        """Take over a part, new or changed."""
        self.site = replace(self.site, parts={**self.site.parts, part.name: part})


def label_of(site: Site, key: str) -> str:
    """What a page is called."""
    return site.pages[key].label


def below(site: Site, parent: str | None) -> str:
    """Where a page is that stands below another, or at the top, in words."""
    return f"under {label_of(site, parent)}" if parent is not None else "at the top"


def entry_label(site: Site, menu: str, number: int) -> str:
    """What an entry of a menu is called, by its number."""
    return numbered(site.menus[menu].entries)[number].label
