"""What is typed in the Pages workspace."""

from __future__ import annotations

from flask import request
from wtforms.validators import AnyOf, Length, Regexp

from basilica.core.diff.field_merge import FieldMerge
from basilica.core.edits import page_option_values, plain_value
from basilica.core.edits.commands.translate_page import TRANSLATED
from basilica.core.map.site import Site
from basilica.core.rules.limits import CONTENT_CHARACTERS
from basilica.web.forms import BasilicaForm, Button, OneLine, Text, Values
from basilica.web.merged_form import MergedForm

_NO_SLOT = "This cannot be the name of a slot, or of a language."
_TOO_LONG = f"A page's text has at most {CONTENT_CHARACTERS:,} characters."


class PageSettings(MergedForm):
    """The settings of a page. ``word`` names those that the form has; each has its value under its own name. ``keep``
    tells that addresses which end are kept."""

    page = OneLine(default="")
    word = Values(default=list)
    keep = Button()

    @property
    def settings(self) -> dict[str, str]:
        """The value of each setting as it is typed, by word. What the form lacks is as it was."""
        known = [word for word in self.word.data or () if word in page_option_values(None)]
        return {word: " ".join(request.form.getlist(word)) for word in known}

    def merged_with(self, site: Site) -> FieldMerge[str]:
        """The settings merged with those of the map."""
        key = self.page.data
        typed = {word: plain_value(site, key, word, value) for word, value in self.settings.items()}
        return self.merged(typed, page_option_values(site.pages[key]))


class PageTranslation(MergedForm):
    """What a page is called in another language; each word under its own name."""

    page = OneLine(default="")
    language = OneLine(default="")
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
