"""Changes of the site itself, without a text: what the text must say afterwards."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sized
from dataclasses import dataclass, field, replace
from functools import reduce
from typing import Any

from basilica.core.language.codecs import CODE, FILE, ListOf, Structure, Unfit
from basilica.core.language.sections.checks_words import Checks, LevelSetting
from basilica.core.language.sections.header_words import BELOW, HEADER, MOBILE, PAGE_HEADER
from basilica.core.language.sections.page_words import PAGE
from basilica.core.language.word import Word
from basilica.core.map.content_heads import Head
from basilica.core.map.site import Entry, EntryKind, Menu, Page, Site
from basilica.core.map.site.auto_entries import Expansion, Path, expand
from basilica.core.map.site.header_reader import value_from
from basilica.core.map.site.model import GivenAddress, Header, PageOptions, homes_of
from basilica.core.map.site.page_reader import title_from


@dataclass
class Branch:
    """A page and those under it, while they are moved about."""

    page: Page
    pages: list[Branch] = field(default_factory=list)


class Tree:
    """The pages of a site, ready to be changed."""

    def __init__(self, site: Site) -> None:
        self.site = site
        self.top: list[Branch] = []
        self._by_key: dict[str, Branch] = {}
        for key, page in site.pages.items():
            branch = self._by_key[key] = Branch(page)
            (self._by_key[page.parent].pages if page.parent is not None else self.top).append(branch)

    def below(self, parent: str | None) -> list[Branch]:
        """The pages under a page, or at the top."""
        return self.top if parent is None else self._by_key[parent].pages

    def place_below(self, parent: str | None, index: int) -> int:
        """A place among the pages under a page that are written there: those of a table come after them."""
        return within(index, [branch for branch in self.below(parent) if not branch.page.options.from_table])

    def take(self, key: str) -> Branch:
        """Take a page out of the tree, with those under it."""
        branch = self._by_key[key]
        self.below(branch.page.parent).remove(branch)
        return branch

    def change(self, key: str, change: Callable[[Page], Page]) -> None:
        """Put another page in the place of one."""
        branch = self._by_key[key]
        branch.page = change(branch.page)

    def done(self) -> tuple[Site, dict[str, str]]:
        """The site with this tree, and the new key of every page that had one. Entries of pages that are gone go."""
        pages: dict[str, Page] = {}
        keys: dict[str, str] = {}

        def walk(branches: Iterable[Branch], parent: str | None) -> tuple[str, ...]:
            found = []
            for branch in branches:
                key = f"{parent}/{branch.page.id}" if parent else branch.page.id
                found.append(key)
                pages[key] = branch.page
                keys[branch.page.key] = key
                children = walk(branch.pages, key)
                pages[key] = branch.page._replace(key=key, parent=parent, children=children)
            return tuple(found)

        walk(self.top, None)
        keys.pop("", None)  # a new page had no key
        return with_pages(self.site, pages, keys), keys


def with_pages(site: Site, pages: Mapping[str, Page], keys: Mapping[str, str]) -> Site:
    """The site with other pages; ``keys`` has the new key of each of its own that is there still. What names a page
    names it by that, and what names one that is gone goes."""
    pages = {
        key: page if page.set_options is None else page._replace(set_options=_options_after(page.set_options, keys))
        for key, page in pages.items()
    }
    home = keys.get(site.home) if site.home else None
    homes = homes_of(pages)
    if home not in [page.key for page in homes]:
        home = homes[0].key if homes else None
    name = site.name if site.named or home is None else pages[home].title
    redirects = tuple(
        replace(one, page=keys[one.page]) if one.page is not None else one
        for one in site.redirects
        if one.page is None or one.page in keys
    )
    texts = {keys[key]: text for key, text in site.texts.items() if key in keys}
    menus = {}
    for menu_name, menu in site.menus.items():
        section = menu.settings.section
        if section is None or section in keys:  # a menu goes with its section
            settings = replace(menu.settings, section=keys[section] if section is not None else None)
            menus[menu_name] = replace(menu, written=_retarget(menu.written, keys), settings=settings)
    site = replace(site, pages=pages, home=home, name=name, redirects=redirects, texts=texts, menus=menus)
    return with_menus(site, {menu_name: menu.written for menu_name, menu in menus.items()})


def _options_after(options: PageOptions, keys: Mapping[str, str]) -> PageOptions:
    """The options of a page in which the pages it names have their new keys; those that are gone are left out."""
    if options.highlight is None and options.trail_parent is None and not options.trail:
        return options
    return replace(
        options,
        highlight=keys.get(options.highlight or ""),
        trail_parent=keys.get(options.trail_parent or ""),
        trail=tuple(
            level if level.page is None else level._replace(page=keys[level.page])
            for level in options.trail
            if level.page is None or level.page in keys
        ),
    )


def with_menus(site: Site, written: Mapping[str, tuple[Entry, ...]]) -> Site:
    """The site with its menus as they are written here."""
    menus = {}
    for name, entries in written.items():
        kept = prune(entries)
        known = site.menus.get(name) or Menu(name, (), ())
        menus[name] = replace(known, written=kept, entries=expand(kept, site.pages))
    return replace(site, menus=menus)


def _retarget(entries: Iterable[Entry], keys: Mapping[str, str]) -> tuple[Entry, ...]:
    kept = []
    for entry in entries:
        if entry.page is not None and entry.page not in keys:
            continue
        page = keys[entry.page] if entry.page is not None else None
        takes = entry.auto_options
        if takes is not None:
            takes = replace(takes, without=tuple(keys[key] for key in takes.without if key in keys))
        kept.append(replace(entry, page=page, auto_options=takes, items=_retarget(entry.items, keys)))
    return tuple(kept)


def prune(entries: Iterable[Entry]) -> tuple[Entry, ...]:
    """Entries without the groups that nothing stands in."""
    kept = []
    for entry in entries:
        items = prune(entry.items)
        if entry.kind is not EntryKind.GROUP or items:
            kept.append(replace(entry, items=items))
    return tuple(kept)


# Entries as they are written


def paths(menu: Menu, site: Site) -> list[Path]:
    """For each entry of a menu, as one reads, where it is written. Entries made by `auto` share its place."""
    return Expansion(menu.written, site.pages).places


def at(written: tuple[Entry, ...], path: Path) -> Entry:
    """The entry at a path."""
    entry = written[path[0]]
    for index in path[1:]:
        entry = entry.items[index]
    return entry


def without_path(path: Path, cut: Path) -> Path:
    """Where a path leads once the entry at ``cut``, which is not on it, was removed."""
    depth = len(cut) - 1
    if path[:depth] == cut[:-1] and len(path) > depth and path[depth] > cut[-1]:
        return (*path[:depth], path[depth] - 1, *path[depth + 1 :])
    return path


def path_of_page(written: Iterable[Entry], key: str) -> Path | None:
    """Where the first entry for a page is written; None if it has none of its own."""
    for index, entry in enumerate(written):
        if entry.kind is EntryKind.PAGE and entry.page == key:
            return (index,)
        below = path_of_page(entry.items, key)
        if below is not None:
            return (index, *below)
    return None


def inside(written: tuple[Entry, ...], path: Path) -> tuple[Entry, ...]:
    """The entries below the entry at a path; those at the top for the empty path."""
    return at(written, path).items if path else written


def changed(
    written: tuple[Entry, ...], path: Path, change: Callable[[tuple[Entry, ...]], tuple[Entry, ...]]
) -> tuple[Entry, ...]:
    """The entries with those below the entry at ``path`` changed."""
    if not path:
        return change(written)
    first, *rest = path
    entry = written[first]
    return (*written[:first], replace(entry, items=changed(entry.items, tuple(rest), change)), *written[first + 1 :])


def written_out(written: tuple[Entry, ...], path: Path, site: Site) -> tuple[Entry, ...]:
    """What the `auto` at a path stands for, as it is written entry by entry."""

    def without_item(entries: Iterable[Entry]) -> tuple[Entry, ...]:
        return tuple(replace(one, label="", items=without_item(one.items)) for one in entries)

    return without_item(Expansion(written, site.pages).made[path])


# Pages


def new_page(page_id: str, title: str) -> Page:
    """A page that is not in a tree yet."""
    return Page("", page_id, title, title, None, None, None, (), 0, 0)


def with_id(page: Page, page_id: str) -> Page:
    """A page with another id. A title made from the id follows it."""
    title = page.title if page.own_title else title_from(page_id)
    label = page.label if page.own_label else title
    return page._replace(id=page_id, title=title, label=label)


def with_old_addresses(page: Page, old: Iterable[str]) -> Page:
    """A page that remembers more addresses which it had."""
    return page._replace(was=(*page.was, *(GivenAddress(each, 0) for each in old)))


def with_name(page: Page, name: str) -> Page:
    """A page by another name."""
    if page.own_label or "label" in page.from_text:
        return page._replace(label=name, own_label=True)
    return page._replace(title=name, label=name, own_title=True)


def _is_single(word: Word) -> bool:
    """Whether a word of a page has one value that is written by itself, or several of a few."""
    codec = word.codec
    return (not isinstance(codec, Structure | ListOf) and codec not in (CODE, FILE)) or word.item.values != ()


_BY_NAME = {word.name: word for word in PAGE if _is_single(word)}
WORDS = tuple(_BY_NAME)
"""The keys of a page that can be written by themselves."""
_DEFAULTS = {word.name: word.default for word in PAGE if word.values}
_NONE = new_page("", "")


def plain_value(site: Site, key: str, word: str, value: str) -> str:
    """A value as the map needs it for a page: empty where it is what holds without it."""
    value = " ".join(value.split())
    against = word == "draft" and site.files.heads.get(key, Head()).draft == "yes"
    return "" if value == _DEFAULTS.get(word) and not against else value


def with_word(page: Page, word: str, value: str) -> Page:
    """A page with another value for one of its keys; for `highlight` that is the key of a page. An empty one takes the
    key out."""
    if word == "title":
        title = value or title_from(page.id)
        label = page.label if page.own_label else title
        return page._replace(title=title, label=label, own_title=bool(value))
    if word == "label":
        return page._replace(label=value or page.title, own_label=bool(value))
    known = _BY_NAME[word]
    page = page._replace(from_text=page.from_text - {word})
    page = _with_field(page, known.field, _value(known, value))
    return _with_field(page, "options.says_draft", bool(value)) if word == "draft" else page


def _value(word: Word, text: str) -> Any:
    """The value that a text has for a word of a page; what holds without it for an empty one, and for one that is none,
    which is refused once the text of the map is read."""
    default = _field(_NONE, word.field)
    if not text or not word.codec.is_plain:
        return text or default
    try:
        values = [word.item.read(one, word.name, lambda _, __: None) for one in _pieces(word, text)]
    except Unfit:
        return default
    return frozenset(values) if isinstance(default, frozenset) else values[0]


def _pieces(word: Word, text: str) -> list[str]:
    return text.split() if isinstance(word.codec, ListOf) else [text]


def _field(page: Page, path: str) -> Any:
    """The value of a field of a page, such as ``options.extra.date``."""
    return reduce(getattr, path.split("."), page)


def _with_field(page: Page, path: str, value: Any) -> Page:
    """A page with another value for such a field."""
    name, _, rest = path.partition(".")
    if not rest:
        return page._replace(**{name: value})
    return page._replace(set_options=_with_part(page.options, rest, value))


def _with_part(holder: Any, path: str, value: Any) -> Any:
    name, _, rest = path.partition(".")
    return replace(holder, **{name: _with_part(getattr(holder, name), rest, value) if rest else value})


def header_words(on_page: bool, mobile: bool) -> tuple[str, ...]:
    """The words of the header that can be written at a place: for the site or on a page, in every window, or
    (``mobile``) in those below a width."""
    known = (BELOW, *MOBILE) if mobile else PAGE_HEADER if on_page else HEADER
    return tuple(word.name for word in known if word.value_type != "keys")


def with_header_word(header: Header, word: str, value: str, mobile: bool) -> Header:
    """A header with another value for one of its words; an empty one takes it out."""
    written = value_from(word, value) if value else None
    order = header_words(False, mobile)
    own = {**dict(header.mobile if mobile else header.own), word: written}
    kept = tuple((name, own[name]) for name in order if own.get(name) is not None)
    return replace(header, **{"mobile" if mobile else "own": kept})  # type: ignore[arg-type]


def page_option_values(page: Page | None) -> dict[str, str]:
    """The value of each key of a page that can be written by itself, as ``with_word`` takes it; empty where the map
    does not give it (or for no page)."""
    if page is None:
        return dict.fromkeys(WORDS, "")
    given = {"title": page.own_title, "label": page.own_label, "draft": page.options.says_draft}
    return {
        name: "" if name in page.from_text or not given.get(name, True) else _text(word, page, name in given)
        for name, word in _BY_NAME.items()
    }


def _text(word: Word, page: Page, is_given: bool) -> str:
    """The text of a word of a page; empty for what holds without it, where that need not be said."""
    value = _field(page, word.field)
    if value == _field(_NONE, word.field) and not is_given:
        return ""
    values = sorted(value) if isinstance(value, frozenset) else [value]
    return " ".join(word.item.write(one) for one in values)


def with_item(pairs: tuple[tuple[str, str], ...], name: str, value: str | None) -> tuple[tuple[str, str], ...]:
    """Pairs with another value for a name, in its place or at the end; None takes it out."""
    items: dict[str, str | None] = {**dict(pairs), name: value}
    return tuple((each, text) for each, text in items.items() if text is not None)


def with_rule(checks: Checks, code: str, setting: LevelSetting | None) -> Checks:
    """Checks with another rule for one of them, in its place or at the end; None takes it out."""
    rules: dict[str, LevelSetting | None] = {**{each.code: each for each in checks.levels}, code: setting}
    return replace(checks, levels=tuple(each for each in rules.values() if each is not None))


# Entries


def changed_without(site: Site, menu: str, path: Path) -> tuple[Entry, ...]:
    """A menu as it is written, without one of its entries; a group that it leaves empty still stands."""
    return changed(site.menus[menu].written, path[:-1], lambda entries: without(entries, path[-1]))


def without_item(site: Site, menu: str, written: tuple[Entry, ...]) -> Site:
    """A site with a menu written otherwise, and nothing worked out from that yet."""
    menus = {**site.menus, menu: replace(site.menus[menu], written=written)}
    return replace(site, menus=menus)


def without(entries: tuple[Entry, ...], index: int) -> tuple[Entry, ...]:
    """Entries without one of them."""
    return (*entries[:index], *entries[index + 1 :])


def within(index: int, among: Sized) -> int:
    """A place among some things, or after the last."""
    return max(0, min(index, len(among)))


def _goes(entry: Entry, gone: set[str]) -> bool:
    """Whether an entry goes with pages: it leads to one of them, or is a group in which nothing else is."""
    return entry.page in gone or (entry.kind is EntryKind.GROUP and all(_goes(item, gone) for item in entry.items))


def leading_to(written: tuple[Entry, ...], gone: set[str], above: Path = ()) -> list[Path]:
    """The entries that go with pages: those that lead to one of them, and groups in which nothing else is."""
    found: list[Path] = []
    for index, entry in enumerate(written):
        here = (*above, index)
        if _goes(entry, gone):
            found.append(here)
        else:
            found.extend(leading_to(entry.items, gone, here))
    return found
