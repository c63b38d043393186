"""The page tree: ids, keys, titles, labels, and which page is home."""

from __future__ import annotations

import re
import typing
from dataclasses import replace
from typing import NamedTuple

from basilica.core.language.sections.header_words import PAGE_HEADER
from basilica.core.language.sections.menu_words import ENTRY_WORDS
from basilica.core.language.sections.page_words import PAGE, PAGE_ELSEWHERE
from basilica.core.map.content_heads import Head, Heads
from basilica.core.map.document import Mapping, Node, Scalar, Sequence
from basilica.core.map.site import site_rules
from basilica.core.map.site.field_reader import (
    Context,
    Keys,
    keys_of,
    kind_of,
    label_of,
    plain_label,
    prose_of,
    text_of,
    texts_of,
)
from basilica.core.map.site.header_reader import read_header
from basilica.core.map.site.ids import id_from
from basilica.core.map.site.included_files import included
from basilica.core.map.site.model import GivenAddress, Header, Page, PageOptions, RowPlace, TableSource, homes_of
from basilica.core.map.site.page_options_reader import ExtraReader
from basilica.core.map.site.references import References
from basilica.core.map.site.table_reader import TableReader
from basilica.core.map.site.trail_reader import TrailReader
from basilica.core.map.site.word_reader import WordReader
from basilica.core.rules import limits
from basilica.core.shared.markdown import Content

_OWN = {word.name for word in PAGE if word.field.startswith("options.")} | {"breadcrumbs", "header"}
"""The words of a page that set it apart."""
_OPTIONS = WordReader(PAGE, "options.")
Pages = typing.Mapping[str, Page]
_ID = re.compile(r"[a-z0-9-]+")


class PagesRead(NamedTuple):
    """What `pages:` says: all pages in map order, parents before their children; the ``texts`` that tables make; the
    ``rows`` of tables that pages are made from; and the ``tables``, by the key of the page above theirs."""

    pages: dict[str, Page]
    texts: dict[str, Content]
    rows: dict[str, RowPlace]
    tables: dict[str, TableSource]


def read_pages(node: Node, context: Context, extras: ExtraReader, tables: TableReader) -> PagesRead:
    """Read `pages:`."""
    pages: dict[str, Page] = {}
    reader = _Reader(context, pages, extras, tables)
    if isinstance(node, Scalar) and node.is_nothing:
        pass
    elif isinstance(node, Mapping):
        reader.level(node, None, 1)
    else:
        context.say(
            site_rules.WRONG_SHAPE,
            node.start,
            f"`pages` is {kind_of(node)} where pages are expected.",
            _as_key(node) or "Write each page as `id:` on a line of its own, indented below `pages:`.",
        )
        return PagesRead(pages, reader.texts, reader.rows, reader.sources)
    if not pages and context.complete:
        context.say(site_rules.NO_PAGES, node.start, "The map has no pages.")
    reader.resolve_highlights()
    TrailReader(pages, context).read(reader.trails)
    heads = context.files.heads
    return PagesRead(with_heads(pages, heads) if heads else pages, reader.texts, reader.rows, reader.sources)


def _as_key(node: Node) -> str:
    """How the first of a list of ids is written as a page; empty where it is none."""
    first = node.items[0] if isinstance(node, Sequence) and node.items else None
    named = isinstance(first, Scalar) and is_id(first.value)
    return f"Write `{first.value}:` in place of `- {first.value}`." if isinstance(first, Scalar) and named else ""


def title_from(page_id: str) -> str:
    """The title a page has when the map gives none: ``getting-here`` → ``Getting here``."""
    title = page_id.replace("-", " ").strip() or page_id
    return title[:1].upper() + title[1:]


