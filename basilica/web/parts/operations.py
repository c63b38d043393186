"""What the Parts workspace writes: parts and slots into the map, and files beside it."""

from __future__ import annotations

from collections.abc import Sequence

from flask import flash, redirect, url_for
from werkzeug.wrappers import Response

from basilica.core.content.pictures import WIDTHS, PictureLeft, smaller_pictures
from basilica.core.diff.field_merge import FieldMerge
from basilica.core.edits import Command, EditRejected
from basilica.core.edits.commands.fill_slot import FillSlot
from basilica.core.edits.commands.make_part import MakePart
from basilica.core.edits.commands.set_part import SetPart
from basilica.core.map.map_files import is_file_name
from basilica.core.map.site.part_reader import NONE
from basilica.core.plan import Plan
from basilica.store.records import SiteRecord
from basilica.web.context import services
from basilica.web.forms import InvalidForm
from basilica.web.merged_form import write_merged
from basilica.web.parts.forms import FileText, NewPart, PartForm, PartWords, SlotFilling, Upload
from basilica.web.parts.view_model import TEXTS
from basilica.web.uploads import put_file, put_files, put_uploads
from basilica.web.workspace import say_unchanged


def write(slug: str) -> Response:
    """Write the words of a part that were changed into the map, all of them or none."""
    form = PartWords.sent()
    name = form.part.data

    def edits(_: SiteRecord, plan: Plan) -> tuple[FieldMerge[str], list[SetPart]]:
        part = plan.site.parts.get(name)
        if part is None:
            raise EditRejected(f"There is no part `{name}` any more.")
        merge = form.merged_with(part)
        return merge, [SetPart(name, word, value) for word, value in merge.apart.items()]

    _, done = write_merged(slug, form, edits)
    return _say(slug, form, done, part=name)


def make(slug: str) -> Response:
    """A new part of a kind, with the word that it cannot be without; where a slot is given, it stands there at once."""
    form = NewPart.sent()
    name, slot = form.name.data, form.slot.data
    commands: list[Command] = [MakePart(name, form.kind.data, form.needed)]
    if slot:
        commands.append(FillSlot(slot, " ".join([*_filling(slug, slot, form.key), name]), form.key))
    return _apply(slug, form, *commands, part=name)


def fill(slug: str) -> Response:
    """Say what fills a slot, everywhere or from one page on down."""
    form = SlotFilling.sent()
    slot, parts = form.slot.data, " ".join(part for part in form.parts.data if part)
    return _apply(slug, form, FillSlot(slot, NONE if form.empty.data else parts, form.key), slot=slot)


def _filling(slug: str, slot: str, key: str | None) -> tuple[str, ...]:
    """What fills a slot now, on a page or everywhere."""
    plan = services().maps.good_plan(services().sites.open(slug))
    if plan is None:
        raise EditRejected("The map has errors, so nothing was written.")
    if key is None:
        return dict(plan.site.slots).get(slot, ())
    return plan.assignment_of(key).in_slot(slot) if key in plan.site.pages else ()


def save_file(slug: str) -> Response:
    """Save the text of a file."""
    form = FileText.sent()
    name = form.file.data
    if not is_file_name(name) or not name.endswith(TEXTS):
        raise InvalidForm(f"`{name[:80]}` is not a name that a file here can have.")
    return _put(slug, form, name, form.text.data.encode())


def upload(slug: str) -> Response:
    """Put files that were uploaded beside the map."""
    form = Upload.sent()
    files = [file for file in form.file.data or () if file.filename]
    if not files:
        raise InvalidForm("Choose a file to upload.")
    names = put_uploads(slug, form.folder.data, files, form.replace.data)
    flash(f"Uploaded {', '.join(names)}.")
    return redirect(url_for("parts.show", slug=slug, file=names[-1]), 303)


def smaller(slug: str) -> Response:
    """Make smaller pictures of one, beside it."""
    name = FileText.sent().file.data
    files = services().maps.files(services().store.summary(slug))
    if name not in files:
        raise InvalidForm(f"There is no file `{name[:80]}` any more.")
    pictures = {}
    for made in smaller_pictures({name: files[name]}):
        if isinstance(made, PictureLeft):
            raise InvalidForm(f"No smaller pictures of {made.name} were made: {made.why}.")
        pictures[made[0]] = made[1]
    put_files(slug, pictures)
    none = f"{name} is no wider than {min(WIDTHS)} pixels: nothing was made."
    flash(f"Made {', '.join(pictures)}." if pictures else none)
    return redirect(url_for("parts.show", slug=slug, file=name), 303)


def remove(slug: str) -> Response:
    """Take a file away."""
    form = FileText.sent()
    return _put(slug, form, form.file.data, None)


def _put(slug: str, form: FileText, name: str, data: bytes | None) -> Response:
    put_file(slug, name, data, form.was.data)
    flash(f"{'Deleted' if data is None else 'Saved'} {name}.")
    shown = {"page": form.page.data or None, "file": name if data is not None else None}
    return redirect(url_for("parts.show", slug=slug, **shown), 303)  # type: ignore[arg-type]


def _apply(slug: str, form: PartForm, *commands: Command, **chosen: str) -> Response:
    services().sites.apply(slug, form.revision.data, *commands)
    return _say(slug, form, commands, **chosen)


def _say(slug: str, form: PartForm | PartWords, commands: Sequence[Command], **chosen: str) -> Response:
    """Tell what was done, and show the same place again."""
    plan = services().maps.good_plan(services().sites.open(slug))
    if commands:
        flash(". ".join(command.describe(plan.site) for command in commands if plan) + ".")
    else:
        say_unchanged()
    return redirect(url_for("parts.show", slug=slug, page=form.page.data or None, **chosen), 303)  # type: ignore[arg-type]
