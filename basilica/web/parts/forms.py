"""What is typed in the Parts workspace."""

from __future__ import annotations

from flask import request
from flask_wtf.file import MultipleFileField
from wtforms import StringField

from basilica.core.map.schema.part_words import PART
from basilica.web.forms import BasilicaForm, OneLine, Revision, Text, Values

MEANINGS = {word.name: word for word in PART}
"""By name, the words that parts have."""


class PartForm(BasilicaForm):
    """What all forms here say: the revision they were made for, and the page that is looked at."""

    revision = Revision(default=-1)
    page = OneLine(default="")


class PartWords(PartForm):
    """The words of a part. ``word`` names those that the form has; each value is under `own-` and its name."""

    part = OneLine(default="")
    word = Values(default=list)

    @property
    def values(self) -> dict[str, str]:
        """The value of each word."""
        known = [word for word in self.word.data or () if word in MEANINGS or word in ("text", "html")]
        return {word: request.form.get(f"own-{word}", "") for word in known}


class NewPart(PartForm):
    """A new part of a kind, with the word that it cannot be without."""

    name = OneLine(default="")
    kind = OneLine(default="text")
    needed = Text(default="")


class SlotFilling(PartForm):
    """What fills a slot, everywhere or from one page on down (``scope`` is `page`)."""

    slot = OneLine(default="")
    parts = Text(default="")
    scope = OneLine(default="", name="for")


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
