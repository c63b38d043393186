"""A rendered piece with slots, so that what pages share is rendered once."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from markupsafe import Markup, escape

from basilica.core.outputs.static_site.slots import NUL, Slot, room_for, slot_in


class SlotTemplate:
    """Rendered markup with slots: even pieces are text, odd ones were slots."""

    def __init__(self, rendered: str) -> None:
        self._pieces = str(rendered).split(NUL)
        self._where: dict[Slot, list[int]] = {}
        for index in range(1, len(self._pieces), 2):
            self._where.setdefault(slot_in(self._pieces[index]), []).append(index)
            self._pieces[index] = ""

    def fill(self, texts: Mapping[Slot, str]) -> SlotTemplate:
        """A copy with some slots filled permanently; texts are escaped unless they are markup."""
        copy = SlotTemplate.__new__(SlotTemplate)
        copy._where = self._where
        copy._pieces = self._filled(texts)
        return copy

    def same(self, other: SlotTemplate) -> bool:
        """Whether both give the same markup for the same texts."""
        return self._pieces == other._pieces and self._where == other._where

    def slots(self, texts: Mapping[Slot, str]) -> dict[Slot, str]:
        """Those of some texts for which there is room here."""
        return {slot: text for slot, text in texts.items() if slot in self._where}

    def text(self, texts: Mapping[Slot, str]) -> Markup:
        """The markup with these slots filled, and nothing in the others."""
        return Markup("".join(self._filled(texts)))

    def inlined(self, others: Mapping[Slot, SlotTemplate]) -> SlotTemplate:
        """The same with others in place of some slots, whose own slots are slots of the whole then."""
        sources = {slot: other.written(room_for, str) for slot, other in others.items()}
        return SlotTemplate(self.written(lambda slot: sources[slot] if slot in sources else room_for(slot), str))

    def written(self, slot_as: Callable[[Slot], str], text_as: Callable[[str], str]) -> str:
        """The same in another language: each slot that was not filled as ``slot_as`` writes it, and the text between as
        ``text_as`` does."""
        slots = {index: slot for slot, indexes in self._where.items() for index in indexes}
        return "".join(
            slot_as(slots[index]) if index in slots and not piece else text_as(piece)
            for index, piece in enumerate(self._pieces)
        )

    def _filled(self, texts: Mapping[Slot, str]) -> list[str]:
        pieces = self._pieces.copy()
        where = self._where
        for slot, text in texts.items():
            if slot in where:
                written = text if isinstance(text, Markup) else str(escape(text))
                for index in where[slot]:
                    pieces[index] = written
        return pieces