def with_heads(pages: Pages, heads: Heads) -> dict[str, Page]:
    """Pages with what the heads of their texts say, where the map does not say it itself. What a page had from a head
    before counts for nothing."""
    touched = [*heads, *(key for key, page in pages.items() if page.from_text and key not in heads)]
    found = {key: _with_head(pages[key], heads.get(key, Head())) for key in touched if key in pages}
    return {**pages, **found}


def _with_head(page: Page, head: Head) -> Page:
    title = page.title if page.own_title else head.title or title_from(page.id)
    label = page.label if page.own_label else head.label or title
    own_description = None if "description" in page.from_text else page.description
    own = page.options
    draft = own.draft if own.says_draft else head.draft == "yes"
    dates = {word: "" if word in page.from_text else getattr(own.extra, word) for word in ("date", "updated")}
    extra = replace(own.extra, date=dates["date"] or head.date, updated=dates["updated"] or head.updated)
    settled = replace(own, draft=draft, extra=extra)
    given = {
        **{word: bool(getattr(head, word)) and not day for word, day in dates.items()},
        "title": bool(head.title) and not page.own_title,
        "label": bool(head.label) and not page.own_label,
        "description": bool(head.description) and own_description is None,
        "draft": bool(head.draft) and not own.says_draft,
    }
    return page._replace(
        title=title,
        label=label,
        description=own_description or head.description or None,
        set_options=page.set_options if settled == own else settled,
        from_text=frozenset(word for word, is_given in given.items() if is_given),
    )


