"""What is said of a site that exists."""

from __future__ import annotations

from flask_wtf.file import FileField

from basilica.web.forms import BasilicaForm, Name, OneLine, Values


class ExistingSite(BasilicaForm):
    """Where the site is: in an archive that comes along, in a folder of this machine, or the demo; and its address."""

    source = OneLine(default="archive")
    archive = FileField()
    folder = OneLine(default="")
    base = OneLine(default="")


class MainMenu(BasilicaForm):
    """The menu that is to be the main one, by its name."""

    menu = OneLine(default="")


class StaySite(BasilicaForm):
    """The name of the site in the list, and the pages that are exceptions."""

    name = Name(default="")
    left = Values(default=())


class MakeSite(BasilicaForm):
    """The name of the site in the list, and the pages that are exceptions."""

    name = Name(default="")
    left = Values(default=())
