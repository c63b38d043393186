"""Reading a site that exists, and making a site of it."""

from __future__ import annotations

from pathlib import Path

from flask import current_app, redirect, url_for
from werkzeug.wrappers import Response

from basilica.core.map.map_files import NO_FILES, Files, problem_with
from basilica.core.map.site import Base
from basilica.core.map.site.settings_reader import parse_base
from basilica.core.shared.output_file import File
from basilica.services.site_imports import with_exceptions
from basilica.store.errors import UsageError
from basilica.store.folders import must_be_opened
from basilica.store.site_archives import read_archive, read_site
from basilica.web.context import services
from basilica.web.demo import HAND_MADE
from basilica.web.forms import InvalidForm
from basilica.web.site_import.forms import ExistingSite, MainMenu, MakeSite, StaySite
from basilica.web.site_import.view_model import job_of

_PATIENCE = 20.0
"""Seconds that a request waits for what was worked out a moment ago."""


def begin() -> Response:
    """Begin to read a site: what was uploaded, a folder, or the demo."""
    form = ExistingSite.sent()
    base = _base(form.base.data)
    try:
        files = {"folder": _of_folder, "demo": _demo}.get(form.source.data, _uploaded)(form)
    except UsageError as error:
        raise InvalidForm(str(error)) from error
    folder = Path(form.folder.data).expanduser().resolve() if form.source.data == "folder" else None
    return redirect(url_for("site_import.show", token=services().imports.begin(files, base, folder=folder)), 303)


def take_menu(token: str) -> Response:
    """Read the same site again, with another menu for the main one."""
    new = services().imports.again(token, MainMenu.sent().menu.data)
    return redirect(url_for("site_import.show", token=new), 303)


def stop(token: str) -> Response:
    """Stop reading; begin with another."""
    services().imports.stop(token)
    return redirect(url_for("site_import.new"), 303)


def make(token: str) -> Response:
    """Make the site that was read."""
    form = MakeSite.sent()
    found = job_of(token).result
    if found is None:
        raise InvalidForm("The site is still being read. Wait until the report is there.")
    moved = with_exceptions(found, services().imports.reading(token).files, form.left.data)
    files = Files(moved.files)
    problem = next((said for name, data in moved.files.items() if (said := problem_with(name, data, files))), "")
    if problem:
        raise InvalidForm(f"{problem} Bring it in with `basilica import`, which writes a folder.")
    note = f"Brought in: {len(found.site.pages)} pages"
    name = form.name.data or found.site.name or "Existing site"
    record = services().store.make(name, moved.text, moved.contents, note, files=files or NO_FILES)
    services().imports.stop(token)
    return redirect(url_for("map.show", slug=record.slug), 303)


def take_in(token: str) -> Response:
    """Set marks into the pages of the folder that was read, which stay there, and make the site of their map."""
    form = StaySite.sent()
    folder = services().imports.reading(token).folder
    if folder is None or current_app.config["IS_OPEN"]:
        raise InvalidForm("These pages are in no folder of this machine. Download them with their marks.")
    found = services().imports.stay(token, frozenset(form.left.data)).wait(_PATIENCE)
    if found is None:
        raise InvalidForm("What changes is still being worked out. Try again in a moment.")
    if found.compiled.stops:
        raise InvalidForm("The map has errors, so nothing was written.")
    try:
        record = services().inlays.take_in(found, folder, form.name.data or found.site.name or "Existing site")
    except UsageError as error:
        raise InvalidForm(str(error)) from error
    services().imports.stop(token)
    return redirect(url_for("output.existing", slug=record.slug), 303)


def _base(text: str) -> Base | None:
    if not text:
        return None
    base, reason = parse_base(text)
    if base is None:
        raise InvalidForm(f"Where the site lives: the address {reason}. Write it as https://host or https://host/path.")
    return base


def _uploaded(form: ExistingSite) -> tuple[File, ...]:
    if not form.archive.data:
        raise InvalidForm("Choose a ZIP archive of the site.")
    return read_archive(form.archive.data.read())


def _of_folder(form: ExistingSite) -> tuple[File, ...]:
    if current_app.config["IS_OPEN"]:
        raise InvalidForm("Folders can be named by the person at this machine alone. Upload an archive.")
    if not form.folder.data:
        raise InvalidForm("Name the folder of the site.")
    path = Path(form.folder.data).expanduser()
    if not path.is_dir():
        raise InvalidForm(f"There is no folder {path} on this machine.")
    must_be_opened(path, current_app.config["DATA"])
    return read_site(path)


def _demo(form: ExistingSite) -> tuple[File, ...]:
    return read_site(HAND_MADE)
