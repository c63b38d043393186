"""What the Parts workspace writes: parts and slots into the map, and files beside it."""

from __future__ import annotations

from flask import redirect, url_for
from werkzeug.wrappers import Response

from basilica.core.edits import Command, EditRejected
from basilica.core.edits.commands.fill_slot import FillSlot
from basilica.core.edits.commands.make_part import MakePart
from basilica.core.edits.commands.set_part import SetPart
from basilica.core.edits.part_changes import part_words, written_value
from basilica.core.map.map_files import is_file_name
from basilica.web.context import services
from basilica.web.forms import InvalidForm
from basilica.web.parts.forms import FileText, NewPart, PartForm, PartWords, SlotFilling, Upload
from basilica.web.parts.view_model import TEXTS
from basilica.web.uploads import put_file, put_upload


def write(slug: str) -> Response:
    """Write the words of a part that were changed into the map, all of them or none."""
    form = PartWords.sent()
    name, plan = form.part.data, services().maps.good_plan(services().sites.open(slug))
    part = plan.site.parts.get(name) if plan else None
    if part is None:
        raise EditRejected(f"There is no part `{name}` any more.")
    now = {word: part.text if word in ("text", "html") else part.value(word) for word in part_words(part)}
    commands = [
        SetPart(name, word, value)
        for word, value in form.values.items()
        if word in now and written_value(word, value) != written_value(word, now[word])
    ]
    return _apply(slug, form, *commands, part=name)


def make(slug: str) -> Response:
    """A new part of a kind, with the word that it cannot be without."""
    form = NewPart.sent()
    return _apply(slug, form, MakePart(form.name.data, form.kind.data, form.needed.data), part=form.name.data)


def fill(slug: str) -> Response:
    """Say what fills a slot, everywhere or from one page on down."""
    form = SlotFilling.sent()
    page = form.page.data if form.scope.data == "page" else None
    return _apply(slug, form, FillSlot(form.slot.data, form.parts.data, page), slot=form.slot.data)


def save_file(slug: str) -> Response:
    """Save the text of a file."""
    form = FileText.sent()
    name = form.file.data
    if not is_file_name(name) or not name.endswith(TEXTS):
        raise InvalidForm(f"`{name[:80]}` is no name that a file here can have.")
    return _put(slug, name, form.text.data.encode(), form.was.data)


def upload(slug: str) -> Response:
    """Put files that were uploaded beside the map."""
    form = Upload.sent()
    files = [file for file in form.file.data or () if file.filename]
    if not files:
        raise InvalidForm("Choose a file to upload.")
    name = ""
    for file in files:
        name = put_upload(slug, form.folder.data, file)
    return redirect(url_for("parts.show", slug=slug, file=name), 303)


def remove(slug: str) -> Response:
    """Take a file away."""
    form = FileText.sent()
    return _put(slug, form.file.data, None, form.was.data)


def _put(slug: str, name: str, data: bytes | None, was: str | None) -> Response:
    put_file(slug, name, data, was)
    return redirect(url_for("parts.show", slug=slug, file=name if data is not None else None), 303)


def _apply(slug: str, form: PartForm, *commands: Command, **chosen: str) -> Response:
    services().sites.apply(slug, form.revision.data, *commands)
    return redirect(url_for("parts.show", slug=slug, page=form.page.data or None, **chosen), 303)  # type: ignore[arg-type]
