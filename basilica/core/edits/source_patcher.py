"""A map's text as it is being edited: entries are taken out and put in, and no other byte is touched.

An entry of a list or of a set of keys is handled as whole lines, from its comments on to the last line that has
something of it; inside brackets, as what stands between commas. Places come from start marks, from the ends of texts
and brackets, and from a look at the lines: the end mark of what stands without brackets lies after the next entry's
comment. A comment belongs to the entry below it.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass

from basilica.core.map.document import Mapping, Node, Scalar, Sequence, read
from basilica.core.map.document.scalar_writer import write_scalar

_COMMENT = re.compile(r"(?<![^\s,\[\]{}])#[^\r\n]*")


class NotHere(Exception):
    """The text is written in a way that this edit does not know."""


@dataclass(frozen=True, slots=True)
class Snippet:
    """An entry by itself: its lines, as far left as they go; the same for a place inside brackets; and the comments
    among the lines, which have no room there."""

    lines: tuple[str, ...]
    flow: str
    comments: tuple[str, ...] = ()

    @classmethod
    def of(cls, line: str) -> Snippet:
        """An entry that is one line, alike in both places."""
        return cls((line,), line)

    def below(self, head: str, flow_head: str, step: int, flow_tail: str) -> Snippet:
        """The entry as the only one under ``head``, such as ``pages:`` (``pages: {`` and ``}`` inside brackets)."""
        return Snippet(
            (head, *(_indented(line, step) for line in self.lines)), f"{flow_head}{self.flow}{flow_tail}", self.comments
        )


def _indented(line: str, by: int) -> str:
    return " " * by + line if line else line


class SourcePatcher:
    """A text and its nodes, read again after each change."""

    def __init__(self, text: str) -> None:
        self._mark = "\ufeff" if text.startswith("\ufeff") else ""
        self._body = text.removeprefix("\ufeff")
        self._root: Node | None = None
        self._held = False
        self.newline = "\r\n" if "\r\n" in self._body else "\n"

    @property
    def text(self) -> str:
        """The whole text as it is now."""
        return self._mark + self._body

    @property
    def root(self) -> Mapping:
        """The top of the map. Raises ``NotHere`` where that is not a set of keys."""
        if self._root is None:
            self._root = read(self._body)[0].root
        if not isinstance(self._root, Mapping):
            raise NotHere
        return self._root

    @property
    def step(self) -> int:
        """By how much the map indents, in spaces."""
        for _, value in self.root.pairs:
            if isinstance(value, Mapping) and value.end < 0:
                return max(1, self._column(value.pairs[0][0].start) - self._column(self.root.start))
        return 2

    def rewrite(self, scalar: Scalar, change: Callable[[str], str]) -> None:
        """Change a text as it is written, in place."""
        self.patch(scalar.start, scalar.end, change(self._body[scalar.start : scalar.end]))

    # Looking

    def raw(self, node: Scalar) -> str:
        """A text as it is written, on one line."""
        written = self._body[node.start : node.end]
        return written if "\n" not in written and "\r" not in written else write_scalar(node.value)

    def flow_of(self, node: Node) -> str:
        """A node as it can be written inside brackets, on one line."""
        if isinstance(node, Scalar):
            if node.is_nothing:
                return ""
            written = self.raw(node)
            return written if node.quoted and written[0] in "\"'" else write_scalar(node.value)
        if isinstance(node, Sequence):
            return "[" + ", ".join(self._flow_item(item) for item in node.items) + "]"
        return "{" + ", ".join(self.flow_pair(pair) for pair in node.pairs) + "}"

    def flow_pair(self, pair: tuple[Scalar, Node]) -> str:
        """A key with its value as it can be written inside brackets."""
        return f"{self.flow_of(pair[0])}: {self.flow_of(pair[1])}"

    def _flow_item(self, node: Node) -> str:
        if isinstance(node, Mapping) and len(node.pairs) == 1:
            return self.flow_pair(node.pairs[0])
        return self.flow_of(node)

    def _line_start(self, offset: int) -> int:
        return max(self._body.rfind("\n", 0, offset), self._body.rfind("\r", 0, offset)) + 1

    def _line_end(self, offset: int) -> int:
        """The offset behind the end of a line."""
        found = [at for at in (self._body.find("\n", offset), self._body.find("\r", offset)) if at >= 0]
        if not found:
            return len(self._body)
        at = min(found)
        return at + 2 if self._body.startswith("\r\n", at) else at + 1

    def _column(self, offset: int) -> int:
        return offset - self._line_start(offset)

    def _end(self, node: Node, before: int) -> int:
        """The offset behind the last character of a node; ``before`` is where what holds it ends otherwise."""
        if isinstance(node, Scalar):
            if node.is_nothing:
                return max(before, node.end)
            return len(self._body[: node.end].rstrip()) if self._body[node.start] in "|>" else node.end
        if node.end >= 0:
            return node.end
        if isinstance(node, Sequence):
            last = node.items[-1]
            return self._end(last, last.start)
        key, value = node.pairs[-1]
        return self._end(value, key.end)

    def end_of(self, pair: tuple[Scalar, Node]) -> int:
        """The offset behind the last character of a key and its value."""
        return self._end(pair[1], pair[0].end)

    def _entries(self, holder: Mapping | Sequence) -> list[tuple[int, int]]:
        """Where each entry of a holder without brackets begins (its key or its dash), and where it ends."""
        if isinstance(holder, Mapping):
            return [(key.start, self._end(value, key.end)) for key, value in holder.pairs]
        column = self._column(holder.start)
        found = []
        for item in holder.items:
            start = item.start
            line = self._line_start(start)
            while self._body[line + column : line + column + 1] != "-" or self._body[line : line + column].strip():
                if line == 0:
                    raise NotHere
                line = self._line_start(line - 1)
            found.append((line + column, self._end(item, line + column + 1)))
        return found

    def _span(self, holder: Mapping | Sequence, index: int) -> tuple[int, int]:
        """The lines of an entry: from its comments to the line behind it."""
        entries = self._entries(holder)
        start, end = entries[index]
        first = self._line_start(start)
        if self._body[first:start].strip():
            raise NotHere  # the entry begins on the line of what holds it
        column = self._column(start)
        floor = self._behind_comments(self._line_end(entries[index - 1][1]), column + 1) if index else 0
        while first > floor:
            above = self._line_start(first - 1)
            if above < floor or not self._body[above:first].lstrip().startswith("#"):
                break
            first = above
        return first, self._behind_comments(self._line_end(end), column + 1)

    def _behind_comments(self, at: int, column: int) -> int:
        """The offset behind the comments that follow a line end and are indented as far as ``column`` or further: they
        belong to what is above them."""
        end = at
        while at < len(self._body):
            following = self._line_end(at)
            line = self._body[at:following]
            text = line.lstrip(" ")
            if text.startswith("#") and len(line) - len(text) >= column:
                end = following
            elif text.strip():
                break
            at = following
        return end

    @property
    def comments(self) -> list[str]:
        """Every comment of the text, in order."""
        return list(self._comments(0, len(self._body), (self.root,)))

    # Changing

    def patch(self, start: int, end: int, new: str) -> None:
        """Replace what stands from ``start`` to ``end``."""
        self._body = self._body[:start] + new + self._body[end:]
        if not self._held:
            self._root = None

    @contextmanager
    def one_reading(self) -> Iterator[None]:
        """Many changes by one reading of the text: each must stand before the one that was made ahead of it, so that
        what is read of it is still in its place."""
        _, self._held = self.root, True
        try:
            yield
        finally:
            self._root, self._held = None, False

    def replace(self, node: Scalar, new: str) -> None:
        """Write another text in the place of one."""
        self.patch(node.start, self._end(node, node.start), new)

    def _insert_lines(self, at: int, lines: tuple[str, ...], column: int) -> None:
        written = "".join(_indented(line, column) + self.newline for line in lines)
        if at > 0 and self._body[at - 1] not in "\r\n":
            written = self.newline + written
        self.patch(at, at, written)

    def insert(self, holder: Mapping | Sequence, index: int, chunk: Snippet) -> None:
        """Put an entry into a holder that has entries, or brackets. ``chunk`` has its dash, or its key."""
        count = len(holder.pairs) if isinstance(holder, Mapping) else len(holder.items)
        if holder.end >= 0:
            spans = self._flow_spans(holder)
            if not count:
                self.patch(holder.start + 1, holder.end - 1, chunk.flow)
            elif index < count:
                self.patch(spans[index][0], spans[index][0], f"{chunk.flow}, ")
            else:
                self.patch(spans[-1][1], spans[-1][1], f"{self._space(spans[-1][1])}, {chunk.flow}")
            self.comment_above(holder.start, chunk)
            return
        entries = self._entries(holder)
        column = self._column(entries[0][0])
        if index:
            at = self._behind_comments(self._line_end(entries[index - 1][1]), column + 1)
        else:
            at = self._span(holder, 0)[0]
        lines = chunk.lines
        if index == count and (behind := self._behind_comments(at, column)) > at:
            at, lines = behind, ("", *lines)  # the block's last comment is not that of what comes after it
        self._insert_lines(at, lines, column)

    def _space(self, at: int) -> str:
        """A colon keeps a space behind it, or it would be part of the key."""
        return " " if self._body[at - 1] == ":" else ""

    def comment_above(self, at: int, chunk: Snippet) -> None:
        """Write the comments of an entry that has gone into brackets above the line of these."""
        line = self._line_start(at)
        lead = len(self._body[line:at]) - len(self._body[line:at].lstrip(" "))
        if chunk.comments:
            self._insert_lines(line, chunk.comments, lead)

    def _flow_spans(self, holder: Mapping | Sequence) -> list[tuple[int, int]]:
        """Where each entry between brackets begins and ends."""
        if isinstance(holder, Sequence):
            return [(item.start, self._flow_end(item)) for item in holder.items]
        return [(key.start, self._flow_end(value, key)) for key, value in holder.pairs]

    def _flow_end(self, node: Node, key: Scalar | None = None) -> int:
        if isinstance(node, Mapping) and node.pairs and self._body[node.start] != "{":
            key, node = node.pairs[0]  # one pair without brackets of its own
        end = self._end(node, key.end if key else node.start)
        if key and isinstance(node, Scalar) and node.is_nothing:
            colon = self._body[key.end :].lstrip()
            return self._body.index(":", key.end) + 1 if colon.startswith(":") else end
        return end

    def cut(self, holder: Mapping | Sequence, index: int) -> Snippet:
        """Take an entry out and give it back."""
        chunk = self.copy(holder, index)
        if holder.end >= 0:
            spans = self._flow_spans(holder)
            if len(spans) == 1:
                self.patch(holder.start + 1, holder.end - 1, "")
            elif index < len(spans) - 1:
                self.patch(spans[index][0], spans[index + 1][0], "")
            else:
                self.patch(spans[index - 1][1], spans[index][1], self._space(spans[index - 1][1]))
        else:
            self.patch(*self._span(holder, index), "")
        return chunk

    def cut_first(self, keys: Mapping) -> None:
        """Take out the first of several keys, which is behind the dash of an item; the next one takes its place."""
        if len(keys.pairs) < 2:
            raise NotHere
        start, end = keys.pairs[0][0].start, keys.pairs[1][0].start
        comments = tuple(self._comments(start, end, keys.pairs[0]))
        self.patch(start, end, "")
        self.comment_above(start, Snippet((), "", comments))

    def own_lines(self, holder: Mapping | Sequence, index: int) -> tuple[str, ...]:
        """The lines of an entry without the comments above it, as far left as they go."""
        lines = self.copy(holder, index).lines
        first = next(at for at, line in enumerate(lines) if not line.lstrip().startswith("#"))
        return lines[first:]

    def rewrite_entry(self, holder: Mapping | Sequence, index: int, lines: tuple[str, ...]) -> None:
        """Write other lines in the place of an entry of a holder without brackets, and of the comments below it that
        are its own; those above it stay."""
        start, _ = self._entries(holder)[index]
        column = self._column(start)
        if self._body[self._line_start(start) : start].strip():
            raise NotHere
        written = "".join(_indented(line, column) + self.newline for line in lines)
        self.patch(self._line_start(start), self._span(holder, index)[1], written)

    def copy(self, holder: Mapping | Sequence, index: int) -> Snippet:
        """An entry by itself. That of a list has its dash among its lines, and none inside brackets."""
        if isinstance(holder, Mapping):
            flow = self.flow_pair(holder.pairs[index])
        else:
            flow = self._flow_item(holder.items[index])
        if holder.end >= 0:
            return Snippet((flow if isinstance(holder, Mapping) else f"- {flow}",), flow)
        start, end = self._span(holder, index)
        column = self._column(self._entries(holder)[index][0])
        lines = tuple(_dedented(line, column) for line in _lines(self._body[start:end]))
        entry = holder.pairs[index] if isinstance(holder, Mapping) else (holder.items[index],)
        return Snippet(lines, flow, tuple(self._comments(start, end, entry)))

    def _comments(self, start: int, end: int, nodes: Iterable[Node]) -> Iterator[str]:
        """The comments from ``start`` to ``end``: what follows a `#` outside every text of ``nodes``."""
        at = start
        for text in (*_texts(nodes), Scalar("", end, end=end)):
            yield from _COMMENT.findall(self._body[at : text.start])
            at = self._end(text, text.start)

    def drop_value(self, key: Scalar, value: Node) -> None:
        """Leave a key without its value."""
        end = self._end(value, key.end)
        if isinstance(value, Scalar) or value.end >= 0 or self._line_start(value.start) == self._line_start(key.start):
            in_flow = self._body[end : end + 1] in (",", "}")  # where `{hours:}` cannot be read, and `{hours}` can
            self.patch(key.end if in_flow else self._body.index(":", key.end) + 1, end, "")
        else:
            first = self._line_end(key.end)
            behind = self._behind_comments(self._line_end(end), self._column(value.start))
            self.patch(first, behind, "")

    def set_value(self, key: Scalar, flow: str, old: Node | None = None) -> None:
        """Give a key a value on its line, in place of the ``old`` one."""
        tail = self._body[key.end :].lstrip(" ")
        if tail.startswith(":"):
            at = self._body.index(":", key.end) + 1
            self.patch(at, self._end(old, at) if old else at, f" {flow}")
        else:
            self.patch(key.end, key.end, f": {flow}")

    def list_block(self, keys: Mapping) -> None:
        """Write keys on lines of their own as the one entry of a list; their comments stay beside them."""
        start, column = self._line_start(keys.start), self._column(keys.start)
        if self._body[start : keys.start].strip():
            raise NotHere
        end = self._line_end(self._end(keys, keys.start))
        first, *others = self._body[start:end].splitlines(keepends=True)
        lines = (first[:column] + "- " + first[column:], *("  " + line if line.strip() else line for line in others))
        self.patch(start, end, "".join(lines))

    def add_below(self, key: Scalar, chunk: Snippet, brackets: str) -> None:
        """Put the first entry below a key without a value: on lines of its own, or in ``brackets`` where the key
        itself stands in brackets."""
        if self.in_flow(key):
            self.set_value(key, brackets[0] + chunk.flow + brackets[1])
            self.comment_above(key.start, chunk)
        else:
            self._insert_lines(self._line_end(key.end), chunk.lines, self._column(key.start) + self.step)

    def in_flow(self, node: Node) -> bool:
        """Whether a node stands inside brackets, at any depth."""
        here: list[Node] = [self.root]
        while here:
            found = here.pop()
            if isinstance(found, Scalar):
                continue
            if found.end >= 0:
                if found.start < node.start < found.end:
                    return True
                continue
            here.extend(found.items if isinstance(found, Sequence) else [value for _, value in found.pairs])
        return False


def _texts(nodes: Iterable[Node]) -> Iterator[Scalar]:
    """Every text in some nodes, in order."""
    for node in nodes:
        if isinstance(node, Scalar):
            yield node
        elif isinstance(node, Sequence):
            yield from _texts(node.items)
        else:
            for pair in node.pairs:
                yield from _texts(pair)


def _lines(text: str) -> list[str]:
    return text.replace("\r\n", "\n").replace("\r", "\n").removesuffix("\n").split("\n")


def _dedented(line: str, by: int) -> str:
    lead = len(line) - len(line.lstrip(" "))
    return line[min(lead, by) :]
