"""The entries of a menu: pages, groups, anchors, outside links, separators, and `auto`."""

from __future__ import annotations

import re
from collections.abc import Mapping as Map
from dataclasses import replace
from functools import cached_property
from typing import TypeGuard

import ada_url

from basilica.core.language.sections.menu_words import AUTO, ENTRY, ENTRY_WORDS, NOT_OF_KIND, SEPARATOR, EntryDisplay
from basilica.core.map.document import Mapping, Node, Scalar, Sequence
from basilica.core.map.document.scalar_writer import write_scalar
from basilica.core.map.map_files import linkable, linked_file
from basilica.core.map.site import site_rules
from basilica.core.map.site.auto_entries import auto, drafts_of
from basilica.core.map.site.field_reader import (
    Context,
    Keys,
    keys_of,
    kind_of,
    label_of,
    prose_of,
    text_of,
    texts_of,
    web_address,
)
from basilica.core.map.site.model import Entry, EntryKind, Page
from basilica.core.map.site.references import References, query_of, split_reference
from basilica.core.map.site.word_reader import WordReader
from basilica.core.rules import limits
from basilica.core.rules.finding import Fix
from basilica.core.shared.facts import telephone
from basilica.core.shared.icons import shapes
from basilica.core.shared.icons.own_icon import own_icon

SCHEMES = ("https:", "http:", "mailto:", "tel:")
AUTO_LEVELS = 2
_KINDS = ("page", "group", "file", "url")
_DRESS = ("icon", "note", "show", "above", "below", "class")
_AUTO_PLAIN = WordReader(word for word in AUTO if word.name != "levels")
_DISPLAY = WordReader(word for word in ENTRY if word.name in _DRESS)
_MEANT = {synonym: word.name for word in ENTRY for synonym in word.synonyms}
_QUERY = WordReader(word for word in ENTRY if word.name == "query")

_WITH_BELOW = re.compile(r"(\S+) - \S")
"""An entry with a deeper one below it, which YAML joins into one text."""
_ADDRESS = re.compile(r"(https?://|mailto:|tel:)\S")


def read_entries(
    node: Node,
    below: str | None,
    levels: int,
    pages: Map[str, Page],
    references: References,
    context: Context,
) -> tuple[Entry, ...]:
    """The entries of a menu as they are written. ``below`` is the page whose children `auto` takes (None: the top of
    the tree), ``levels`` how deep it goes when it does not say."""
    return _Reader(pages, references, context).items(node, below, levels, 1)


