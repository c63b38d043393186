"""Settings in the text of a map: single words of a page or of the header are written, changed and taken out."""

from __future__ import annotations

from basilica.core.edits.map_text_editor import MapTextEditor, in_its_file, key_index
from basilica.core.edits.source_patcher import NotHere, Snippet
from basilica.core.map.document import Mapping as Keys
from basilica.core.map.document import Node, Scalar
from basilica.core.map.document.scalar_writer import write_scalar


class SettingEditor(MapTextEditor):
    """A hand that writes settings as well. Raises ``NotHere`` for what is written in an unforeseen way."""

    @in_its_file
    def set_word(self, key: str, word: str, flow: str | None) -> None:
        """Write the value of one of a page's keys, or take the key out (None)."""
        holder, index = self._place(key)
        name, value = holder.pairs[index]
        if isinstance(value, Keys):
            known = next((i for i, (own, _) in enumerate(value.pairs) if own.value == word), None)
            old = value.pairs[known][1] if known is not None else None
            if isinstance(old, Scalar) and flow is not None:
                self.draft.replace(old, flow)
                return
            if known is not None:
                self.draft.cut(value, known)
            if flow is None:
                return
            if known is not None:
                holder, index = self._place(key)
                value = holder.pairs[index][1]
            if word == "title" and isinstance(value, Keys):
                self.draft.insert(value, 0, Snippet.of(f"title: {flow}"))
                return
        elif word == "title" and isinstance(value, Scalar):
            if flow is None:
                if not value.is_nothing:
                    self.draft.drop_value(name, value)
            elif value.is_nothing:
                self.draft.set_value(name, flow)
            else:
                self.draft.replace(value, flow)
            return
        if flow is not None:
            self._add_to_page(key, Snippet.of(f"{word}: {flow}"), last=False)

    @in_its_file
    def set_under(self, key: str | None, names: tuple[str, ...], word: str, flow: str | None) -> None:
        """Write a word under nested keys of the map (None) or of a page, which are made where they are missing; or take
        it out (None)."""
        holder: Node = self.draft.root
        if key is not None:
            at, index = self._place(key)
            holder = at.pairs[index][1]
        for depth, name in enumerate(names):
            known = _find(holder, name)
            if known is None:
                if flow is not None:
                    self._add_under(key, holder, _nested(names[depth:], word, flow, self.draft.step))
                return
            assert isinstance(holder, Keys)
            title, value = holder.pairs[known]
            if isinstance(value, Scalar):
                self._open(title, value, names[depth + 1 :], word, flow)
                return
            holder = value
        if not isinstance(holder, Keys):
            raise NotHere
        known = _find(holder, word)
        old = holder.pairs[known][1] if known is not None else None
        if flow is not None and isinstance(old, Scalar) and not old.is_nothing:
            self.draft.replace(old, flow)
        elif known is not None and flow is not None:
            self.draft.set_value(holder.pairs[known][0], flow, None if isinstance(old, Scalar) else old)
        elif known is not None:
            self.draft.cut(holder, known)
        elif flow is not None:
            self._add_under(None, holder, Snippet.of(f"{word}: {flow}"))

    @in_its_file
    def set_lines(self, key: str | None, names: tuple[str, ...], word: str, value: str) -> None:
        """Write a text of several lines under nested keys, as lines where they are written so."""
        if key is not None and not names:
            self.set_word(key, word, write_scalar(value))
        else:
            self.set_under(key, names, word, write_scalar(value))
        holder: Node | None = self.draft.root if key is None else self.page_keys(key)
        for name in names:
            holder = _below(holder, name) if holder is not None else None
        if not isinstance(holder, Keys) or holder.end >= 0 or len(holder.pairs) < 2 or not _needs_lines(value):
            return
        self.draft.cut(holder, key_index(holder, word))
        holder = self.draft.root if key is None else self.page_keys(key)
        for name in names:
            holder = _below(holder, name) if holder is not None else None
        assert isinstance(holder, Keys)
        room = " " * self.draft.step
        lines = (f"{word}: |-", *(room + line if line else "" for line in value.split("\n")))
        place = next((at for at, (name, _) in enumerate(holder.pairs) if name.value == "pages"), len(holder.pairs))
        self.draft.insert(holder, place, Snippet(lines, f"{word}: {write_scalar(value)}"))

    @in_its_file
    def prune_under(self, key: str | None, names: tuple[str, ...]) -> None:
        """Take nested keys out that hold nothing any more, the innermost first."""
        for depth in reversed(range(len(names))):
            holder: Node | None = self.draft.root
            if key is not None:
                at, index = self._place(key)
                holder = at.pairs[index][1]
            for name in names[:depth]:
                holder = _below(holder, name) if holder is not None else None
            known = _find(holder, names[depth]) if holder is not None else None
            if known is None or not isinstance(holder, Keys):
                return
            value = holder.pairs[known][1]
            if value.pairs if isinstance(value, Keys) else not (isinstance(value, Scalar) and value.is_nothing):
                return
            self.draft.cut(holder, known)

    def set_part(self, name: str, word: str, value: str) -> None:
        """Write a word of a part, or take it out (empty). A text of several lines is written as such."""
        flow = write_scalar(value) if value else None
        parts = _below(self.draft.root, "parts")
        index = _find(parts, name) if parts is not None else None
        if parts is None or index is None:
            if flow is not None:
                self.set_under(None, ("parts", name), word, flow)
            return
        title, part = parts.pairs[index]
        if isinstance(part, Scalar) and not part.is_nothing:
            if word == "text" and flow is not None:
                self.draft.replace(part, flow)
            elif flow is not None:
                self.draft.set_value(title, f"{{text: {self.draft.flow_of(part)}, {word}: {flow}}}", part)
            return
        if not isinstance(part, Keys) or flow is None or not _needs_lines(value):
            self.set_under(None, ("parts", name), word, flow)
            return
        known = _find(part, word)
        if known is not None:
            if len(part.pairs) == 1:
                self.set_under(None, ("parts", name), word, flow)
                return
            self.draft.cut(part, known)
            again = _below(self.draft.root, "parts")
            part = again.pairs[index][1] if again is not None else part
            if not isinstance(part, Keys):
                raise NotHere
        room = " " * self.draft.step
        lines = (f"{word}: |-", *(room + line if line else "" for line in value.split("\n")))
        at = known if known is not None else len(part.pairs)
        self.draft.insert(part, at, Snippet(lines, f"{word}: {flow}"))

    def _add_under(self, key: str | None, holder: Node, chunk: Snippet) -> None:
        if key is not None:
            self._add_to_page(key, chunk, last=False)
        elif isinstance(holder, Keys):
            self.draft.insert(holder, len(holder.pairs), chunk)
        else:
            raise NotHere

    def _open(self, title: Scalar, value: Scalar, names: tuple[str, ...], word: str, flow: str | None) -> None:
        """Write a word below a key that has a text, or nothing, in its place; the text is the behaviour."""
        if value.is_nothing:
            if flow is not None:
                self.draft.add_below(title, _nested(names, word, flow, self.draft.step), "{}")
            return
        if word == "behaviour" and not names:
            if flow is not None:
                self.draft.replace(value, flow)
            else:
                self.draft.drop_value(title, value)
            return
        if flow is not None:
            said = f"behaviour: {self.draft.flow_of(value)}, {_nested(names, word, flow, self.draft.step).flow}"
            self.draft.set_value(title, f"{{{said}}}", value)


def _below(holder: Node, name: str) -> Keys | None:
    """The keys below a key; None where there are none."""
    index = _find(holder, name)
    value = holder.pairs[index][1] if isinstance(holder, Keys) and index is not None else None
    return value if isinstance(value, Keys) else None


def _needs_lines(value: str) -> bool:
    """Whether a value has several lines that can be written as they are."""
    lines = value.split("\n")
    return len(lines) > 1 and not lines[0].startswith((" ", "\t")) and value.replace("\n", "").isprintable()


def _find(holder: Node, name: str) -> int | None:
    if not isinstance(holder, Keys):
        return None
    return next((index for index, (key, _) in enumerate(holder.pairs) if key.value == name), None)


def _nested(names: tuple[str, ...], word: str, flow: str, step: int) -> Snippet:
    """A word below keys that are not there yet."""
    chunk = Snippet.of(f"{word}: {flow}")
    for name in reversed(names):
        chunk = chunk.below(f"{name}:", f"{name}: {{", step, "}")
    return chunk
