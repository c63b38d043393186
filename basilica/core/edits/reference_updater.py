"""References in a map's text that follow pages whose key is another now; those to pages that are gone are taken out."""

from __future__ import annotations

from collections.abc import Mapping

from basilica.core.content.source_links import updated_links
from basilica.core.edits.map_text_editor import MapTextEditor, entries_below, reference_of
from basilica.core.edits.source_patcher import NotHere, SourcePatcher
from basilica.core.map.document import Mapping as Keys
from basilica.core.map.document import Node, Scalar, Sequence
from basilica.core.map.site import Entry, EntryKind
from basilica.core.map.site.auto_entries import Path
from basilica.core.map.site.redirects_reader import GONE, PAGE
from basilica.core.map.site.references import References, rewritten, split_reference
from basilica.core.map.site.shared_values import Part


class ReferenceUpdater:
    """Mends the text of a draft. ``before`` and ``after`` look pages up then and now; ``keys`` leads from the one to
    the other."""

    def __init__(self, hand: MapTextEditor, before: References, after: References, keys: Mapping[str, str]) -> None:
        self._hand = hand
        self._draft: SourcePatcher = hand.draft
        self._before = before
        self._after = after
        self._keys = keys

    def menu(self, name: str, written: tuple[Entry, ...]) -> None:
        """The references of a menu's entries, which lead to the pages of ``written`` now."""
        if not self._hand.has_menu(name):
            return
        changes: list[tuple[Scalar, str]] = []
        automatic: list[Path] = []

        def walk(holder: Node | None, entries: tuple[Entry, ...], above: Path) -> None:
            if not isinstance(holder, Sequence):
                automatic.append(above)
                return
            for index, (item, entry) in enumerate(zip(holder.items, entries, strict=True)):
                here = (*above, index)
                if entry.kind in (EntryKind.PAGE, EntryKind.ANCHOR) and entry.page is not None:
                    scalar = reference_of(item)
                    better = rewritten(scalar.value, entry.page, self._after)
                    if better != scalar.value:
                        changes.append((scalar, better))
                if entry.kind is EntryKind.AUTO:
                    automatic.append(here)
                elif entry.items:
                    walk(entries_below(item)[1], entry.items, here)

        walk(self._hand.list_of(name, ())[1], written, ())
        for scalar, better in sorted(changes, key=lambda change: -change[0].start):
            self._draft.replace(scalar, better)
        for path in automatic:
            self._exceptions(name, path)
            self._above(name, path)

    def _exceptions(self, menu: str, path: Path) -> None:
        """The pages that an `auto` leaves out."""
        for index in reversed(range(len(_all(self._except_of(menu, path))))):
            node = self._except_of(menu, path)
            scalar = _all(node)[index]
            better = self._better(scalar)
            if better is not None:
                self._replace(scalar, better)
            elif isinstance(node, Sequence) and len(node.items) > 1:
                self._draft.cut(node, index)
            else:
                keys = self._auto_of(menu, path)
                if keys is not None:
                    self._draft.cut(keys, next(i for i, (key, _) in enumerate(keys.pairs) if key.value == "except"))

    def _above(self, menu: str, path: Path) -> None:
        """The page whose child pages an `auto` takes, where it names one that is there still."""
        keys = self._auto_of(menu, path)
        for key, value in keys.pairs if keys else ():
            if key.value == "under" and isinstance(value, Scalar):
                self._replace(value, self._better(value) or value.value)
                return

    def _auto_of(self, menu: str, path: Path) -> Keys | None:
        """The keys below `auto:`, where it has some: in a list, or in place of one."""
        node = self._hand.list_of(menu, ())[1]
        for index in path:
            if isinstance(node, Sequence):
                item = node.items[index]
                node = item if _is_auto(item) else entries_below(item)[1]
        if isinstance(node, Keys) and _is_auto(node):
            value = node.pairs[0][1]
            return value if isinstance(value, Keys) else None
        return None

    def _except_of(self, menu: str, path: Path) -> Node | None:
        keys = self._auto_of(menu, path)
        return next((value for key, value in keys.pairs if key.value == "except"), None) if keys else None

    def section(self, menu: str) -> None:
        """The page to which a menu belongs, which is there still."""
        keys = self._hand.settings_of(menu)
        for key, value in keys.pairs if keys else ():
            if key.value == "section" and isinstance(value, Scalar):
                self._replace(value, self._better(value) or value.value)
                return

    def highlight(self, key: str) -> None:
        """The page whose entry is current on page ``key``."""
        self._update(key, "highlight")

    def trail(self, key: str) -> None:
        """The pages in the breadcrumbs that are written by hand for page ``key``."""
        for number in reversed(range(self._count(key, "breadcrumbs"))):
            self._update(key, "breadcrumbs", number)

    def _count(self, key: str, word: str) -> int:
        found = self._word_of(key, word)
        value = found[1].pairs[found[2]][1] if found else None
        return len(value.items) if isinstance(value, Sequence) else 1

    def _word_of(self, key: str, word: str) -> tuple[SourcePatcher, Keys, int] | None:
        """The draft in which a page is written, the keys of the page, and which of them a word is."""
        try:
            editor, own = self._hand.of_page(key)
            keys = editor.page_keys(own)
            return editor.draft, keys, next(i for i, (name, _) in enumerate(keys.pairs) if name.value == word)
        except (NotHere, StopIteration):
            return None  # two pages have the key now, which is an error when the text is read again

    def _update(self, key: str, word: str, number: int = 0) -> None:
        """One of the references that a word of a page has."""
        found = self._word_of(key, word)
        if found is None:
            return
        draft, keys, index = found
        value = keys.pairs[index][1]
        scalar = value.items[number] if isinstance(value, Sequence) else value
        if not isinstance(scalar, Scalar):
            return  # a name alone
        better = self._better(scalar)
        if better is not None and better != scalar.value:
            draft.replace(scalar, better)
        elif better is None and isinstance(value, Sequence) and len(value.items) > 1:
            draft.cut(value, number)
        elif better is None:
            draft.cut(keys, index)

    def redirects(self) -> None:
        """Where old addresses of no page lead; those that led to a page which is gone are taken out."""
        root = self._draft.root
        index = next((i for i, (key, _) in enumerate(root.pairs) if key.value == "redirects"), None)
        if index is None:
            return
        for number in reversed(range(len(_pairs(root.pairs[index][1])))):
            holder = self._draft.root.pairs[index][1]
            value = holder.pairs[number][1] if isinstance(holder, Keys) else None
            if (
                not isinstance(holder, Keys)
                or not isinstance(value, Scalar)
                or value.value == GONE
                or "://" in value.value
            ):
                continue
            lead = PAGE if value.value.startswith(PAGE) else ""
            better = self._better(Scalar(value.value.removeprefix(PAGE), value.start))
            if better is not None:
                self._replace(value, (PAGE if better == GONE else lead) + better)
            elif len(holder.pairs) > 1:
                self._draft.cut(holder, number)
            else:
                self._draft.cut(self._draft.root, index)

    def part(self, name: str, part: Part) -> None:
        """Links by key in the text of a part."""
        keys, before, after = self._keys, self._before, self._after
        for below, value in _value(self._draft.root, "parts"):
            if below != name:
                continue
            texts = [value, *(each for key, each in _pairs(value) if key in ("text", "html"))]
            for text in texts:
                if isinstance(text, Scalar):
                    self._draft.rewrite(
                        text, lambda raw: updated_links(part.text, part.markup, keys, before, after, raw)
                    )
                    return

    def _better(self, scalar: Scalar) -> str | None:
        """The reference that leads where this one led; None where that page is gone."""
        found = self._before.find(split_reference(scalar.value)[0])
        target = self._keys.get(found[0]) if len(found) == 1 else None
        return rewritten(scalar.value, target, self._after) if target is not None else None

    def _replace(self, scalar: Scalar, better: str) -> None:
        if better != scalar.value:
            self._draft.replace(scalar, better)


def _pairs(node: Node) -> list[tuple[str, Node]]:
    return [(key.value, value) for key, value in node.pairs] if isinstance(node, Keys) else []


def _value(node: Node, name: str) -> list[tuple[str, Node]]:
    """The keys below one of the keys of a node, with their values."""
    return next((_pairs(value) for key, value in _pairs(node) if key == name), [])


def _is_auto(node: Node) -> bool:
    return isinstance(node, Keys) and [key.value for key, _ in node.pairs] == ["auto"]


def _all(node: Node | None) -> list[Scalar]:
    """The texts of a list, or the one that stands in its place."""
    items = node.items if isinstance(node, Sequence) else (node,)
    return [item for item in items if isinstance(item, Scalar)]
