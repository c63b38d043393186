"""A part is created."""

from __future__ import annotations

from basilica.core.edits.command import Command, EditInProgress, EditRejected
from basilica.core.edits.part_changes import with_part_word, written_value
from basilica.core.language.sections.part_words import KINDS
from basilica.core.map.site import Site
from basilica.core.map.site.part_reader import NEEDS, is_part_name
from basilica.core.map.site.shared_values import Part


class MakePart(Command, frozen=True, tag="make-part"):
    """A new part of a kind, with the one word that it cannot be without (its text, for a part that is a text)."""

    part: str
    kind: str
    value: str

    def change(self, work: EditInProgress) -> None:
        """Do it, to the site and to the text."""
        if not is_part_name(self.part) or self.part in work.site.parts or self.kind not in KINDS:
            taken = "There is one already." if self.part in work.site.parts else "Choose another name."
            raise EditRejected(f"No part `{self.part}` can be made. {taken} Nothing was changed.")
        word = NEEDS.get(self.kind, ("text",))[0]
        value = written_value(word, self.value)
        if not value and (self.kind == "text" or self.kind in NEEDS):
            raise EditRejected(f"A part of the kind `{self.kind}` needs its {word}. Nothing was changed.")
        work.take_part(with_part_word(Part(self.part, self.kind), word, value))
        if self.kind != "text":
            work.text.set_part(self.part, "kind", self.kind)
        if value:
            work.text.set_part(self.part, word, value)

    def describe(self, before: Site) -> str:
        """What was done, in words."""
        return f"Created the part {self.part}, of the kind {self.kind}"
