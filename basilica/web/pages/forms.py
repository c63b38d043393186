"""What is typed in the Pages workspace."""

from __future__ import annotations

from flask import request
from wtforms.validators import AnyOf, Length, Regexp

from basilica.core.edits import page_option_values
from basilica.core.edits.commands.translate_page import TRANSLATED
from basilica.core.rules.limits import CONTENT_CHARACTERS
from basilica.web.forms import AsOpened, BasilicaForm, Button, OneLine, Revision, Text, Values

_NO_SLOT = "This cannot be the name of a slot, or of a language."
_TOO_LONG = f"A page's text has at most {CONTENT_CHARACTERS:,} characters."


class PageSettings(BasilicaForm):
    """The settings of a page. ``word`` names those that the form has; each has its value under its own name. ``keep``
    tells that addresses which end are kept."""

    page = OneLine(default="")
    revision = Revision(default=-1)
    word = Values(default=list)
    keep = Button()
    seen = AsOpened(default=dict)

    @property
    def settings(self) -> dict[str, str]:
        """The value of each setting as it is typed, by word. What the form lacks is as it was."""
        known = [word for word in self.word.data or () if word in page_option_values(None)]
        return {word: " ".join(request.form.getlist(word)) for word in known}


class PageTranslation(BasilicaForm):
    """What a page is called in another language; each word under its own name."""

    page = OneLine(default="")
    revision = Revision(default=-1)
    language = OneLine(default="")
    seen = AsOpened(default=dict)
    title = OneLine(default="")
    label = OneLine(default="")
    description = OneLine(default="")
    path = OneLine(default="")
    draft = OneLine(default="", validators=[AnyOf(("", "yes", "no"))])

    @property
    def words(self) -> dict[str, str]:
        """What was typed, by word."""
        return {word: self[word].data or "" for word in TRANSLATED}


class PageText(BasilicaForm):
    """The text of a page, or of a slot of its layout; an empty one removes it."""

    page = OneLine(default="")
    slot = OneLine(default="", validators=[Regexp(r"([A-Za-z0-9-]{1,60})?\Z", message=_NO_SLOT)])
    text = Text(default="", validators=[Length(max=CONTENT_CHARACTERS, message=_TOO_LONG)])
    was = Text(default="")
    markup = OneLine(default="")

    @property
    def key(self) -> str:
        """The key of what is written."""
        return f"{self.page.data}.{self.slot.data}" if self.slot.data else self.page.data

    @property
    def suffix(self) -> str | None:
        """Which markup it is in, if the form says."""
        return self.markup.data if self.markup.data in ("md", "html") else None
