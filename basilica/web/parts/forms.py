"""What is typed in the Parts workspace."""

from __future__ import annotations

from flask import request
from flask_wtf.file import MultipleFileField
from wtforms import BooleanField, StringField

from basilica.core.diff.field_merge import FieldMerge
from basilica.core.edits.part_changes import part_words, written_value
from basilica.core.language.sections.part_words import PART
from basilica.core.map.site.shared_values import Part
from basilica.web.forms import BasilicaForm, Button, OneLine, Revision, Text, Values
from basilica.web.merged_form import MergedForm

MEANINGS = {word.name: word for word in PART}
"""By name, the words that parts have."""


class PartForm(BasilicaForm):
    """What all forms here say: the revision they were made for, and the page that is looked at."""

    revision = Revision(default=-1)
    page = OneLine(default="")


class PartWords(MergedForm):
    """The words of a part. ``word`` names those that the form has; each value is under `own-` and its name."""

    page = OneLine(default="")
    part = OneLine(default="")
    word = Values(default=list)

    @property
    def values(self) -> dict[str, str]:
        """The value of each word."""
        known = [word for word in self.word.data or () if word in MEANINGS or word in ("text", "html")]
        return {word: written_value(word, request.form.get(f"own-{word}", "")) for word in known}

    def merged_with(self, part: Part) -> FieldMerge[str]:
        """The words of the form merged with those of the map."""
        now = values_of(part)
        return self.merged({word: value for word, value in self.values.items() if word in now}, now)


def values_of(part: Part) -> dict[str, str]:
    """The words of a part as the map has them."""
    own = {word: part.text if word in ("text", "html") else part.value(word) for word in part_words(part)}
    return {word: written_value(word, value) for word, value in own.items()}


class SlotForm(PartForm):
    """What fills a slot, everywhere or from one page on down (``scope`` is `page`)."""

    slot = OneLine(default="")
    scope = OneLine(default="", name="for")

    @property
    def key(self) -> str | None:
        """The page from which on it holds; None for every page."""
        return self.page.data if self.scope.data == "page" else None


class NewPart(SlotForm):
    """A new part of a kind, with the word that it cannot be without; in a ``slot``, behind what fills that."""

    name = OneLine(default="")
    kind = OneLine(default="text")

    @property
    def needed(self) -> str:
        """The word that a part of this kind cannot be without, each kind having a field of its own."""
        return request.form.get(f"needed-{self.kind.data}", "").replace("\r\n", "\n")


class SlotFilling(SlotForm):
    """The parts that fill a slot, in their order; ``empty`` leaves it empty on a page where it is filled above."""

    parts = Values(default=list)
    empty = Button(default=False)


class FileText(PartForm):
    """The text of a file; ``was`` is the SHA-256 of what was there, empty where nothing was. Without it the file is
    written whatever is there."""

    file = OneLine(default="")
    text = Text(default="")
    was = StringField()


class Upload(PartForm):
    """Files to put into a folder beside the map."""

    folder = OneLine(default="files")
    file = MultipleFileField()
    replace = BooleanField()
