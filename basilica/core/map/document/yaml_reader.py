"""Reading a map: parser events in, nodes out, all findings at once.

The nodes are built here, with a stack, from the parser's events: the parser's own composer recurses, which deep
input turns into a crash. Reading stops at ``limits.NESTING``, so no input costs more than time in proportion to its
length.
"""

from __future__ import annotations

import re
from typing import Any

import yaml

from basilica.core.map.document import document_rules
from basilica.core.map.document.nodes import Document, Lines, Mapping, Node, Scalar, Sequence
from basilica.core.map.document.yaml_errors import in_plain_words, quoting
from basilica.core.rules import limits
from basilica.core.rules.finding import Finding, Findings, Fix
from basilica.core.rules.place import START
from basilica.core.rules.rule import Rule

_CONTROL = re.compile(r"[\x00-\x08\x0b\x0c\x0e-\x1f\x7f\x80-\x84\x86-\x9f\ufffe\uffff\ud800-\udfff]")


def read(source: str | bytes) -> tuple[Document, tuple[Finding, ...]]:
    """Read the text of a map.

    Takes text, or bytes as they came from a file or an upload. Returns the document and every finding of this
    stage, in the order of the text. Never raises for any input.
    """
    findings = Findings()
    text = _as_text(source, findings)
    if text is None:
        return Document(None, Lines((0,)), complete=False), findings.done()
    lines = Lines.of(text)
    control = _CONTROL.search(text)
    if control:
        _binary_or_control(text, control, lines, findings)
        return Document(None, lines, complete=False), findings.done()
    root, complete = _Builder(lines, findings).build(text)
    if complete and (root is None or (isinstance(root, Scalar) and root.is_nothing)):
        findings.add(
            document_rules.MAP_EMPTY,
            START,
            "The map is empty.",
        )
    return Document(root, lines, complete), findings.done()


def _as_text(source: str | bytes, findings: Findings) -> str | None:
    size = len(source) if isinstance(source, bytes) else len(source.encode("utf-8", "surrogatepass"))
    if size > limits.TEXT_BYTES:
        findings.add(
            document_rules.TOO_LARGE,
            START,
            f"The map has {size:,} bytes; at most {limits.TEXT_BYTES:,} can be read.",
        )
        return None
    if isinstance(source, str):
        return source.removeprefix("\ufeff")
    if b"\0" in source:
        findings.add(document_rules.NOT_TEXT, START, "This is not a text file.")
        return None
    try:
        return source.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        before = source[: error.start].decode("utf-8", "replace")
        findings.add(
            document_rules.NOT_UTF8,
            Lines.of(before).place(len(before)),
            f"The byte 0x{source[error.start]:02x} here is not UTF-8.",
        )
        return None


def _binary_or_control(text: str, found: re.Match[str], lines: Lines, findings: Findings) -> None:
    if found.group() == "\0":
        findings.add(
            document_rules.NOT_TEXT, lines.place(found.start()), "This is not text.", "Choose a YAML text file."
        )
        return
    findings.add(
        document_rules.MAP_SYNTAX,
        lines.place(found.start()),
        f"There is the invisible character U+{ord(found.group()):04X} here.",
        "Delete it, or write it as an escape between double quotes.",
    )


class _Open:
    """A list or a mapping whose end has not been read yet."""

    __slots__ = ("flow", "is_map", "items", "key", "pairs", "seen", "start")

    def __init__(self, is_map: bool, start: int, flow: bool) -> None:
        self.flow = flow
        self.is_map = is_map
        self.start = start
        self.items: list[Node] = []
        self.pairs: list[tuple[Scalar, Node]] = []
        self.seen: set[str] = set()
        self.key: Scalar | bool | None = None
        """The key that waits for its value; False for a key that was refused; None when a key comes next."""