class _Reader:
    """Reads the entries of menus as they are written."""

    def __init__(self, pages: Map[str, Page], references: References, context: Context) -> None:
        self.pages = pages
        self.references = references
        self.context = context
        self.drafts = drafts_of(pages)

    def items(self, node: Node, below: str | None, levels: int, depth: int) -> tuple[Entry, ...]:
        """The entries that ``node`` stands for. ``below`` is the page whose children `auto` takes (None: the
        top of the tree), ``levels`` how deep it goes when it does not say."""
        if isinstance(node, Sequence):
            if depth > limits.LEVELS:
                self.context.say(
                    site_rules.TOO_MANY_LEVELS,
                    node.start,
                    f"These entries are on level {depth}; a menu has at most {limits.LEVELS}.",
                )
                return ()
            entries: list[Entry] = []
            for item in node.items:
                if isinstance(item, Scalar) and item.value == "auto":
                    entries.append(auto(below, levels, item.start))
                elif isinstance(item, Scalar) and item.value == SEPARATOR:
                    entries.append(Entry(EntryKind.SEPARATOR, "", at=item.start))
                elif isinstance(item, Mapping) and [key.value for key, _ in item.pairs] == ["auto"]:
                    entries.extend(self.items(item, below, levels, depth))
                else:
                    entry = self.entry(item, depth)
                    if entry:
                        entries.append(entry)
            return tuple(entries)
        if isinstance(node, Scalar) and node.value == "auto":
            return (auto(below, levels, node.start),)
        if isinstance(node, Mapping) and [key.value for key, _ in node.pairs] == ["auto"]:
            return (self.auto(node.pairs[0][1], below, levels, node.start),)
        self.context.say(
            site_rules.WRONG_SHAPE,
            node.start,
            f"The entries here are {kind_of(node)} where a list is expected.",
            f"Write `[{node.value.strip()}]`."
            if self.is_list(node)
            else "Write `- page` for each entry, `auto` for the pages of the tree, or `[]` for none.",
            self.context.instead(node, f"[{node.value.strip()}]") if self.is_list(node) else None,
        )
        return ()

    def is_list(self, node: Node) -> TypeGuard[Scalar]:
        """Whether a text is pages with commas between them."""
        names = node.value.split(",") if isinstance(node, Scalar) and not node.quoted else []
        return len(names) > 1 and all(self.references.find(name.strip()) for name in names)

    def auto(self, node: Node, below: str | None, default: int, at: int) -> Entry:
        """`auto:` with a number of levels, or with keys."""
        if isinstance(node, Scalar) and node.is_nothing:
            return auto(below, default, at)
        if not isinstance(node, Mapping):
            return auto(below, self.levels(node, default), at)
        keys = keys_of(node, AUTO, "`auto`", self.context)
        options = _AUTO_PLAIN.read(keys, self.context, "`auto`")
        without: list[str] = []
        if "except" in keys:
            for written in texts_of(keys["except"][1], "`except` of `auto`", self.context):
                found = self.references.resolve(written, self.context)
                without += [found] if found is not None else []
        if "under" in keys and isinstance(keys["under"][1], Scalar):
            below = self.references.resolve(keys["under"][1], self.context)
        elif "under" in keys:
            self.context.say(
                site_rules.WRONG_SHAPE,
                keys["under"][1].start,
                "`under` of `auto` names no page.",
                "Write a page's key.",
            )
        levels = self.levels(keys["levels"][1], default) if "levels" in keys else default
        return auto(below, levels, at, without=tuple(without), **options)

    def levels(self, node: Node, default: int) -> int:
        if (
            isinstance(node, Scalar)
            and re.fullmatch(r"[0-9]{1,4}", node.value)
            and 1 <= int(node.value) <= limits.LEVELS
        ):
            return int(node.value)
        self.context.say(
            site_rules.BAD_VALUE,
            node.start,
            f"`auto` takes a number of levels from 1 to {limits.LEVELS}.",
            f"Write `auto: {default}`.",
        )
        return default

    def entry(self, node: Node, depth: int) -> Entry | None:
        if isinstance(node, Scalar):
            if not node.value.strip():
                self.context.say(
                    site_rules.EMPTY_TEXT, node.start, "This entry is empty.", "Write a page's key, or remove it."
                )
                return None
            above = _WITH_BELOW.match(node.value) if not node.quoted else None
            if above and self.references.find(above[1]):
                message = f"The entry `{above[1][:60]}` has entries below it, and no colon."
                self.context.say(site_rules.WRONG_SHAPE, node.start, message, f"Write `- {above[1][:60]}:`.")
                return None
            return self.link(node, None, None, depth)
        if isinstance(node, Sequence):
            self.context.say(
                site_rules.WRONG_SHAPE,
                node.start,
                "This entry is a list.",
                "Write `page: [entries]` or `- group: Name` with `items:` below it.",
            )
            return None
        names = [key.value for key, _ in node.pairs]
        if len(names) == 1 and not self.is_word(names[0]):
            return self.of_one_key(*node.pairs[0], depth)
        stray = [key for key, _ in node.pairs if key.value not in ENTRY_WORDS]
        if stray and not {_MEANT.get(name, name) for name in names} & set(_KINDS):
            self.context.say(
                site_rules.UNKNOWN_KEY,
                stray[0].start,
                f"The entry has the key `{stray[0].value[:60]}` beside others.",
                f"Write `page: {stray[0].value[:60]}`, with `label:` and `items:` below it.",
            )
            return None
        return self.long_entry(node, depth)

    def of_one_key(self, name: Scalar, value: Node, depth: int) -> Entry | None:
        """An entry that is a page with what is below it, `visit: [hours]`; nothing for a label with an address."""
        if not isinstance(value, Scalar) or not _ADDRESS.match(value.value):
            return self.link(name, None, value, depth)
        written = f"{{label: {write_scalar(name.value)}, url: {write_scalar(value.value)}}}"
        message = f"`{name.value[:60]}` leads to another site, so it needs `label:` and `url:`."
        fix = self.context.instead(name._replace(end=value.end), written)
        self.context.say(site_rules.WRONG_SHAPE, name.start, message, f"Write `{written[:120]}`.", fix)
        return None

    def is_word(self, name: str) -> bool:
        """Whether the one key of an entry is a word of entries, or is meant for one, and no page."""
        return name in ENTRY_WORDS or (name in _MEANT and not self.references.find(name))

    def long_entry(self, node: Mapping, depth: int) -> Entry | None:
        keys = keys_of(node, ENTRY, "The entry", self.context)
        kinds = [word for word in _KINDS if word in keys]
        if len(kinds) != 1:
            self.context.say(
                site_rules.MISSING_KEY if not kinds else site_rules.WRONG_SHAPE,
                node.start,
                "The entry is neither a page, nor a group, nor a file, nor an outside link."
                if not kinds
                else "The entry is several things at once: " + ", ".join(f"`{kind}`" for kind in kinds) + ".",
                "Write one of `page:`, `group:`, `file:` or `url:`.",
            )
            return None
        if "auto" in keys:
            self.context.say(
                site_rules.WRONG_SHAPE,
                keys["auto"][0].start,
                "`auto` is here beside other keys.",
                "Write `items: auto`.",
            )
        label = label_of(keys["label"][1], "The entry's label", self.context) if "label" in keys else None
        display = self.display(keys)
        items = keys["items"][1] if "items" in keys else None
        kind, value = kinds[0], keys[kinds[0]][1]
        if kind == "page":
            if not isinstance(value, Scalar) or not value.value.strip():
                self.context.say(site_rules.WRONG_SHAPE, value.start, "`page` names no page.", "Write a page's key.")
                return None
            return self.with_query(self.link(value, label, items, depth, display), keys)
        if "query" in keys and "query" in NOT_OF_KIND[kind]:
            message = "Only the address of a page takes `query`."
            self.context.say(site_rules.KEY_WITHOUT_USE, keys["query"][0].start, message, "Remove it.")
        if kind == "group":
            if "label" in keys:
                self.context.say(
                    site_rules.WRONG_SHAPE,
                    keys["label"][0].start,
                    "A group has its name after `group:`; it takes no label.",
                    "Remove `label:`.",
                )
            return self.group(value, items, node.start, depth, display)
        if items is not None:
            self.context.say(
                site_rules.WRONG_SHAPE,
                keys["items"][0].start,
                f"{'A file' if kind == 'file' else 'An outside link'} has entries under it.",
                "Make it a group, with the link as its first entry.",
            )
        if kind == "file":
            return self.file(value, label, node.start, display)
        return self.outside(value, label, node, display)

    def with_query(self, entry: Entry | None, keys: Keys) -> Entry | None:
        """An entry with the query that it has in a word of its own."""
        given = _QUERY.read(keys, self.context)
        if entry is None or not given:
            return entry
        if entry.query:
            message = f"`query` is here beside `?{entry.query[:60]}` behind the page."
            self.context.say(site_rules.KEY_WITHOUT_USE, keys["query"][0].start, message, "Write one of the two.")
        return replace(entry, **given)

    def display(self, keys: dict[str, tuple[Scalar, Node]]) -> EntryDisplay:
        """How an entry is shown."""
        if not any(word in keys for word in _DRESS):
            return EntryDisplay()
        icon, drawing = self.icon(keys["icon"][1]) if "icon" in keys else ("", "")
        values = _DISPLAY.read(keys, self.context)
        if values.get("show") == "icon" and "icon" not in keys:
            self.context.say(
                site_rules.MISSING_KEY,
                keys["show"][0].start,
                "The entry shows its icon, and has none.",
                "Add `icon:` to it.",
            )
        if values.get("show") == "icon" and not icon:
            del values["show"]
        return EntryDisplay(icon=icon, drawing=drawing, **values)

    def icon(self, node: Node) -> tuple[str, str]:
        """The name of an icon, or the file of one of the site's own and what is drawn of it; empty for none."""
        written = (text_of(node, "The icon", self.context) or "").strip()
        if not written.lower().endswith(".svg"):
            if written in shapes() or not written:
                return written, ""
            near = self.context.nearest(written, shapes())
            self.context.say(
                site_rules.UNKNOWN_ICON,
                node.start,
                f"There is no icon `{written[:60]}`.",
                f"Did you mean `{near}`?" if near else "Their names are listed in docs/icons.md.",
                self.context.instead(node, near) if isinstance(node, Scalar) else None,
            )
            return "", ""
        name = linked_file(written, self.context.files)
        try:
            if name is not None:
                return name, own_icon(self.context.files[name])
            near = self.context.nearest(
                written, [file for file in linkable(self.context.files) if file.endswith("svg")]
            )
            message = f"There is no file `{written[:60]}` in `files` or `public`."
            remedy = f"Did you mean `{near}`?" if near else "Put the SVG file there, or name an icon of docs/icons.md."
        except ValueError as problem:
            message = f"The file `{written[:60]}` cannot be an icon: {problem}."
            remedy = "Save it as a plain SVG of shapes, below 20 kB, or name an icon of docs/icons.md."
        self.context.say(site_rules.UNKNOWN_ICON, node.start, message, remedy)
        return "", ""

    def link(
        self, ref: Scalar, label: str | None, items: Node | None, depth: int, display: EntryDisplay | None = None
    ) -> Entry | None:
        """A page, a page with entries under it, or an anchor on a page."""
        display = display or EntryDisplay()
        fragment = split_reference(ref.value)[1]
        key = self.page_of(ref)
        if fragment is not None:
            return self.anchor(ref, key, fragment, label, items, display)
        below: tuple[Entry, ...] = ()
        if items is not None and not (isinstance(items, Scalar) and items.is_nothing):
            if key is None and not isinstance(items, Sequence):
                return None
            below = self.items(items, key, 1, depth + 1)
        if key is None:
            return None
        self.look_at(key, ref, below)
        query = query_of(ref.value)
        return Entry(EntryKind.PAGE, label or "", page=key, items=below, display=display, query=query, at=ref.start)

    @cached_property
    def by_title(self) -> dict[str, str]:
        """The first page of each title and label."""
        pages = reversed([*self.pages.values()])
        return {name: page.key for page in pages for name in (page.label, page.title)}

    def page_of(self, ref: Scalar) -> str | None:
        """The page that an entry names; None with a finding, which says what else it may mean."""
        named = split_reference(ref.value)[0]
        if self.references.find(named) or not self.context.complete:
            return self.references.resolve(ref, self.context)
        titled = self.by_title.get(ref.value.strip())
        if titled is not None:
            message, remedy = f"There is no page `{named[:80]}`.", f"The page with that title is `{titled}`."
            self.context.say(site_rules.UNKNOWN_PAGE, ref.start, message, remedy, self.context.instead(ref, titled))
            return None
        if outside_address(ref.value) is not None:
            message = f"`{ref.value[:80]}` is an address outside the site, and no page."
            self.context.say(site_rules.UNKNOWN_PAGE, ref.start, message, "Write it as `url:`, with a `label:`.")
            return None
        return self.references.resolve(ref, self.context)

    def look_at(self, key: str, ref: Scalar, below: tuple[Entry, ...]) -> None:
        """Say what does not fit between an entry and its page."""
        own = self.pages[key].options
        if "menus" in own.hidden:
            self.context.say(
                site_rules.HIDDEN_ENTRY,
                ref.start,
                f"The page `{key}` is kept out of menus, and this entry leads to it.",
                "Remove the entry, or remove `menus` from the page's `hidden:`.",
            )
        elif key in self.drafts:
            self.context.say(
                site_rules.DRAFT_ENTRY,
                ref.start,
                f"The page `{key}` is a draft, so this entry is left out"
                + (", and what is under it." if below else "."),
                "It appears as soon as the page is not a draft.",
            )
        elif own.kind == "section" and not below:
            self.context.say(
                site_rules.EMPTY_GROUP,
                ref.start,
                f"The section `{key}` has no page of its own, and no entries here.",
                f"Write `{ref.value[:60]}: auto` for the pages under it.",
            )

    def anchor(
        self, ref: Scalar, key: str | None, fragment: str, label: str | None, items: Node | None, display: EntryDisplay
    ) -> Entry | None:
        if items is not None:
            self.context.say(
                site_rules.WRONG_SHAPE,
                items.start,
                "An anchor has entries under it.",
                "Put the entries under the page, or under a group.",
            )
        if not fragment:
            self.context.say(
                site_rules.EMPTY_TEXT,
                ref.start,
                "There is no anchor after `#`.",
                "Write the id of a heading, or remove `#`.",
            )
            return None
        if key is None:
            return None
        if self.pages[key].options.kind == "section":
            message = f"The section `{key}` has no page of its own, so there is no anchor on it."
            self.context.say(site_rules.EMPTY_GROUP, ref.start, message, "Name a page under it.")
            return None
        query = query_of(ref.value)
        return Entry(
            EntryKind.ANCHOR, label or "", page=key, fragment=fragment, display=display, query=query, at=ref.start
        )

    def group(self, name: Node, items: Node | None, at: int, depth: int, display: EntryDisplay) -> Entry | None:
        label = label_of(name, "The group's name", self.context)
        entries = self.items(items, None, 1, depth + 1) if items is not None else ()
        if items is None or (isinstance(items, Sequence) and not items.items):
            self.context.say(
                site_rules.EMPTY_GROUP,
                at,
                f"The group `{(label or '')[:60]}` has no entries.",
                "Add `items:` with pages below it, or remove the group.",
            )
        if label is None or not entries:
            return None
        return Entry(EntryKind.GROUP, label, items=entries, display=display, at=at)

    def file(self, value: Node, label: str | None, at: int, display: EntryDisplay) -> Entry | None:
        """A file of the site. Without a label it has its name, in words."""
        written = text_of(value, "`file` of the entry", self.context)
        if written is None or not isinstance(value, Scalar):
            return None
        name = linked_file(written.strip(), self.context.files)
        if name is None:
            near = self.context.nearest(written.strip(), linkable(self.context.files))
            self.context.say(
                site_rules.UNKNOWN_FILE,
                value.start,
                f"There is no file `{written[:80]}` in `public` or `files`.",
                f"Did you mean `{near}`?" if near else "Put it into the folder `public`, or remove this.",
                self.context.instead(value, near),
            )
            return None
        return Entry(EntryKind.FILE, label or _in_words(name), file=name, display=display, at=at)

    def label_for(self, url: str, entry: Mapping) -> Fix:
        """The remedy for an outside link without a label: its host, or what stands behind `mailto:` and the like."""
        label = ada_url.URL(url).hostname.removeprefix("www.") or url.partition(":")[2]
        place = self.context.lines.place(entry.pairs[0][0].start)
        end = ", " if entry.end >= 0 else "\n" + " " * (place.column - 1)
        return Fix(place, place, f"label: {write_scalar(label)}{end}")

    def outside(self, value: Node, label: str | None, entry: Mapping, display: EntryDisplay) -> Entry | None:
        address = prose_of(value, "The address", self.context)
        if address is None:
            return None
        if isinstance(value, Scalar) and address != value.value and address.startswith("tel:"):
            address = "tel:" + telephone(address[4:])  # a fact is written as people read it
        url = outside_address(address)
        if url is None:
            self.context.say(
                site_rules.BAD_SCHEME,
                value.start,
                f"`{address[:80]}` is not an outside address.",
            )
            return None
        if label is None:
            message = f"The outside link to `{address[:80]}` has no label."
            self.context.say(
                site_rules.MISSING_KEY, entry.start, message, "Add `label:` to it.", self.label_for(url, entry)
            )
            return None
        return Entry(EntryKind.OUTSIDE, label, url=url, display=display, at=entry.start)


def _in_words(file: str) -> str:
    """The name of a file as a label: ``public/milling-times.pdf`` → ``Milling times``."""
    name = file.rpartition("/")[2]
    words = " ".join(re.split(r"[-_\s]+", name.rpartition(".")[0] or name)).strip()
    return words[:1].upper() + words[1:] or name


def outside_address(text: str) -> str | None:
    """An outside address as browsers write it, or None where it is none that a menu may link to."""
    return web_address(text, SCHEMES)
