"""Changes of the text of a map: pages and entries are found in it, and moved as they are written."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Iterable, Iterator, Mapping
from contextlib import contextmanager
from functools import wraps
from typing import Any, Concatenate, ParamSpec, Self, TypeVar

from basilica.core.edits.map_data import data_of, source_of, written
from basilica.core.edits.source_patcher import NotHere, Snippet, SourcePatcher
from basilica.core.language.sections.menu_words import ENTRY_WORDS
from basilica.core.map.document import Mapping as Keys
from basilica.core.map.document import Node, Scalar, Sequence
from basilica.core.map.document.scalar_writer import write_scalar
from basilica.core.map.map_files import NO_FILES, Files
from basilica.core.map.site import Entry
from basilica.core.map.site.auto_entries import Path
from basilica.core.map.site.included_files import included_file
from basilica.core.map.site.menu_reader import is_settings

PageIn = tuple[str, str]
"""A page, by its key, in a language, by its tag; the tag is empty for the first language."""


_Editor = TypeVar("_Editor", bound="MapTextEditor")
_Key = TypeVar("_Key", str, str | None)
_Rest = ParamSpec("_Rest")
_Answer = TypeVar("_Answer")


def in_its_file(
    method: Callable[Concatenate[_Editor, _Key, _Rest], _Answer],
) -> Callable[Concatenate[_Editor, _Key, _Rest], _Answer]:
    """Do what a method does to a page in the file in which that page is written."""

    @wraps(method)
    def there(self: _Editor, key: _Key, /, *rest: _Rest.args, **named: _Rest.kwargs) -> _Answer:
        if key is None:
            return method(self, key, *rest, **named)
        editor, own = self.of_page(key)
        return method(editor, own, *rest, **named)

    return there


class MapTextEditor:
    """Moves pages and entries in the draft of a map, and pages in those of the ``files`` that it includes. Raises
    ``NotHere`` for what is written in an unforeseen way."""

    def __init__(self, draft: SourcePatcher, files: Files = NO_FILES) -> None:
        self.draft = draft
        self._files = files
        self.included: dict[str, Self] = {}
        """The editors of the included files that were looked into, by name."""

    # Files

    def file(self, name: str) -> Self:
        """The editor of an included file."""
        if name not in self.included:
            editor = self.included[name] = type(self)(SourcePatcher(source_of(self._files, name)), self._files)
            editor.included = self.included
        return self.included[name]

    def of_page(self, key: str) -> tuple[Self, str]:
        """The editor of the file in which a page is written, and the key of the page there."""
        editor, own = self, ""
        *above, last = key.split("/")
        for page_id in above:
            own = f"{own}/{page_id}" if own else page_id
            holder, index = editor._place(own)
            file = _included_by(holder.pairs[index][1])
            if file is not None:
                editor, own = self.file(file), ""
        own = f"{own}/{last}" if own else last
        editor._place(own)
        return editor, own

    def changed_files(self) -> dict[str, bytes]:
        """The included files that are another now, by name."""
        now = {name: editor.draft.text.encode() for name, editor in self.included.items()}
        return {name: data for name, data in now.items() if data != self._files[name]}

    # Pages

    def _place(self, key: str) -> tuple[Keys, int]:
        """Return the keys among which a page is written, and its index there."""
        holder = self._pages_of(None)[1]
        found: tuple[Keys, int] | None = None
        for page_id in key.split("/"):
            if found:
                holder = self._pages_of_value(found[0].pairs[found[1]][1])[1]
            found = _keys(holder), key_index(_keys(holder), page_id)
        if found is None:
            raise NotHere
        return found

    def _pages_of(self, key: str | None) -> tuple[Scalar, Node]:
        if key is None:
            return self._pages_of_value(self.draft.root)
        holder, index = self._place(key)
        return self._pages_of_value(holder.pairs[index][1])

    @staticmethod
    def _pages_of_value(value: Node) -> tuple[Scalar, Node]:
        keys = _keys(value)
        return keys.pairs[key_index(keys, "pages")]

    @in_its_file
    def insert_page(self, parent: str | None, index: int, chunk: Snippet) -> None:
        """Put a page below another, or at the top (None)."""
        if parent is not None:
            holder, place = self._place(parent)
            file = _included_by(holder.pairs[place][1])
            if file is not None:
                self.file(file).insert_page(None, index, chunk)
                return
        if parent is not None and not self._has_pages(parent):
            self._add_to_page(parent, chunk.below("pages:", "pages: {", self.draft.step, "}"), last=True)
            return
        key, value = self._pages_of(parent)
        if isinstance(value, Scalar):
            self.draft.add_below(key, chunk, "{}")
        else:
            self.draft.insert(_keys(value), index, chunk)

    def _has_pages(self, key: str) -> bool:
        holder, index = self._place(key)
        value = holder.pairs[index][1]
        return isinstance(value, Keys) and any(name.value == "pages" for name, _ in value.pairs)

    def _add_to_page(self, key: str, chunk: Snippet, last: bool) -> None:
        """Give a page one key more: behind its others, or behind its own and before the pages under it."""
        holder, index = self._place(key)
        name, value = holder.pairs[index]
        if isinstance(value, Keys):
            place = len(value.pairs)
            if not last and self._has_pages(key):
                place = key_index(value, "pages")
            self.draft.insert(value, place, chunk)
        elif not isinstance(value, Scalar):
            raise NotHere
        elif value.is_nothing:
            self.draft.add_below(name, chunk, "{}")
        else:
            title = f"title: {self.draft.flow_of(value)}"
            if self.draft.in_flow(name):
                self.draft.set_value(name, f"{{{title}, {chunk.flow}}}", value)
                self.draft.comment_above(name.start, chunk)
                return
            self.draft.drop_value(name, value)
            holder, index = self._place(key)
            both = Snippet((title, *chunk.lines), f"{title}, {chunk.flow}", chunk.comments)
            self.draft.add_below(holder.pairs[index][0], both, "{}")

    @in_its_file
    def cut_page(self, key: str) -> Snippet:
        """Take a page out, with those under it."""
        holder, index = self._place(key)
        chunk = self.draft.cut(holder, index)
        parent = key.rpartition("/")[0]
        if parent and len(holder.pairs) == 1 and holder.end < 0:
            above, place = self._place(parent)
            keys = _keys(above.pairs[place][1])
            pages = key_index(keys, "pages")
            if self.draft.copy(keys, pages).lines == ("pages:",):
                self.draft.cut(keys, pages)
        return chunk

    @in_its_file
    def name_page(self, key: str, word: str, name: str) -> None:
        """Write a page's title or label."""
        holder, index = self._place(key)
        page_id, value = holder.pairs[index]
        written = write_scalar(name)
        if isinstance(value, Keys):
            for known, text in value.pairs:
                if known.value == word and isinstance(text, Scalar):
                    self.draft.replace(text, written)
                    return
            self.draft.insert(value, 0, Snippet.of(f"{word}: {written}"))
        elif isinstance(value, Scalar) and not value.is_nothing:
            self.draft.replace(value, written)
        else:
            self.draft.set_value(page_id, written)

    @in_its_file
    def set_id(self, key: str, page_id: str) -> None:
        """Write another id."""
        holder, index = self._place(key)
        self.draft.replace(holder.pairs[index][0], page_id)

    def has_page(self, key: str) -> bool:
        """Whether the text has a page, or a file that it includes, and not a table."""
        try:
            self.of_page(key)
        except NotHere:
            return False
        return True

    def add_old_addresses(self, paths: Mapping[PageIn, list[str]]) -> None:
        """Remember old addresses of pages, each in a language, beside those they have."""
        of_files: dict[int, tuple[MapTextEditor, dict[PageIn, list[str]]]] = {}
        for (key, language), old in paths.items():
            editor, own = self.of_page(key)
            of_files.setdefault(id(editor), (editor, {}))[1][own, language] = old
        for editor, own_paths in of_files.values():
            editor._add_old_here(own_paths)

    def _add_old_here(self, paths: Mapping[PageIn, list[str]]) -> None:
        # A page on one line is written with keys by the first of its addresses, and is read anew for the others.
        alone = {key for key, _ in paths if not isinstance(self._words_of(key), Keys)}
        later = [(key, language) for key, language in paths if key in alone and language]
        with self.draft.one_reading():
            for one in sorted(paths.keys() - set(later), key=self._place_of_was, reverse=True):
                self._add_old(*one, [write_scalar(path) for path in paths[one]])
        for one in later:
            self._add_old(*one, [write_scalar(path) for path in paths[one]])

    def _words_of(self, key: str, language: str = "") -> Node | None:
        """What the map says of a page, or below the tag of a language of it; None if it says nothing there."""
        holder, index = self._place(key)
        value = holder.pairs[index][1]
        if not language:
            return value
        return (
            next((node for name, node in value.pairs if name.value == language), None)
            if isinstance(value, Keys)
            else None
        )

    def _place_of_was(self, page: PageIn) -> tuple[int, bool]:
        """Where the old addresses of a page in a language are written, or would be. At one place, what is further out
        comes later."""
        key, language = page
        holder, index = self._place(key)
        words = self._words_of(*page)
        if not isinstance(words, Keys):
            tag = self._words_of(key) if language and words is None else None
            return (tag.pairs[-1][1].start if isinstance(tag, Keys) else (words or holder.pairs[index][0]).start), True
        own = {word.value: node for word, node in words.pairs}
        if "was" in own:
            return own["was"].start, not language
        before = [pair for pair in words.pairs if pair[0].value != "pages"]
        return (self.draft.end_of(before[-1]) if before else words.start), not language

    def _add_old(self, key: str, language: str, written: list[str]) -> None:
        words = self._words_of(key, language)
        known = _value_of(words, "was")
        flow = ", ".join(written)
        was = Snippet.of(f"was: {flow}" if len(written) == 1 else f"was: [{flow}]")
        if isinstance(known, Scalar):
            self.draft.replace(known, f"[{self.draft.flow_of(known)}, {flow}]")
        elif isinstance(known, Sequence):
            self.draft.insert(known, len(known.items), Snippet(tuple(f"- {each}" for each in written), flow))
        elif not language:
            self._add_to_page(key, was, last=False)
        elif isinstance(words, Keys):
            self.draft.insert(words, len(words.pairs), was)
        elif isinstance(words, Scalar) and not words.is_nothing:
            self.draft.replace(words, f"{{title: {self.draft.flow_of(words)}, {was.flow}}}")
        else:
            self._add_to_page(key, was.below(f"{language}:", f"{language}: {{", self.draft.step, "}"), last=False)

    @in_its_file
    def drop_address(self, key: str, word: str, number: int, language: str = "") -> None:
        """Remove one of the old (``word`` `was`) or further addresses (`also`) of a page in a language."""
        known = _value_of(self._words_of(key, language), word)
        if isinstance(known, Sequence) and len(known.items) > 1:
            self.draft.cut(known, number)
            return
        keys = _keys(self._words_of(key, language))
        self.draft.cut(keys, key_index(keys, word))
        if not language:
            self._shorten(key)
            return
        words = self._words_of(key, language)
        if isinstance(words, Keys) and words.end >= 0 and [word.value for word, _ in words.pairs] == ["title"]:
            holder = _keys(self._words_of(key))
            tag = holder.pairs[key_index(holder, language)][0]
            self.draft.set_value(tag, self.draft.flow_of(words.pairs[0][1]), words)

    def _shorten(self, key: str) -> None:
        """Write a page that has a title alone on one line, as it was before it got an old address."""
        holder, index = self._place(key)
        name, value = holder.pairs[index]
        if not isinstance(value, Keys) or value.end >= 0 or [word.value for word, _ in value.pairs] != ["title"]:
            return
        title, lines = value.pairs[0][1], self.draft.copy(holder, index).lines
        if isinstance(title, Scalar) and len(lines) == 2 and "#" not in lines[1]:
            self.draft.drop_value(name, value)
            self.draft.set_value(self._place(key)[0].pairs[index][0], self.draft.flow_of(title))

    def add_redirects(self, pairs: list[tuple[str, str]]) -> None:
        """Write old addresses that belong to no page, each with where it leads."""
        if not pairs:
            return
        lines = tuple(f"{write_scalar(old)}: {to}" for old, to in pairs)
        root = self.draft.root
        known = next((value for name, value in root.pairs if name.value == "redirects"), None)
        if isinstance(known, Keys):
            self.draft.insert(known, len(known.pairs), Snippet(lines, ", ".join(lines)))
            return
        if known is not None:
            raise NotHere
        room = " " * self.draft.step
        block = ("redirects:", *(room + line for line in lines))
        self.draft.insert(root, len(root.pairs), Snippet(block, f"redirects: {{{', '.join(lines)}}}"))

    # Menus

    def _menu(self, name: str) -> tuple[Scalar, Node]:
        root = self.draft.root
        menus = _keys(root.pairs[key_index(root, "menus")][1])
        return menus.pairs[key_index(menus, name)]

    def settings_of(self, menu: str) -> Keys | None:
        """The keys of a menu that is written with settings beside its entries."""
        value = self._menu(menu)[1]
        return value if isinstance(value, Keys) and is_settings(value) else None

    def cut_menu(self, name: str) -> None:
        """Take a whole menu out."""
        root = self.draft.root
        menus = _keys(root.pairs[key_index(root, "menus")][1])
        self.draft.cut(menus, key_index(menus, name))

    def open_menu(self, name: str) -> None:
        """Write a menu that is its entries alone with keys, so that settings can be written beside them."""
        root = self.draft.root
        found = next((value for key, value in root.pairs if key.value == "menus"), None)
        if not isinstance(found, Keys) or all(key.value != name for key, _ in found.pairs):
            return
        index = key_index(found, name)
        key, value = found.pairs[index]
        if is_settings(value) or (isinstance(value, Scalar) and value.is_nothing):
            return
        flow = f"{{entries: {self.draft.flow_of(value)}}}"
        if self.draft.in_flow(key):
            self.draft.set_value(key, flow, value)
            return
        first, *lines = self.draft.own_lines(found, index)
        head, _, rest = first.partition(":")
        room = " " * self.draft.step
        opened = (f"{head}:", f"{room}entries:{rest}", *(room + line if line else line for line in lines))
        self.draft.rewrite_entry(found, index, opened)

    def set_menu(self, name: str, word: str, flow: str | None) -> None:
        """Write a setting of a menu that has keys, before its entries; or take it out (None)."""
        settings = self.settings_of(name)
        if settings is None:
            raise NotHere
        known = next((at for at, (key, _) in enumerate(settings.pairs) if key.value == word), None)
        if known is not None and flow is None:
            self.draft.cut(settings, known)
        elif known is not None and flow is not None:
            self.draft.set_value(settings.pairs[known][0], flow, settings.pairs[known][1])
        elif flow is not None:
            place = next((at for at, (key, _) in enumerate(settings.pairs) if key.value == "entries"), None)
            self.draft.insert(settings, len(settings.pairs) if place is None else place, Snippet.of(f"{word}: {flow}"))

    def rename_menu(self, name: str, new: str) -> None:
        """Write another name for a menu, there and in the parts that list it."""
        self.draft.replace(self._menu(name)[0], new)
        parts = next((value for key, value in self.draft.root.pairs if key.value == "parts"), None)
        for number in range(len(parts.pairs) if isinstance(parts, Keys) else 0):
            part = _keys(self.draft.root.pairs[key_index(self.draft.root, "parts")][1]).pairs[number][1]
            words = part.pairs if isinstance(part, Keys) else ()
            said = next((value for key, value in words if key.value == "menu"), None)
            if isinstance(said, Scalar) and said.value == name:
                self.draft.replace(said, new)

    def entries_of(self, menu: str) -> Node:
        """What a menu says of its entries."""
        settings = self.settings_of(menu)
        if settings is None:
            return self._menu(menu)[1]
        return settings.pairs[key_index(settings, "entries")][1]

    def write_entry(self, menu: str, path: Path, entry: Mapping[str, Any]) -> None:
        """Write an entry with other words, the long way. What is below it stays as it is written."""
        holder, index = self._entry(menu, path)
        item = holder.items[index]
        below = entries_below(item)
        is_long = isinstance(item, Keys) and not (len(item.pairs) == 1 and below[0] is item.pairs[0][0])
        if is_long and isinstance(item, Keys):
            self._write_words(menu, path, entry)
            return
        words = {word: value for word, value in entry.items() if word != "items"}
        flow = ", ".join(f"{word}: {written(value)}" for word, value in words.items())
        if isinstance(item, Scalar):
            self.draft.replace(item, f"{{{flow}}}" if list(words) != ["page"] else written(words["page"]))
            return
        if below[0] is None or below[1] is None:
            raise NotHere
        if self.draft.in_flow(item) or holder.end >= 0:
            whole = f"{{{flow}, items: {self.draft.flow_of(below[1])}}}"
            self.draft.insert(holder, index, Snippet((f"- {whole}",), whole))
            holder, index = self._entry(menu, path)
            self.draft.cut(holder, index + 1)
            return
        first, *lines = self.draft.own_lines(holder, index)
        rest = first.partition(self.draft.text[below[0].start : below[0].end])[2].partition(":")[2]
        own = [
            f"{'- ' if not number else '  '}{word}: {written(value)}"
            for number, (word, value) in enumerate(words.items())
        ]
        self.draft.rewrite_entry(holder, index, (*own, f"  items:{rest}", *lines))

    def _write_words(self, menu: str, path: Path, entry: Mapping[str, Any]) -> None:
        """Write the words of an entry that has keys, each in its place; new ones before what is below it."""

        def keys() -> Keys:
            holder, index = self._entry(menu, path)
            return _keys(holder.items[index])

        first, old = keys().pairs[0]
        fresh = next((word for word in entry if all(key.value != word for key, _ in keys().pairs)), None)
        if (
            first.value not in entry
            and fresh is not None
            and fresh not in ("items", "auto")
            and isinstance(old, Scalar)
        ):
            self.draft.replace(old, written(entry[fresh]))  # another lead, in the place of the one that it had
            self.draft.replace(first, fresh)
        for word, value in entry.items():
            if word in ("items", "auto"):
                continue
            name, known = next(((key, text) for key, text in keys().pairs if key.value == word), (None, None))
            if isinstance(known, Scalar) and known.value != value:
                self.draft.replace(known, written(value))
            elif isinstance(known, Keys) and isinstance(value, dict):
                self._write_below(menu, path, word, value)
            elif name is not None and known is not None and data_of(known) != value:
                self.draft.set_value(name, written(value), known)
            if known is not None:
                continue
            place = next((at for at, (key, _) in enumerate(keys().pairs) if key.value in ("items", "auto")), None)
            snippet = Snippet.of(f"{word}: {written(value)}")
            if place == 0:
                raise NotHere  # the first key is behind the dash
            self.draft.insert(keys(), len(keys().pairs) if place is None else place, snippet)
        for gone in [key.value for key, _ in keys().pairs if key.value not in entry]:
            place = key_index(keys(), gone)
            if place == 0 and keys().end < 0:
                self.draft.cut_first(keys())
            else:
                self.draft.cut(keys(), place)

    def _write_below(self, menu: str, path: Path, word: str, values: Mapping[str, Any]) -> None:
        """Write the words below a key of an entry, such as those of a language, each in its place."""

        def keys() -> Keys:
            holder, index = self._entry(menu, path)
            entry = _keys(holder.items[index])
            return _keys(entry.pairs[key_index(entry, word)][1])

        for name, value in values.items():
            known = _value_of(keys(), name)
            if known is None:
                self.draft.insert(keys(), len(keys().pairs), Snippet.of(f"{name}: {written(value)}"))
            elif isinstance(known, Scalar) and known.value != value:
                self.draft.replace(known, written(value))
            elif data_of(known) != value:
                self.draft.set_value(keys().pairs[key_index(keys(), name)][0], written(value), known)
        for gone in [key.value for key, _ in keys().pairs if key.value not in values]:
            self.draft.cut(keys(), key_index(keys(), gone))

    @in_its_file
    def page_keys(self, key: str) -> Keys:
        """The keys of a page that has some."""
        holder, index = self._place(key)
        return _keys(holder.pairs[index][1])

    def list_of(self, menu: str, path: Path) -> tuple[Scalar | None, Node | None]:
        """What holds the entries below the entry at ``path``: its key, where it has one, and the list."""
        if not path:
            settings = self.settings_of(menu)
            if settings is None:
                return self._menu(menu)
            return next(((key, value) for key, value in settings.pairs if key.value == "entries"), (None, None))
        holder, index = self._entry(menu, path)
        return entries_below(holder.items[index])

    def _entry(self, menu: str, path: Path) -> tuple[Sequence, int]:
        holder = self.list_of(menu, path[:-1])[1]
        if not isinstance(holder, Sequence):
            raise NotHere
        return holder, path[-1]

    def cut_entry(self, menu: str, path: Path) -> Snippet:
        """Take an entry out, with those under it."""
        holder, index = self._entry(menu, path)
        chunk = self.draft.cut(holder, index)
        if len(holder.items) == 1 and holder.end < 0:
            key, _ = self.list_of(menu, path[:-1])
            if key is not None:
                self.draft.set_value(key, "[]")
        return chunk

    def insert_entry(self, menu: str, path: Path, index: int, chunk: Snippet) -> None:
        """Put an entry below the entry at ``path``, or at the top of the menu."""
        if not path and not self.has_menu(menu):
            self._write_menu(menu, [chunk])
            return
        key, holder = self.list_of(menu, path)
        flow = f"[{chunk.flow}]"
        if isinstance(holder, Sequence) and (holder.items or holder.end >= 0):
            self.draft.insert(holder, index, chunk)
        elif key is not None:
            self.draft.set_value(key, flow)
            self.draft.comment_above(key.start, chunk)
        else:
            above, place = self._entry(menu, path)
            item = above.items[place]
            if isinstance(item, Scalar):
                self.draft.replace(item, f"{self.draft.raw(item)}: {flow}")
            else:
                self.draft.insert(_keys(item), len(_keys(item).pairs), Snippet.of(f"items: {flow}"))
            self.draft.comment_above(item.start, chunk)

    def wrap_entry(self, menu: str, path: Path, label: str) -> None:
        """Put an entry into a new group that takes its place."""
        holder, index = self._entry(menu, path)
        chunk = self.draft.copy(holder, index)
        head = f"group: {write_scalar(label)}"
        wrapped = Snippet(
            (f"- {head}", "  items:", *(f"    {line}" if line else line for line in chunk.lines)),
            f"{{{head}, items: [{chunk.flow}]}}",
            chunk.comments,
        )
        self.draft.insert(holder, index, wrapped)
        holder, index = self._entry(menu, path)
        self.draft.cut(holder, index + 1)

    def write_out(self, menu: str, path: Path, entries: Iterable[Entry], refer: Callable[[str], str]) -> None:
        """Write the entries that `auto` at ``path`` stands for in its place; its comments stay above them."""
        with self.comments_kept(menu, path):
            self._write_out(menu, path, entries, refer)

    @contextmanager
    def comments_kept(self, menu: str, path: Path) -> Iterator[None]:
        """Write comments that go with the way in which something was written above the entry at ``path`` of a menu, or
        above the menu if there is no such entry."""
        before = Counter(self.draft.comments)
        yield
        lost = tuple((before - Counter(self.draft.comments)).elements())
        if lost:
            key, holder = self.list_of(menu, path[:-1])
            items = holder.items if isinstance(holder, Sequence) else ()
            at = items[path[-1]].start if path[-1] < len(items) else _scalar(key).start
            self.draft.comment_above(at, Snippet((), "", lost))

    def _write_out(self, menu: str, path: Path, entries: Iterable[Entry], refer: Callable[[str], str]) -> None:
        chunks = [_entry_chunk(entry, refer, self.draft.step) for entry in entries]
        if not self.has_menu(menu):
            self._write_menu(menu, chunks)
            return
        settings = self.settings_of(menu)
        if settings is not None and len(path) == 1 and self.list_of(menu, ())[0] is None:
            all_of = _joined(chunks).below("entries:", "entries: [", self.draft.step, "]")
            without_item = Snippet.of("entries: []")
            self.draft.insert(settings, len(settings.pairs), all_of if chunks else without_item)
            return
        key, holder = self.list_of(menu, path[:-1])
        if isinstance(holder, Sequence):
            for offset, chunk in enumerate(chunks):
                self.draft.insert(_list_of(self.list_of(menu, path[:-1])[1]), path[-1] + offset, chunk)
            self.cut_entry(menu, (*path[:-1], path[-1] + len(chunks)))
        elif key is not None and holder is not None:
            if len(path) > 1 or not chunks or self.draft.in_flow(key):
                self.draft.set_value(key, f"[{_joined(chunks).flow}]", holder)
                return
            self.draft.drop_value(key, holder)
            self.draft.add_below(_scalar(self.list_of(menu, ())[0]), _joined(chunks), "[]")

    def is_instead_of_a_list(self, menu: str, path: Path) -> bool:
        """Whether the entry at a place is an `auto` that is written in place of a list of entries."""
        return self.has_menu(menu) and not isinstance(self.list_of(menu, path[:-1])[1], Sequence)

    def list_auto(self, menu: str, path: Path) -> None:
        """Write the `auto` that the entries at ``path`` are as the one entry of a list, so that others can be beside
        it."""
        if not self.has_menu(menu):
            self._write_menu(menu, [Snippet.of("- auto")])
            return
        key, holder = self.list_of(menu, path)
        if isinstance(holder, Sequence):
            return
        settings = self.settings_of(menu)
        if key is None and settings is not None and not path:
            self.draft.insert(settings, len(settings.pairs), Snippet.of("entries: [auto]"))
            return
        key = _scalar(key)
        if isinstance(holder, Keys) and holder.end < 0:
            self.draft.list_block(holder)
            return
        flow = "auto" if holder is None or isinstance(holder, Scalar) else written(data_of(holder))[1:-1]
        if path or holder is None or self.draft.in_flow(key):
            self.draft.set_value(key, f"[{flow}]", holder)
            return
        self.draft.drop_value(key, holder)
        self.draft.add_below(_scalar(self.list_of(menu, path)[0]), Snippet((f"- {flow}",), flow), "[]")

    def set_auto(self, menu: str, path: Path, words: Mapping[str, Any]) -> None:
        """Write other words for the `auto` at a place of a menu; its comments stay above it."""
        with self.comments_kept(menu, path):
            self._set_auto(menu, path, words)

    def _set_auto(self, menu: str, path: Path, words: Mapping[str, Any]) -> None:
        flow = written(dict(words))
        key, holder = self.list_of(menu, path[:-1]) if self.has_menu(menu) else (None, None)
        item = holder.items[path[-1]] if isinstance(holder, Sequence) else holder
        if isinstance(item, Keys):
            self.draft.set_value(item.pairs[0][0], flow, item.pairs[0][1])
        elif isinstance(item, Scalar) and isinstance(holder, Sequence):
            self.draft.replace(item, f"auto: {flow}")
        elif key is not None:
            self.draft.set_value(key, f"{{auto: {flow}}}", item)
        elif self.has_menu(menu):
            self.set_menu(menu, "entries", f"{{auto: {flow}}}")
        else:
            self._add_menu(menu, Snippet.of(f"{menu}: {{auto: {flow}}}"))

    def has_menu(self, name: str) -> bool:
        """Whether the map gives a menu."""
        try:
            self._menu(name)
        except NotHere:
            return False
        return True

    def _write_menu(self, name: str, chunks: list[Snippet]) -> None:
        """Write a menu that the map does not give yet, with its entries."""
        self._add_menu(name, _joined(chunks).below(f"{name}:", f"{name}: [", self.draft.step, "]"))

    def _add_menu(self, name: str, menu: Snippet) -> None:
        """Add a menu to the map: `main` before the others, another after them."""
        step, root = self.draft.step, self.draft.root
        found = [(key, value) for key, value in root.pairs if key.value == "menus"]
        if not found:
            self.draft.insert(root, len(root.pairs), menu.below("menus:", "menus: {", step, "}"))
            return
        key, value = found[0]
        if isinstance(value, Keys):
            self.draft.insert(value, 0 if name == "main" else len(value.pairs), menu)
        else:
            self.draft.add_below(key, menu, "{}")

    def prune(self, menus: Iterable[str]) -> None:
        """Remove empty groups."""
        for menu in menus:
            while self.has_menu(menu):
                empty = self._empty_group(menu, (), self.list_of(menu, ())[1])
                if empty is None:
                    break
                self.cut_entry(menu, empty)

    def _empty_group(self, menu: str, path: Path, holder: Node | None) -> Path | None:
        if not isinstance(holder, Sequence):
            return None
        for index, item in enumerate(holder.items):
            below = entries_below(item)[1]
            deeper = self._empty_group(menu, (*path, index), below)
            if deeper:
                return deeper
            if isinstance(item, Keys) and any(key.value == "group" for key, _ in item.pairs) and _is_empty(below):
                return (*path, index)
        return None