class _Reader:
    def __init__(self, context: Context, pages: dict[str, Page], extras: ExtraReader, tables: TableReader) -> None:
        self.context = context
        self.tables = tables
        self.texts: dict[str, Content] = {}
        self.rows: dict[str, RowPlace] = {}
        self.sources: dict[str, TableSource] = {}
        self.included_in: tuple[str, ...] = ()
        self.extras = extras
        self.pages = pages
        self.full = False
        self.highlights: list[tuple[str, Scalar]] = []
        self.trails: list[tuple[str, Node]] = []

    def level(self, node: Mapping, parent: str | None, depth: int) -> tuple[str, ...]:
        """Read the pages of one mapping; returns their keys."""
        if depth > limits.LEVELS:
            self.context.say(
                site_rules.TOO_MANY_LEVELS,
                node.start,
                f"These pages are on level {depth}; a map has at most {limits.LEVELS}.",
            )
            return ()
        keys = []
        for name, value in node.pairs:
            if not is_id(name.value):
                self._say_bad(name)
                continue
            if len(self.pages) >= limits.PAGES:
                self._say_full(name)
                break
            key = f"{parent}/{name.value}" if parent else name.value
            keys.append(key)
            title = plain_label(value)
            if title is None:
                self._page(key, name, value, parent, depth)
            else:  # a page that is its title alone, as most are in a large site
                at = name.start
                self.pages[key] = Page(key, name.value, title, title, None, None, parent, (), at, at)
        return tuple(keys)

    def _say_bad(self, name: Scalar) -> None:
        """Say why a name cannot be an id."""
        if name.value in ENTRY_WORDS:
            self.context.say(
                site_rules.BAD_ID,
                name.start,
                f"`{name.value}` begins a menu entry, so no page can be called that.",
                f"Choose another id, such as `{name.value}-page`, and give it `path: {name.value}` if you like.",
            )
            return
        better = id_from(name.value, set()) if any(map(str.isalnum, name.value)) else ""
        self.context.say(
            site_rules.BAD_ID,
            name.start,
            f"`{name.value[:60]}` cannot be an id: ids are lower-case letters, digits and hyphens.",
            f"Write `{better[:60]}`; the title may be any text." if better else "Choose an id such as `news`.",
            self.context.instead(name, better or None),
        )

    def _say_full(self, name: Scalar) -> None:
        if not self.full:
            self.full = True
            self.context.say(
                site_rules.TOO_MANY_PAGES,
                name.start,
                f"There are more than {limits.PAGES:,} pages from here on.",
            )

    def _addresses(self, node: Node, what: str) -> tuple[GivenAddress, ...]:
        items = node.items if isinstance(node, Sequence) else (node,)
        texts = [(text_of(item, what, self.context), item.start) for item in items]
        return tuple(GivenAddress(text.strip(), at) for text, at in texts if text)

    def _own(self, key: str, keys: dict[str, tuple[Scalar, Node]], where: str) -> PageOptions | None:
        """What sets the page apart; the pages that it names are looked up once all are known."""
        if not any(word in keys for word in _OWN):
            return None

        if "highlight" in keys:
            what = f"`highlight` of {where}"
            self.highlights += [(key, text) for text in texts_of(keys["highlight"][1], what, self.context)[:1]]
        if "breadcrumbs" in keys:
            self.trails.append((key, keys["breadcrumbs"][1]))
        values = _OPTIONS.read(keys, self.context, where)
        return PageOptions(
            says_draft="draft" in keys,
            header=self._header(keys["header"][1], where) if "header" in keys else None,
            extra=self.extras.read(keys, where),
            **{**values, "hidden": frozenset(values.get("hidden", ()))},
        )

    def _header(self, node: Node, where: str) -> Header:
        return read_header(node, f"`header` of {where}", PAGE_HEADER, self.context)

    def resolve_highlights(self) -> None:
        """Look up the pages whose entries are to be current."""
        known = References(self.pages)
        for key, written in self.highlights:
            page = self.pages[key]
            found = known.resolve(written, self.context)
            if found is not None and (found == key or "#" in written.value):
                self.context.say(
                    site_rules.BAD_HIGHLIGHT,
                    written.start,
                    f"The page `{key}` names itself." if found == key else "Only a page can be current, not an anchor.",
                )
                found = None
            self.pages[key] = page._replace(set_options=replace(page.options, highlight=found))

    def _page(self, key: str, name: Scalar, value: Node, parent: str | None, depth: int) -> None:
        where = f"the page `{key}`"
        title: str | None = None
        keys: dict[str, tuple[Scalar, Node]] = {}
        texts: dict[str, str | None] = {}
        included_in = self.included_in
        if not isinstance(value, Scalar):
            keys = keys_of(value, PAGE, where[0].upper() + where[1:], self.context, PAGE_ELSEWHERE)
            if "include" in keys:
                keys = self._included(keys, key, where)
            for word in ("title", "label"):
                if word in keys:
                    node = keys[word][1]
                    texts[word] = plain_label(node) or label_of(node, f"The {word} of {where}", self.context)
        elif not value.is_nothing:
            title = label_of(value, f"The title of {where}", self.context)
        own_title = title or texts.get("title")
        title = own_title or title_from(name.value)
        path = text_of(keys["path"][1], f"The path of {where}", self.context) if "path" in keys else None
        description = (
            prose_of(keys["description"][1], f"The description of {where}", self.context)
            if "description" in keys
            else None
        )
        page = Page(
            key=key,
            id=name.value,
            title=title,
            label=texts.get("label") or title,
            description=" ".join(description.split()) if description else None,
            path=path,
            parent=parent,
            children=(),
            at=name.start,
            path_at=keys["path"][1].start if "path" in keys else name.start,
            own_title=own_title is not None,
            own_label=texts.get("label") is not None,
            was=self._addresses(keys["was"][1], f"The old address of {where}") if "was" in keys else (),
            also=self._addresses(keys["also"][1], f"The further address of {where}") if "also" in keys else (),
            set_options=self._own(key, keys, where),
        )
        self._look_at_kind(page, keys, where)
        self.pages[key] = page
        below = keys["pages"][1] if "pages" in keys else None
        children: tuple[str, ...] = ()
        if isinstance(below, Mapping):
            children = self.level(below, key, depth + 1)
        if "table" in keys:
            children += self._rows(keys["table"][1], page, children)
        self.included_in = included_in
        if children:
            self.pages[key] = page._replace(children=children)
        if isinstance(below, Mapping):
            return
        if below is not None and not (isinstance(below, Scalar) and below.is_nothing):
            self.context.say(
                site_rules.WRONG_SHAPE,
                below.start,
                f"The pages under {where} are {kind_of(below)} where pages are expected.",
                "Write each page as `id:` on a line of its own.",
            )

    def _included(self, keys: Keys, key: str, where: str) -> Keys:
        """The words of a page with those of the file that it includes; its own come first."""
        root, file = included(keys["include"][1], where, self.included_in, self.context)
        if root is None:
            return keys
        self.included_in = (*self.included_in, file)
        own = keys_of(self.context.in_language(root, key), PAGE, file, self.context)
        if "include" in own:
            message = f"{file} is mounted itself, and includes another file in its place."
            self.context.say(
                site_rules.KEY_WITHOUT_USE, own["include"][0].start, message, "Include that one at a page under it."
            )
        return {**own, **keys}

    def _rows(self, node: Node, page: Page, children: tuple[str, ...]) -> tuple[str, ...]:
        """The pages of a table under a page; returns the keys of those right below it."""
        taken = {self.pages[child].id for child in children}
        made = self.tables.read(node, page, taken, limits.PAGES - len(self.pages))
        self.pages.update(made.pages)
        self.texts.update(made.texts)
        self.rows.update(made.rows)
        if made.source is not None:
            self.sources[page.key] = made.source
        return tuple(made.top)

    def _look_at_kind(self, page: Page, keys: dict[str, tuple[Scalar, Node]], where: str) -> None:
        """Say what does not go with a page of its kind."""
        kind = page.options.kind
        if kind == "section" and "pages" not in keys and "table" not in keys:
            self.context.say(
                site_rules.EMPTY_SECTION,
                page.at,
                f"{where[0].upper()}{where[1:]} is a section without pages.",
            )
        if kind == "backend" and page.path is None:
            self.context.say(
                site_rules.MISSING_KEY,
                page.at,
                f"{where[0].upper()}{where[1:]} is served by other code, and its address is not given.",
                "Add `path:` with the address that the other code answers, such as `/booking`.",
            )
        for word in ("was", "also", "list", "sequence", "description") if kind != "page" else ():
            if word in keys and not (kind == "backend" and word == "description"):
                self.context.say(
                    site_rules.KEY_WITHOUT_USE,
                    keys[word][0].start,
                    f"`{word}` has no effect for {where}, which Basilica does not build.",
                )


