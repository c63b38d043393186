"""One map, several languages: what stands under the tag of a language, beside other words, holds in that language.

A map in several languages is read once for each: `cy: {title: Oriau agor}` at a page puts that title in the place of
the other one. So each language has a site, and a plan, of its own, of the same pages in the same order.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable
from dataclasses import replace

from basilica.core.language.sections.menu_words import ENTRY_WORDS
from basilica.core.map.document import Document, Mapping, Node, Scalar, Sequence
from basilica.core.map.map_files import Files
from basilica.core.shared.markdown import Contents

TAG = re.compile(r"[A-Za-z]{2,3}(-[A-Za-z0-9]{1,8})*")
"""Language tags as RFC 5646 builds them, without its registry."""
MOST = 20
_HOST = re.compile(r"[a-zA-Z][a-zA-Z0-9+.-]*://[^/]*")
_OVERLAID = ("site", "breadcrumbs", "header", "page-end", "theme", "head", "facts", "phrases")
"""The sections of the map in which a language can say something else."""

_OF_ONE_LANGUAGE = ("title", "label", "description", "keywords")
"""Words of a page that hold in the language alone in which they are written."""

Pair = tuple[Scalar, Node]


def languages_of(document: Document) -> tuple[str, ...]:
    """The tags under `site: languages:`, the first that of the site itself; none where it is in one language."""
    site = _value(document.root, "site")
    said = _value(site, "languages")
    items = said.items if isinstance(said, Sequence) else tags_in(said) if isinstance(said, Scalar) else ()
    tags = [item.value.strip() for item in items if isinstance(item, Scalar) and TAG.fullmatch(item.value.strip())]
    found = tuple(dict.fromkeys(tags))[:MOST]
    return found if len(found) > 1 else ()


def tags_in(said: Scalar) -> tuple[Scalar, ...]:
    """The tags of a text that has several, such as `en, de`, as it should not be written."""
    return tuple(said._replace(value=each) for each in re.split(r"[,; ]+", said.value.strip()) if each)


def document_in(document: Document, language: str, tags: tuple[str, ...], files: Files) -> Document:
    """The map as it is in one of its languages. In all but the first a page that is not translated is a draft: it is
    translated where the map, or the head of its text, gives it a title in that language."""
    if not isinstance(document.root, Mapping):
        return document
    return replace(document, root=_overlay(language, tags, files).root(document.root))


def included_in(language: str, tags: tuple[str, ...], files: Files) -> Callable[[Mapping, str], Mapping]:
    """The same for the files that pages include: takes what a file says of a page, and the key of that page."""
    return _overlay(language, tags, files).included


def _overlay(language: str, tags: tuple[str, ...], files: Files) -> _Overlay:
    other = language != tags[0]
    heads = files.in_language(language).heads if other else {}
    return _Overlay(language, frozenset(tags), other, lambda key: key in heads and bool(heads[key].title))


def contents_in(contents: Contents, language: str, tags: tuple[str, ...]) -> Contents:
    """The texts of a language: `visit/hours.cy` is that of `visit/hours` in `cy`. Those of others are left out."""
    if not tags:
        return contents
    if language == tags[0]:
        others = tuple(f".{tag}" for tag in tags[1:])
        return {key: content for key, content in contents.items() if not key.endswith(others)}
    ending = f".{language}"
    return {key.removesuffix(ending): content for key, content in contents.items() if key.endswith(ending)}


class _Overlay:
    """Puts the words of one language in place of those beside them."""

    def __init__(self, language: str, tags: frozenset[str], other: bool, has_head: Callable[[str], bool]) -> None:
        self._language, self._tags, self._other, self._has_head = language, tags, other, has_head

    def root(self, node: Mapping) -> Mapping:
        """The whole map."""
        return node._replace(pairs=tuple(self._section(name, value) for name, value in node.pairs))

    def included(self, node: Mapping, key: str) -> Mapping:
        """What an included file says of a page."""
        words = self._words(node._replace(pairs=tuple(self._without_addresses(node.pairs))), "title")
        pairs = words.pairs if isinstance(words, Mapping) else ()
        return node._replace(
            pairs=tuple((name, self._pages(value, key) if name.value == "pages" else value) for name, value in pairs)
        )

    def _in_this_language(self, redirects: Node) -> Node:
        """The redirects of addresses that begin with the tag of the language."""
        if not isinstance(redirects, Mapping):
            return Scalar("", redirects.start)
        begin = f"/{self._language}/"
        own = (pair for pair in redirects.pairs if f"{_HOST.sub('', pair[0].value.strip())}/".startswith(begin))
        return redirects._replace(pairs=tuple(own))

    def _section(self, name: Scalar, value: Node) -> Pair:
        if name.value in _OVERLAID:
            return name, self._words(value, "name")
        if name.value == "pages":
            return name, self._pages(value, None)
        if name.value == "menus":
            return name, self._named(value, self._menu)
        if name.value == "parts":
            return name, self._named(value, lambda part: self._words(part, "text"))
        if name.value == "redirects" and self._other:
            return name, self._in_this_language(value)
        if name.value == "inlay" and isinstance(value, Mapping):
            return name, value._replace(pairs=tuple(self._markup(*pair) for pair in value.pairs))
        return name, value

    def _markup(self, name: Scalar, value: Node) -> Pair:
        """How menus, by name, and breadcrumbs are written into pages that exist."""
        if name.value == "menus":
            return name, self._named(value, lambda menu: self._words(menu, "entry"))
        return name, self._words(value, "entry")

    def _without_addresses(self, pairs: Iterable[Pair]) -> Iterable[Pair]:
        """Old and further addresses belong to the language they are written in; those beside a tag to the first one."""
        return (pair for pair in pairs if not (self._other and pair[0].value in ("was", "also")))

    def _words(self, node: Node, plain: str) -> Node:
        """Words with those of the language in their place; a text alone is the word ``plain``."""
        if not isinstance(node, Mapping) or not any(name.value in self._tags for name, _ in node.pairs):
            return node
        own = {name.value: (name, value) for name, value in node.pairs if name.value not in self._tags}
        over = _value(node, self._language) if self._other else None
        if isinstance(over, Scalar) and not over.is_nothing:
            own[plain] = (Scalar(plain, over.start, False, over.start), over)
        elif isinstance(over, Mapping):
            own |= {name.value: (name, value) for name, value in over.pairs}
        return node._replace(pairs=tuple(own.values()))

    def _untold(self, node: Node, words: tuple[str, ...]) -> Node:
        """A page, or an entry for one, without what it is called in the first language, where this is another."""
        if not self._other or not isinstance(node, Mapping):
            return node
        return node._replace(pairs=tuple(pair for pair in node.pairs if pair[0].value not in words))

    @staticmethod
    def _named(node: Node, change: Callable[[Node], Node]) -> Node:
        if not isinstance(node, Mapping):
            return node
        return node._replace(pairs=tuple((name, change(value)) for name, value in node.pairs))

    def _pages(self, node: Node, above: str | None) -> Node:
        if not isinstance(node, Mapping):
            return node
        found = []
        for name, value in node.pairs:
            key = f"{above}/{name.value}" if above else name.value
            found.append((name, self._page(value, key)))
        return node._replace(pairs=tuple(found))

    def _page(self, node: Node, key: str) -> Node:
        told = isinstance(node, Mapping) and _value(node, self._language) is not None
        if self._other and isinstance(node, Scalar) and self._has_head(key):
            node = Mapping((), node.start)
        kind = _value(node, "kind")
        served = isinstance(kind, Scalar) and kind.value == "backend"
        is_translated = told or self._has_head(key)
        if isinstance(node, Mapping):  # those below the tag stay
            node = node._replace(pairs=tuple(self._without_addresses(node.pairs)))
        words = self._words(self._untold(node, _OF_ONE_LANGUAGE) if is_translated else node, "title")
        if isinstance(words, Mapping):
            pairs = tuple(
                (name, self._pages(value, key) if name.value == "pages" else value) for name, value in words.pairs
            )
            words = words._replace(pairs=pairs)
        if not self._other or is_translated or served:
            return words
        draft = (Scalar("draft", node.start, False, node.start), Scalar("yes", node.start, False, node.start))
        if isinstance(words, Mapping):
            return words._replace(pairs=(*(pair for pair in words.pairs if pair[0].value != "draft"), draft))
        title = () if isinstance(words, Scalar) and words.is_nothing else ((Scalar("title", node.start), words),)
        return Mapping((*title, draft), node.start)

    def _menu(self, node: Node) -> Node:
        if isinstance(node, Sequence):
            return self._entries(node)
        words = self._words(node, "label")
        if not isinstance(words, Mapping):
            return words
        pairs = ((name, self._entries(value) if name.value == "entries" else value) for name, value in words.pairs)
        return words._replace(pairs=tuple(pairs))

    def _entries(self, node: Node) -> Node:
        if not isinstance(node, Sequence):
            return node
        return node._replace(items=tuple(map(self._entry, node.items)))

    def _entry(self, node: Node) -> Node:
        if not isinstance(node, Mapping):
            return node
        is_short = len(node.pairs) == 1 and node.pairs[0][0].value not in ENTRY_WORDS
        if is_short:  # a page with entries under it, which may be called like a language
            return node._replace(pairs=tuple((name, self._entries(value)) for name, value in node.pairs))
        is_page = _value(node, "page") is not None
        words = self._words(
            self._untold(node, ("label",)) if is_page else node,
            "group" if _value(node, "group") is not None else "label",
        )
        if not isinstance(words, Mapping):
            return words
        pairs = ((name, self._entries(value) if name.value == "items" else value) for name, value in words.pairs)
        return words._replace(pairs=tuple(pairs))


def _value(node: Node | None, name: str) -> Node | None:
    """What stands under a key; None where nothing does."""
    if not isinstance(node, Mapping):
        return None
    return next((value for key, value in node.pairs if key.value == name), None)