def _entry_chunk(entry: Entry, refer: Callable[[str], str], step: int) -> Snippet:
    """An entry for a page, with those under it in brackets."""

    def flow(entry: Entry) -> str:
        name = refer(entry.page or "")
        return f"{name}: [{', '.join(flow(item) for item in entry.items)}]" if entry.items else name

    return Snippet((f"- {flow(entry)}",), flow(entry))


def _joined(chunks: list[Snippet]) -> Snippet:
    lines = tuple(line for chunk in chunks for line in chunk.lines)
    return Snippet(lines, ", ".join(chunk.flow for chunk in chunks))


def _value_of(node: Node | None, name: str) -> Node | None:
    """The value of a key; None if there is no such key."""
    return next((value for key, value in node.pairs if key.value == name), None) if isinstance(node, Keys) else None


def _keys(node: Node | None) -> Keys:
    if not isinstance(node, Keys):
        raise NotHere
    return node


def _scalar(node: Scalar | None) -> Scalar:
    if node is None:
        raise NotHere
    return node


def _list_of(node: Node | None) -> Sequence:
    if not isinstance(node, Sequence):
        raise NotHere
    return node


def _included_by(page: Node) -> str | None:
    """The file in which the pages under a page are written; None where that is the file of the page itself."""
    said = _value_of(page, "include")
    if not isinstance(said, Scalar) or said.is_nothing or _value_of(page, "pages") is not None:
        return None
    return included_file(said.value)


def key_index(keys: Keys, name: str) -> int:
    """Return the index of a key among others. Raises ``NotHere``."""
    for index, (key, _) in enumerate(keys.pairs):
        if key.value == name:
            return index
    raise NotHere


def entries_below(item: Node) -> tuple[Scalar | None, Node | None]:
    """The key and the list of the entries below an entry; None where there is neither."""
    if not isinstance(item, Keys):
        return None, None
    if len(item.pairs) == 1 and item.pairs[0][0].value not in ENTRY_WORDS:
        return item.pairs[0]
    return next(((key, value) for key, value in item.pairs if key.value == "items"), (None, None))


def _is_empty(node: Node | None) -> bool:
    return (
        node is None or (isinstance(node, Sequence) and not node.items) or (isinstance(node, Scalar) and not node.value)
    )


def reference_of(item: Node) -> Scalar:
    """Where an entry names its page."""
    if isinstance(item, Scalar):
        return item
    if isinstance(item, Keys):
        for key, value in item.pairs:
            if key.value == "page" and isinstance(value, Scalar):
                return value
        if len(item.pairs) == 1:
            return item.pairs[0][0]
    raise NotHere