def is_id(text: str) -> bool:
    """Whether a text can be the id of a page."""
    return bool(_ID.fullmatch(text)) and text not in ENTRY_WORDS


def find_home(pages: dict[str, Page], context: Context) -> str | None:
    """The key of the page whose path is `/`, with a finding for each way in which home can be wrong."""
    homes = homes_of(pages)
    if not homes:
        if pages and context.complete:
            first = next(iter(pages.values()))
            context.say(site_rules.NO_HOME, first.at, "No page is home.")
        return None
    at_top = [page for page in homes if page.parent is None]
    home = (at_top or homes)[0]
    for page in homes:
        if page.parent is not None:
            context.say(
                site_rules.HOME_NESTED,
                page.path_at,
                f"The page `{page.key}` is the home page and is under `{page.parent}`.",
            )
        elif page is not home:
            context.say(
                site_rules.TWO_HOMES,
                page.path_at,
                f"The pages `{home.key}` and `{page.key}` are both home.",
            )
        if page.children:
            context.say(
                site_rules.HOME_HAS_PAGES,
                page.at,
                f"The home page `{page.key}` has pages under it.",
            )
    if pages[home.key].options.kind != "page" or pages[home.key].options.draft:
        context.say(
            site_rules.HOME_NOT_BUILT,
            home.at,
            f"The home page `{home.key}` would not be built.",
        )
    return home.key
