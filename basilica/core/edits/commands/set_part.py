"""A word of a part is set."""

from __future__ import annotations

from typing import ClassVar

from basilica.core.edits.command import Command, EditInProgress, EditRejected
from basilica.core.edits.fields import PartName, PartWord
from basilica.core.edits.part_changes import with_part_word, written_value
from basilica.core.language.sections.part_words import KINDS
from basilica.core.map.site import Site


class SetPart(Command, frozen=True, tag="set-part"):
    """Another value for one of the words of a part that is written in the map; an empty one takes it out."""

    part: PartName
    word: PartWord
    value: str

    settles: ClassVar[bool] = True

    def change(self, work: EditInProgress) -> None:
        """Do it, to the site and to the text."""
        known = work.site.parts[self.part]
        if known.file:
            raise EditRejected(
                f"The part `{self.part}` is written in {known.file}. Change it there; nothing was changed."
            )
        if self.word not in ("text", "html", *KINDS[known.kind]):
            raise EditRejected(f"A part of the kind `{known.kind}` has no word `{self.word}`. Nothing was changed.")
        value = written_value(self.word, self.value)
        if known.kind == "text" and not value:
            raise EditRejected(f"The part `{self.part}` is its text, which cannot be empty. Nothing was changed.")
        work.take_part(with_part_word(known, self.word, value))
        work.removes(("parts", self.part, self.word))
        work.text.set_part(self.part, self.word, value)

    def describe(self, before: Site) -> str:
        """What was done, in words."""
        of = f"the {self.word} of the part {self.part}"
        return f"Set {of}" if self.value else f"Removed {of}"
