"""A rendered piece with room left in it, so that what pages share is rendered once.

A template leaves room with ``slot("name")``; ``SlotTemplate.fill`` puts text there. Slots are marked with the NUL
character, which no text of a map can hold.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping

from markupsafe import Markup, escape

_NUL = "\0"


def slot(name: str) -> Markup:
    """Room for a text that differs from page to page."""
    return Markup(f"{_NUL}{name}{_NUL}")


class SlotTemplate:
    """Rendered markup with slots: even pieces are text, odd ones were slots."""

    def __init__(self, rendered: str) -> None:
        self._pieces = str(rendered).split(_NUL)
        self._where: dict[str, list[int]] = {}
        for index in range(1, len(self._pieces), 2):
            self._where.setdefault(self._pieces[index], []).append(index)
            self._pieces[index] = ""

    def fill(self, texts: Mapping[str, str]) -> SlotTemplate:
        """A copy with some slots filled permanently; texts are escaped unless they are markup."""
        copy = SlotTemplate.__new__(SlotTemplate)
        copy._where = self._where
        copy._pieces = self._filled(texts)
        return copy

    def same(self, other: SlotTemplate) -> bool:
        """Whether both give the same markup for the same texts."""
        return self._pieces == other._pieces and self._where == other._where

    def slots(self, texts: Mapping[str, str]) -> dict[str, str]:
        """Those of some texts for which there is room here."""
        return {name: text for name, text in texts.items() if name in self._where}

    def text(self, texts: Mapping[str, str]) -> Markup:
        """The markup with these slots filled, and nothing in the others."""
        return Markup("".join(self._filled(texts)))

    def inlined(self, others: Mapping[str, SlotTemplate]) -> SlotTemplate:
        """The same with others in place of some slots, whose own slots are slots of the whole then."""
        return SlotTemplate(
            self.written(lambda name: others[name]._source() if name in others else f"{_NUL}{name}{_NUL}", str)
        )

    def _source(self) -> str:
        return self.written(lambda name: f"{_NUL}{name}{_NUL}", str)

    def written(self, slot_as: Callable[[str], str], text_as: Callable[[str], str]) -> str:
        """The same in another language: each slot that was not filled as ``slot_as`` writes it, and the text between as
        ``text_as`` does."""
        names = {index: name for name, indexes in self._where.items() for index in indexes}
        return "".join(
            slot_as(names[index]) if index in names and not piece else text_as(piece)
            for index, piece in enumerate(self._pieces)
        )

    def _filled(self, texts: Mapping[str, str]) -> list[str]:
        pieces = self._pieces.copy()
        where = self._where
        for name, text in texts.items():
            if name in where:
                written = text if isinstance(text, Markup) else str(escape(text))
                for index in where[name]:
                    pieces[index] = written
        return pieces
