"""What is typed about sites as a whole."""

from __future__ import annotations

import msgspec
from flask_wtf.file import FileField
from wtforms.validators import DataRequired

from basilica.web.forms import BasilicaForm, Name, OneLine, Text


class NewSite(BasilicaForm):
    """A new site: how it begins, and what that needs."""

    start = OneLine(default="blank")
    name = Name(default="")
    file = FileField()
    list = Text(default="")


class Rename(BasilicaForm):
    """Another name in the list."""

    name = Name(validators=[DataRequired("Give the site a name; it still has the old one.")])


class DecideFolder(BasilicaForm):
    """What becomes of a site whose folder is gone, or is another than before."""

    decided = OneLine(default="")


class Archive(BasilicaForm):
    """Out of the list, or (`no`) back into it."""

    archive = OneLine(default="")


class Delete(BasilicaForm):
    """The name of the site, typed, so that it is meant."""

    name = OneLine(default="")


class ListOfPages(msgspec.Struct):
    """A list that is to become a map, and the name of the site."""

    list: str = ""
    name: str = ""