class _Builder:
    def __init__(self, lines: Lines, findings: Findings) -> None:
        self.lines = lines
        self.findings = findings
        self.stack: list[_Open] = []
        self.root: Node | None = None

    def build(self, text: str) -> tuple[Node | None, bool]:
        """The root node, and whether the whole text was read."""
        complete = True
        try:
            complete = self._follow(yaml.parse(text, Loader=yaml.CSafeLoader))
        except yaml.MarkedYAMLError as error:
            mark = error.problem_mark or error.context_mark
            offset = min(mark.index, len(text)) if mark else 0
            message, remedy = in_plain_words(error.problem or "", error.context or "", text, offset)
            fix = None
            quoted = quoting(text, offset) if "in quotes" in remedy else None
            if quoted:
                fix = Fix(self.lines.place(quoted[0]), self.lines.place(quoted[1]), quoted[2])
            self.findings.add(document_rules.MAP_SYNTAX, self.lines.place(offset), message, remedy, fix=fix)
            complete = False
        except (yaml.YAMLError, ValueError) as error:
            offset = getattr(error, "position", 0) or 0
            self.findings.add(
                document_rules.MAP_SYNTAX,
                self.lines.place(min(offset, len(text))),
                "There is a character here that YAML does not allow.",
                "Delete it, or write it as an escape between double quotes.",
            )
            complete = False
        while self.stack:
            self._close()
        return self.root, complete

    def _follow(self, events: Any) -> bool:
        documents, stack, scalar = 0, self.stack, yaml.ScalarEvent
        for event in events:
            kind = type(event)
            if kind is scalar:
                node = Scalar(event.value, event.start_mark.index, bool(event.style), event.end_mark.index)
                if event.anchor is not None or event.tag is not None:
                    self._refuse_extras(event)
                holder = stack[-1] if stack else None
                if holder and holder.is_map and type(holder.key) is Scalar:  # by far the most common
                    holder.pairs.append((holder.key, node))
                    holder.key = None
                elif holder and holder.is_map and holder.key is None and self._is_new_key(node, holder):
                    holder.seen.add(node.value)
                    holder.key = node
                else:
                    self._put(node)
            elif kind is yaml.MappingStartEvent or kind is yaml.SequenceStartEvent:
                self._refuse_extras(event)
                if len(self.stack) >= limits.NESTING:
                    self._say(
                        document_rules.TOO_DEEP,
                        event,
                        f"More than {limits.NESTING} lists or mappings are nested here.",
                        f"A map has at most {limits.LEVELS} levels; close what was opened by mistake.",
                    )
                    return False
                self._open(kind is yaml.MappingStartEvent, event)
            elif kind is yaml.MappingEndEvent or kind is yaml.SequenceEndEvent:
                mark = event.end_mark
                self._close(mark.index if self.stack[-1].flow else -1)
            elif kind is yaml.AliasEvent:
                self._say(
                    document_rules.NO_ANCHORS,
                    event,
                    f"The alias `*{event.anchor}` stands for something written elsewhere.",
                    "Write it out here; text that begins with `*` goes in quotes.",
                )
                self._put(None)
            elif kind is yaml.DocumentStartEvent:
                documents += 1
                if documents > 1:
                    self._say(
                        document_rules.SEVERAL_DOCUMENTS,
                        event,
                        "A second document begins here.",
                    )
                    return False
        return True

    def _say(self, rule: Rule, event: Any, message: str, remedy: str = "") -> None:
        self.findings.add(rule, self.lines.place(event.start_mark.index), message, remedy)

    def _refuse_extras(self, event: Any) -> None:
        if event.anchor is not None:
            self._say(
                document_rules.NO_ANCHORS,
                event,
                f"The anchor `&{event.anchor}` names this for use elsewhere.",
                "Remove it; text that begins with `&` goes in quotes.",
            )
        if event.tag is not None:
            self._say(
                document_rules.NO_TAGS,
                event,
                f"The tag `{event.tag}` gives this value a type.",
                "Remove it: every value is text. Text that begins with `!` goes in quotes.",
            )

    def _open(self, is_map: bool, event: Any) -> None:
        self.stack.append(_Open(is_map, event.start_mark.index, event.flow_style))

    def _close(self, end: int = -1) -> None:
        done = self.stack.pop()
        node: Node
        if done.is_map:
            if isinstance(done.key, Scalar):  # reading stopped between a key and its value
                done.pairs.append((done.key, Scalar("", done.key.start, end=done.key.start)))
            node = Mapping(tuple(done.pairs), done.start, end)
        else:
            node = Sequence(tuple(done.items), done.start, end)
        self._put(node)

    def _put(self, node: Node | None) -> None:
        """Give a finished node to what holds it. None is a node that was refused."""
        if not self.stack:
            self.root = node
            return
        holder = self.stack[-1]
        if not holder.is_map:
            if node is not None:
                holder.items.append(node)
        elif holder.key is None:
            holder.key = self._as_key(node, holder)
        else:
            if isinstance(holder.key, Scalar) and node is not None:
                holder.pairs.append((holder.key, node))
            holder.key = None

    @staticmethod
    def _is_new_key(node: Scalar, holder: _Open) -> bool:
        """Whether there is nothing to say about a key."""
        return node.value not in holder.seen and node.value != "<<"

    def _as_key(self, node: Node | None, holder: _Open) -> Scalar | bool:
        """The key if it can be one, else False; what is wrong with it becomes a finding."""
        if node is None:
            return False
        place = self.lines.place(node.start)
        if not isinstance(node, Scalar):
            self.findings.add(document_rules.KEY_NOT_TEXT, place, "A key is a list or a mapping.")
            return False
        if node.value == "<<" and not node.quoted:
            self.findings.add(
                document_rules.NO_MERGE,
                place,
                "The merge key `<<` copies keys from elsewhere.",
                "Write the keys out here.",
            )
            return False
        if node.value in holder.seen:
            self.findings.add(
                document_rules.DUPLICATE_KEY,
                place,
                f"The key `{node.value}` appears twice here.",
            )
            return False
        holder.seen.add(node.value)
        return node
