"""What forms have in common: fields that take what people type as it should be kept, and how a form that came is read.

Forms that a person fills in are WTForms; what the browser's script sends is a schema (``values.body``).
"""

from __future__ import annotations

from typing import Any, Self

import msgspec
from flask import request
from flask_wtf import FlaskForm
from werkzeug.datastructures import CombinedMultiDict
from wtforms import BooleanField, Field, IntegerField, StringField

from basilica.core.rules.limits import SITE_NAME_CHARACTERS
from basilica.web.values import whole_number

STILL = "What you typed is still here."


class InvalidForm(Exception):
    """A form cannot be taken as it was filled in; the message says why and what to do."""


class BasilicaForm(FlaskForm):
    """A form of the application. Its token was looked at before it comes to this."""

    @classmethod
    def sent(cls) -> Self:
        """The form that came with the request. Raises ``InvalidForm``."""
        form = cls.unchecked()
        if not form.validate():
            raise InvalidForm(next(str(error) for errors in form.errors.values() for error in errors))
        return form

    @classmethod
    def unchecked(cls) -> Self:
        """The same, whatever is in it: to be shown again."""
        return cls(formdata=CombinedMultiDict((request.files, request.form)))


class OneLine(StringField):
    """A text of one line: single spaces, none at its ends."""

    data: str

    def process_formdata(self, valuelist: list[Any]) -> None:
        """Take what was typed."""
        if valuelist:
            self.data = " ".join(str(valuelist[0]).split())


class Name(OneLine):
    """A name that people give: of one line, and no longer than names are."""

    def process_formdata(self, valuelist: list[Any]) -> None:
        """Take what was typed."""
        super().process_formdata(valuelist)
        self.data = (self.data or "")[:SITE_NAME_CHARACTERS]


class Text(StringField):
    """A text of many lines, with the line ends that files have."""

    data: str

    def process_formdata(self, valuelist: list[Any]) -> None:
        """Take what was typed."""
        if valuelist:
            self.data = str(valuelist[0]).replace("\r\n", "\n")


class Revision(IntegerField):
    """Which revision of a site the form was made for; -1, which none is, where it does not say."""

    data: int

    def process_formdata(self, valuelist: list[Any]) -> None:
        """Take what came."""
        number = whole_number(valuelist[0]) if valuelist else None
        self.data = number if number is not None else -1


class AsOpened(Field):
    """The values of a form's fields when it was opened, by name, for ``merge_fields``."""

    data: dict[str, Any]

    def process_formdata(self, valuelist: list[Any]) -> None:
        """Take what came."""
        self.data = seen_in(str(valuelist[0])) if valuelist else {}


def seen_in(text: str) -> dict[str, Any]:
    """What the fields of a form were, from the text that it brings; nothing if that cannot be read."""
    try:
        return msgspec.json.decode(text, type=dict[str, Any])
    except msgspec.DecodeError:
        return {}


class Button(BooleanField):
    """A button that sends a form, or a box to tick: whether it was this one, or was ticked."""

    def process_formdata(self, valuelist: list[Any]) -> None:
        """Take what came."""
        self.data = bool(valuelist)


class Values(Field):
    """All values of a name, such as of boxes to tick, as they are written."""

    data: list[str]

    def process_formdata(self, valuelist: list[Any]) -> None:
        """Take what came."""
        self.data = [str(value) for value in valuelist]
